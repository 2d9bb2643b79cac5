export const mean = (numbers: readonly number[]): number | null =>
  numbers.length === 0 ? null : numbers.reduce((a, b) => a + b, 0) / numbers.length;

/** Quantile by linear interpolation between order statistics (Hyndman and Fan, 1996, type 7). Null for none. */
export function quantile(numbers: readonly number[], q: number): number | null {
  if (numbers.length === 0) return null;
  const all = new Float64Array(numbers);
  const place = (all.length - 1) * q;
  const below = Math.floor(place);
  const low = selected(all, below);
  if (place === below) return low;
  let next = Infinity;
  for (let i = below + 1; i < all.length; i++) next = Math.min(next, all[i] as number);
  return low + (next - low) * (place - below);
}

/**
 * The number that would stand at a place if all were in order (Hoare's selection, "Algorithm 65: Find", Communications of
 * the ACM 4, 1961). What is smaller stands before it afterwards, what is larger after it: a year of waits is not sorted.
 */
function selected(all: Float64Array, place: number): number {
  let [first, last] = [0, all.length - 1];
  while (first < last) {
    const pivot = all[(first + last) >>> 1] as number;
    let [low, high] = [first, last];
    while (low <= high) {
      while ((all[low] as number) < pivot) low++;
      while ((all[high] as number) > pivot) high--;
      if (low > high) break;
      const kept = all[low] as number;
      all[low] = all[high] as number;
      all[high] = kept;
      low++;
      high--;
    }
    if (place <= high) last = high;
    else if (place >= low) first = low;
    else break;
  }
  return all[place] as number;
}

/** The same of numbers that are in order already. */
export function quantileSorted(sorted: ArrayLike<number>, q: number): number | null {
  if (sorted.length === 0) return null;
  const place = (sorted.length - 1) * q;
  const below = Math.floor(place);
  const low = sorted[below] ?? 0;
  return low + ((sorted[below + 1] ?? low) - low) * (place - below);
}
