import type { Sparse } from './features';
import type { Products } from './encoder/product';

/** A phrase as numbers: what it means by the encoder (of length 1, or nothing), and its words and pieces. */
export type Vectored = { readonly dense: Float32Array; readonly sparse: Sparse };

/** How like each of some phrases another is: the product of what they mean, of their words and of their pieces. */
export type Likeness = (x: Vectored) => Float64Array;

type Shared = { readonly i: number; readonly weight: number };
function sharedBy(phrases: readonly Vectored[]): ReadonlyMap<number, readonly Shared[]> {
  const sharing = new Map<number, Shared[]>();
  phrases.forEach(({ sparse }, i) =>
    sparse.at.forEach((feature, k) => {
      const one = { i, weight: sparse.weight[k] ?? 0 };
      const there = sharing.get(feature);
      if (there) there.push(one);
      else sharing.set(feature, [one]);
    }),
  );
  return sharing;
}

/** Prepares phrases for being compared with. */
export function likenessTo(phrases: readonly Vectored[], products: Products): Likeness {
  const sharing = sharedBy(phrases);
  const size = phrases[0]?.dense.length ?? 0;
  const table = products.keep(tableOf(phrases, size, phrases.length), Math.max(4, size));
  return ({ dense, sparse }) => {
    const like = dense.length > 0 ? Float64Array.from(products.alike(dense, table)) : new Float64Array(phrases.length);
    sparse.at.forEach((feature, k) => {
      const weight = sparse.weight[k] ?? 0;
      for (const other of sharing.get(feature) ?? []) like[other.i] = (like[other.i] ?? 0) + weight * other.weight;
    });
    return like;
  };
}

/** What phrases mean, one row each, in a table of so many rows. */
export function tableOf(phrases: readonly Vectored[], size: number, rows: number): Float32Array {
  const table = new Float32Array(rows * size);
  phrases.forEach(({ dense }, i) => table.set(dense, i * size));
  return table;
}

/** How many rows and columns are done at a time, of likenesses and of what is solved with them. */
export const BLOCK = 32;
export const inBlocks = (n: number): number => Math.ceil(n / BLOCK) * BLOCK;

/**
 * How like all phrases are to each other: a table of `inBlocks(phrases.length)` rows and columns, of which the lower
 * half is filled.
 */
export function likenesses(phrases: readonly Vectored[], products: Products): Float32Array {
  const width = inBlocks(phrases.length);
  const like = new Float32Array(width * width);
  const size = phrases[0]?.dense.length ?? 0;
  if (size > 0) {
    const table = tableOf(phrases, size, width);
    for (let from = 0; from < width; from += BLOCK) {
      const turned = new Float32Array(size * BLOCK);
      for (let c = 0; c < BLOCK; c++)
        for (let k = 0; k < size; k++) turned[k * BLOCK + c] = table[(from + c) * size + k] ?? 0;
      const rows = width - from;
      const block = products.product(table.subarray(from * size), rows, turned, BLOCK);
      for (let r = 0; r < rows; r++) like.set(block.subarray(r * BLOCK, (r + 1) * BLOCK), (from + r) * width + from);
    }
  }
  for (const sharing of sharedBy(phrases).values())
    for (let a = 0; a < sharing.length; a++) {
      const one = sharing[a];
      if (!one) continue;
      const row = one.i * width;
      for (let b = 0; b <= a; b++) {
        const other = sharing[b];
        if (other) like[row + other.i] = (like[row + other.i] ?? 0) + one.weight * other.weight;
      }
    }
  return like;
}
