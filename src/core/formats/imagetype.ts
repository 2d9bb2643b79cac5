/**
 * What kind of picture some bytes are, by how they begin (PNG, JPEG, GIF and WebP specifications); null for anything
 * else. What a file calls itself is never believed: a drawing in SVG or a page could carry a script.
 *
 * @example imageType(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0)) // 'image/jpeg'
 */
export function imageType(bytes: Uint8Array): 'image/png' | 'image/jpeg' | 'image/gif' | 'image/webp' | null {
  const begins = (at: number, ...wanted: readonly number[]): boolean => wanted.every((b, i) => bytes[at + i] === b);
  const word = (at: number, text: string): boolean => begins(at, ...[...text].map((c) => c.charCodeAt(0)));
  if (begins(0, 0x89) && word(1, 'PNG\r\n\x1a\n')) return 'image/png';
  if (begins(0, 0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (word(0, 'GIF87a') || word(0, 'GIF89a')) return 'image/gif';
  return word(0, 'RIFF') && word(8, 'WEBP') ? 'image/webp' : null;
}
