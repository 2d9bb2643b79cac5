export const mean = (numbers: readonly number[]): number | null =>
  numbers.length === 0 ? null : numbers.reduce((a, b) => a + b, 0) / numbers.length;

/** Quantile by linear interpolation between order statistics (Hyndman and Fan, 1996, type 7). Null for none. */
export function quantile(numbers: readonly number[], q: number): number | null {
  if (numbers.length === 0) return null;
  return quantileSorted(
    [...numbers].sort((a, b) => a - b),
    q,
  );
}

/** The same of numbers that are in order already. */
export function quantileSorted(sorted: ArrayLike<number>, q: number): number | null {
  if (sorted.length === 0) return null;
  const place = (sorted.length - 1) * q;
  const below = Math.floor(place);
  const low = sorted[below] ?? 0;
  return low + ((sorted[below + 1] ?? low) - low) * (place - below);
}
