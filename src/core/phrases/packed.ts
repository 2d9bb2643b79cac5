import type { Phrasebook } from './book';
import type { Learnt } from './model';

/** What was learnt, as text that can be kept: numbers as little-endian 32-bit floats in base64. */
type Packed = {
  readonly book: Phrasebook;
  readonly features: readonly string[];
  readonly stems: readonly string[];
  readonly rarity: string;
  readonly weights: string;
  readonly bias: string;
  readonly classes: number;
  readonly calibration: readonly number[];
};

function packed(numbers: Float32Array): string {
  let text = '';
  const bytes = new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength);
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
const unpacked = (text: string): Float32Array =>
  new Float32Array(Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer);

export const keepLearnt = (l: Learnt): string =>
  JSON.stringify({
    book: l.book,
    features: [...l.features.keys()],
    stems: [...l.stems],
    rarity: packed(l.rarity),
    weights: packed(l.linear.weights),
    bias: packed(l.linear.bias),
    classes: l.linear.classes,
    calibration: l.calibration,
  } satisfies Packed);

/** Reads back what `keepLearnt` wrote. */
export function learntFrom(text: string): Learnt {
  const k = JSON.parse(text) as Packed;
  return {
    book: k.book,
    features: new Map(k.features.map((name, i) => [name, i])),
    stems: new Set(k.stems),
    rarity: unpacked(k.rarity),
    calibration: k.calibration,
    linear: { classes: k.classes, features: k.features.length, weights: unpacked(k.weights), bias: unpacked(k.bias) },
  };
}
