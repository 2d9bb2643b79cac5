/**
 * SMS segments. GSM 03.38 (3GPP TS 23.038): 160 septets in one segment, 153 in each of several; characters of the
 * extension table count two. Text outside the alphabet goes as UCS-2: 70 characters in one, 67 in each of several.
 */
const BASIC = new Set(
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà',
);
const EXTENSION = new Set('\f^{}\\[~]|€');

export type Segments = {
  readonly alphabet: 'GSM' | 'UCS-2';
  /** Septets or UTF-16 units used. */ readonly units: number;
  readonly segments: number;
};

/**
 * How many segments a text takes. A character that takes two units is not cut in two, so that a segment may stay one
 * short.
 *
 * @example smsSegments('a'.repeat(161)).segments // 2
 */
export function smsSegments(text: string): Segments {
  const characters = [...text];
  const gsm = characters.every((c) => BASIC.has(c) || EXTENSION.has(c));
  const size = (c: string): number => (gsm ? (EXTENSION.has(c) ? 2 : 1) : c.length);
  const units = characters.reduce((sum, c) => sum + size(c), 0);
  const [one, many] = gsm ? [160, 153] : [70, 67];
  if (units === 0) return { alphabet: 'GSM', units: 0, segments: 0 };
  if (units <= one) return { alphabet: gsm ? 'GSM' : 'UCS-2', units, segments: 1 };
  let segments = 1;
  let used = 0;
  for (const c of characters) {
    if (used + size(c) > many) {
      segments++;
      used = 0;
    }
    used += size(c);
  }
  return { alphabet: gsm ? 'GSM' : 'UCS-2', units, segments };
}
