import type { Encoder } from './encoder/encoder';

/** A vector in a byte a number: at most 0.4% of its largest number off, an eighth of the room. */
export type Small = { readonly numbers: Int8Array; readonly scale: number };
/** Vectors by the text that the encoder read. */
export type Vectors = ReadonlyMap<string, Small>;

export function small(vector: Float32Array): Small {
  let most = 0;
  for (const x of vector) most = Math.max(most, Math.abs(x));
  const scale = most === 0 ? 1 : most / 127;
  return { numbers: Int8Array.from(vector, (x) => Math.round(x / scale)), scale };
}

/** How many texts are encoded between two words of how far it is. */
const AT_ONCE = 32;

/** The vector of each text once: those known already, and the others by the encoder; `told` hears the share done. */
export function vectorsOf(
  texts: readonly string[],
  known: Vectors,
  encoder: Encoder,
  told: (done: number) => void = () => undefined,
): Vectors {
  const all = new Map<string, Small>();
  const fresh: string[] = [];
  for (const text of new Set(texts)) {
    const there = known.get(text);
    if (there) all.set(text, there);
    else fresh.push(text);
  }
  // Texts of about one length go through the encoder together.
  fresh.sort((a, b) => a.length - b.length || (a < b ? -1 : 1));
  for (let from = 0; from < fresh.length; from += AT_ONCE) {
    const part = fresh.slice(from, from + AT_ONCE);
    encoder.encode(part).forEach((vector, i) => all.set(part[i] ?? '', small(vector)));
    told(Math.min(1, (from + part.length) / fresh.length));
  }
  return all;
}

/** Where vectors of a kind of business lie: the mean of each number, and how far it strays from it. */
export type Standard = { readonly mean: Float32Array; readonly spread: Float32Array };

export function standardOf(vectors: readonly Small[], size: number): Standard {
  const mean = new Float32Array(size);
  const spread = new Float32Array(size);
  for (const { numbers, scale } of vectors)
    for (let i = 0; i < size; i++) mean[i] = (mean[i] ?? 0) + ((numbers[i] ?? 0) * scale) / vectors.length;
  for (const { numbers, scale } of vectors)
    for (let i = 0; i < size; i++)
      spread[i] = (spread[i] ?? 0) + ((numbers[i] ?? 0) * scale - (mean[i] ?? 0)) ** 2 / vectors.length;
  for (let i = 0; i < size; i++) spread[i] = Math.sqrt(spread[i] ?? 0) + 1e-6;
  return { mean, spread };
}

/** A vector by how it strays from what is usual, of length 1. */
export function standardised({ numbers, scale }: Small, { mean, spread }: Standard): Float32Array {
  const out = new Float32Array(mean.length);
  let square = 0;
  for (let i = 0; i < out.length; i++) {
    const x = ((numbers[i] ?? 0) * scale - (mean[i] ?? 0)) / (spread[i] ?? 1);
    out[i] = x;
    square += x * x;
  }
  const by = square === 0 ? 0 : 1 / Math.sqrt(square);
  for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) * by;
  return out;
}
