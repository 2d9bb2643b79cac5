/** How a raw result becomes a confidence: the logistic of a weighted sum of what speaks for it. */
export type Calibration = readonly number[];

/** How many of the nearest phrases say how like anything of ours something is. */
const NEAREST = 3;
/** How much nobody's score, and likeness to the nearest phrases, say about whether a phrase is anybody's. */
const OURS = { none: 0.4, near: 0.4 };

/** The first two of some scores, and what speaks for the first. */
export function evidence(z: Float64Array, near: number, known: number) {
  const none = z.length - 1;
  let [first, second] = [-1, -1];
  for (let c = 0; c < none; c++) {
    if (first < 0 || (z[c] ?? 0) > (z[first] ?? 0)) {
      second = first;
      first = c;
    } else if (second < 0 || (z[c] ?? 0) > (z[second] ?? 0)) second = c;
  }
  const top = z[first] ?? 0;
  const nobody = z[none] ?? 0;
  return {
    first,
    second,
    ours: top - OURS.none * nobody + OURS.near * near,
    signs: [1, top, top - (z[second] ?? 0), nobody, near / NEAREST, known],
  };
}

/** Until enough phrases have been judged to say better. */
const PLAIN_CALIBRATION: Calibration = [-1, 2, 4, -1, 0.5, 0.5];
const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
/** How likely it is right, from 0 to 1. */
export const confidenceOf = (calibration: Calibration, signs: readonly number[]): number =>
  logistic(signs.reduce((sum, s, i) => sum + s * (calibration[i] ?? 0), 0));

/**
 * Fits the calibration by logistic regression (Platt, 1999) on results for phrases that were not learnt from. What is
 * nobody's counts no more than all phrases together: there is any amount of it.
 */
export function calibrate(
  results: readonly { readonly signs: readonly number[]; readonly right: boolean; readonly own: boolean }[],
): Calibration {
  const own = results.filter((r) => r.own).length;
  if (own < 10) return PLAIN_CALIBRATION;
  const lightly = Math.min(1, own / Math.max(1, results.length - own));
  const all = results.reduce((sum, r) => sum + (r.own ? 1 : lightly), 0);
  const w = [...PLAIN_CALIBRATION];
  for (let round = 0; round < 600; round++) {
    const g = w.map((x, i) => (i === 0 ? 0 : 0.003 * x));
    for (const r of results) {
      const error = (confidenceOf(w, r.signs) - (r.right ? 1 : 0)) * (r.own ? 1 : lightly);
      r.signs.forEach((s, i) => (g[i] = (g[i] ?? 0) + (error * s) / all));
    }
    g.forEach((x, i) => (w[i] = (w[i] ?? 0) - 2 * x));
  }
  return w;
}

/** The share of some stems that are known, longer ones counting more. */
export function knownShare(isKnown: (stem: string) => boolean, stems: readonly string[]): number {
  let [seen, all] = [0, 0];
  for (const stem of stems) {
    const weight = Math.min(6, stem.length);
    all += weight;
    if (isKnown(stem)) seen += weight;
  }
  return all === 0 ? 0 : seen / all;
}

/** The sum of how like the nearest of some phrases are. */
export function nearestOf(like: Float32Array | Float64Array): number {
  const best = new Float64Array(NEAREST);
  for (const l of like) {
    let at = NEAREST - 1;
    if (l <= (best[at] ?? 0)) continue;
    for (; at > 0 && (best[at - 1] ?? 0) < l; at--) best[at] = best[at - 1] ?? 0;
    best[at] = l;
  }
  return best.reduce((a, b) => a + b, 0);
}
