type Floats = Float32Array | Float64Array;

/** The product of `n` numbers of each of two rows. Small on its own, so that the machine makes it fast once for all. */
export function dot(a: Floats, atA: number, b: Floats, atB: number, n: number): number {
  let [x, y] = [0, 0];
  let k = 0;
  for (; k + 1 < n; k += 2) {
    x += (a[atA + k] as number) * (b[atB + k] as number);
    y += (a[atA + k + 1] as number) * (b[atB + k + 1] as number);
  }
  return k < n ? x + y + (a[atA + k] as number) * (b[atB + k] as number) : x + y;
}

/** Adds `by` times `n` numbers of one row to those of another. */
export function addTimes(to: Floats, atTo: number, by: number, from: Floats, atFrom: number, n: number): void {
  for (let k = 0; k < n; k++) to[atTo + k] = (to[atTo + k] as number) + by * (from[atFrom + k] as number);
}
