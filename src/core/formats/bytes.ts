/** Windows-1252 from 0x80 to 0x9F; elsewhere it is as Latin-1. What it leaves open stays as it is. */
const WESTERN = '€\x81‚ƒ„…†‡ˆ‰Š‹Œ\x8dŽ\x8f\x90‘’“”•–—˜™š›œ\x9džŸ';

/** Not by TextDecoder: Node 20 reads 0x80 to 0x9F of windows-1252 as control characters. */
function western(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += 8192) parts.push(String.fromCharCode(...bytes.subarray(at, at + 8192)));
  return parts.join('').replace(/[\x80-\x9f]/g, (c) => WESTERN[c.charCodeAt(0) - 0x80] ?? c);
}

/** Calendars are folded by octets (RFC 5545 §3.1), which may cut a character in two: its octets are put together. */
function withoutCuts(bytes: Uint8Array): Uint8Array {
  const whole = new Uint8Array(bytes.length);
  const isRest = (byte: number | undefined) => byte !== undefined && byte >= 0x80 && byte < 0xc0;
  let [from, to] = [0, 0];
  while (from < bytes.length) {
    const fold = bytes[from] === 0x0d && bytes[from + 1] === 0x0a ? 3 : bytes[from] === 0x0a ? 2 : 0;
    const blank = bytes[from + fold - 1];
    if (fold > 0 && (blank === 0x20 || blank === 0x09) && isRest(bytes[from + fold])) {
      let rest = from + fold;
      while (isRest(bytes[rest])) whole[to++] = bytes[rest++] as number;
      for (let i = from; i < from + fold; i++) whole[to++] = bytes[i] as number;
      from = rest;
    } else whole[to++] = bytes[from++] as number;
  }
  return whole;
}

/**
 * The bytes of a file as text: UTF-16 where its mark says so, else UTF-8 with or without a mark, also where it is folded
 * within a character; what is none of these is taken as Windows-1252.
 */
export function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  for (const octets of [() => bytes, () => withoutCuts(bytes)])
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(octets());
    } catch {
      // Read another way.
    }
  return western(bytes);
}
