/**
 * Whether two words differ by at most one letter left out, put in, changed or swapped (restricted edit distance,
 * Damerau 1964).
 */
export function oneSlip(a: string, b: string): boolean {
  if (a === b) return true;
  if (Math.abs(a.length - b.length) > 1) return false;
  let i = 0;
  while (i < a.length && i < b.length && a[i] === b[i]) i++;
  let [x, y] = [a.length - 1, b.length - 1];
  while (x >= i && y >= i && a[x] === b[y]) {
    x--;
    y--;
  }
  const [left, right] = [x - i + 1, y - i + 1];
  return (left <= 1 && right <= 1) || (left === 2 && right === 2 && a[i] === b[i + 1] && a[i + 1] === b[i]);
}
