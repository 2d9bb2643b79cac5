/**
 * What kind of sound some bytes are, by how they begin: WAVE (RIFF), MP3 (an ID3 tag, or a frame of MPEG layer III) or
 * Ogg; null for anything else. What a file calls itself is never believed.
 *
 * @example soundType(Uint8Array.of(0x4f, 0x67, 0x67, 0x53)) // 'audio/ogg'
 */
export function soundType(bytes: Uint8Array): 'audio/wav' | 'audio/mpeg' | 'audio/ogg' | null {
  const word = (at: number, text: string): boolean => [...text].every((c, i) => bytes[at + i] === c.charCodeAt(0));
  if (word(0, 'RIFF') && word(8, 'WAVE')) return 'audio/wav';
  if (word(0, 'OggS')) return 'audio/ogg';
  // Eleven set bits, then a version that is not reserved and layer III.
  const frame = bytes[0] === 0xff && ((bytes[1] ?? 0) & 0xe6) === 0xe2 && ((bytes[1] ?? 0) & 0x18) !== 0x08;
  return word(0, 'ID3') || frame ? 'audio/mpeg' : null;
}
