/**
 * What one day says of one figure of one thing. `all` is how many rows it speaks of; of a share, `good` are those on its
 * side; of lengths, `sum` is their sum in ms and `spread` how many lie in each step (see `stepOf`).
 */
export type DayEvidence = {
  readonly weekday: number;
  all: number;
  good: number;
  sum: number;
  readonly spread: Uint32Array | null;
};

/** How a figure varies: a share of rows, lengths of rows, or how many rows there are. */
export type Kind = 'share' | 'lengths' | 'count';

/** A figure of one thing on the days that are asked about, those they are compared with, and days before both. */
export type Series = {
  readonly kind: Kind;
  readonly now: readonly DayEvidence[];
  readonly then: readonly DayEvidence[];
  readonly earlier: readonly DayEvidence[];
  /** What the noise of a day is taken to be before any day is looked at. */
  readonly prior: Noise;
};

/** How many times as much as chance alone a figure varies from day to day (a ratio of variances), known to `df` degrees of freedom. */
export type Noise = { readonly factor: number; readonly df: number };

/** Steps of lengths: each 8% longer than the one before, from a second to more than a day. */
const STEP = Math.log(1.08);
export const STEPS = 160;
export const stepOf = (ms: number): number =>
  ms < 1000 ? 0 : Math.min(STEPS - 1, 1 + Math.floor(Math.log(ms / 1000) / STEP));

export const emptyDay = (weekday: number, kind: Kind): DayEvidence => ({
  weekday,
  all: 0,
  good: 0,
  sum: 0,
  spread: kind === 'lengths' ? new Uint32Array(STEPS) : null,
});

/** A change beside what chance makes of it: `score` is in standard errors (positive: more now), with its degrees of freedom. */
export type Score = { readonly score: number; readonly df: number };

/**
 * How surprising the change from `then` to `now` is. Days are compared with days of the same weekday only, and what such
 * days vary by anyhow is taken out: shares by the test of Cochran (1954) and of Mantel and Haenszel (1959), lengths by
 * ranks (Wilcoxon, 1945, put together over weekdays after van Elteren, 1960), counts as over-dispersed counts. Null where
 * no weekday stands in both. `noise` is found from the days where none is given.
 */
export function scoreOf(series: Series, noise: Noise = noiseOf(series)): Score | null {
  const strata = strataOf(series);
  const [difference, variance] = [sumOf(strata, 'difference'), sumOf(strata, 'variance')];
  if (variance <= 0) return null;
  return { score: difference / Math.sqrt(variance * noise.factor), df: noise.df };
}

/** Weekdays that stand on both sides. */
function strataOf({ kind, now, then }: Pick<Series, 'kind' | 'now' | 'then'>): Stratum[] {
  return weekdaysOf(now)
    .map((weekday) => ({
      after: now.filter((d) => d.weekday === weekday),
      before: then.filter((d) => d.weekday === weekday),
    }))
    .filter(({ before }) => before.length > 0)
    .map(({ after, before }) => BETWEEN[kind](after, before))
    .filter(({ variance }) => variance > 0);
}
const sumOf = (strata: readonly Stratum[], of: keyof Stratum): number => strata.reduce((n, s) => n + s[of], 0);

const weekdaysOf = (days: readonly DayEvidence[]): number[] => [...new Set(days.map((d) => d.weekday))];
const total = (days: readonly DayEvidence[], of: 'all' | 'good'): number => days.reduce((n, d) => n + d[of], 0);

type Stratum = { readonly difference: number; readonly variance: number };
const NOTHING: Stratum = { difference: 0, variance: 0 };
type Days = readonly DayEvidence[];
/** How far the first days lie above what both together would have them, and the variance of that by chance alone. */
const BETWEEN: Readonly<Record<Kind, (now: Days, then: Days) => Stratum>> = {
  share: (now, then) => {
    const [n, m] = [total(now, 'all'), total(then, 'all')];
    const [all, good] = [n + m, total(now, 'good') + total(then, 'good')];
    if (n === 0 || m === 0) return NOTHING;
    return {
      difference: total(now, 'good') - (n * good) / all,
      variance: (n * m * good * (all - good)) / (all * all * (all - 1)),
    };
  },
  count: (now, then) => {
    const [n, m] = [total(now, 'all'), total(then, 'all')];
    const share = now.length / (now.length + then.length);
    return { difference: n - (n + m) * share, variance: (n + m) * share * (1 - share) };
  },
  lengths: (now, then) => {
    const [n, m] = [total(now, 'all'), total(then, 'all')];
    if (n === 0 || m === 0) return NOTHING;
    const all = n + m;
    const { ranks, tied } = ranksOf([...now, ...then]);
    return {
      difference: (rankSum(now, ranks) - (n * (all + 1)) / 2) / (all + 1),
      variance: ((n * m) / 12) * (1 - tied) * (1 / (all + 1)),
    };
  },
};

/** The mean rank of each step over days (from 1), and the share of the ranks' variance that ties take away. */
function ranksOf(days: Days): { readonly ranks: Float64Array; readonly tied: number } {
  const ranks = new Float64Array(STEPS);
  let [below, ties] = [0, 0];
  for (let step = 0; step < STEPS; step++) {
    let here = 0;
    for (const { spread } of days) here += spread?.[step] ?? 0;
    ranks[step] = below + (here + 1) / 2;
    below += here;
    ties += here ** 3 - here;
  }
  return { ranks, tied: below < 2 ? 0 : ties / (below ** 3 - below) };
}
const rankSum = (days: Days, ranks: Float64Array): number => {
  let sum = 0;
  for (const { spread } of days)
    for (let step = 0; step < STEPS; step++) sum += (spread?.[step] ?? 0) * (ranks[step] ?? 0);
  return sum;
};

/**
 * How much days of the same weekday vary among themselves: what is expected before, corrected by what was seen. Waits in
 * a queue are not independent of each other, and days have causes of their own; both are in it.
 */
export function noiseOf(series: Series): Noise {
  const { kind, now, then, earlier, prior } = series;
  let [found, df] = [prior.factor * prior.df, prior.df];
  for (const days of [now, [...then, ...earlier]])
    for (const weekday of weekdaysOf(days)) {
      const group = days.filter((d) => d.weekday === weekday && (kind === 'count' || d.all > 0));
      if (group.length < 2) continue;
      found += WITHIN[kind](group);
      df += group.length - 1;
    }
  // A change that is the same on all weekdays is no noise; how far it differs from weekday to weekday is (Cochran's Q, 1954).
  const strata = strataOf(series);
  if (strata.length > 1) {
    const mean = sumOf(strata, 'difference') / sumOf(strata, 'variance');
    for (const { difference, variance } of strata) found += (difference - mean * variance) ** 2 / variance;
    df += strata.length - 1;
  }
  // Less than chance alone is chance as well.
  return { factor: Math.max(1, found / df), df };
}

/** How days vary among themselves: one a degree of freedom where it is chance alone (Pearson, 1900; Kruskal and Wallis, 1952). */
const WITHIN: Readonly<Record<Kind, (days: Days) => number>> = {
  share: (days) => {
    const [all, good] = [total(days, 'all'), total(days, 'good')];
    const share = good / all;
    if (share === 0 || share === 1) return days.length - 1;
    return days.reduce((sum, d) => sum + (d.good - d.all * share) ** 2 / (d.all * share * (1 - share)), 0);
  },
  count: (days) => {
    const mean = total(days, 'all') / days.length;
    return mean === 0 ? days.length - 1 : days.reduce((sum, d) => sum + (d.all - mean) ** 2 / mean, 0);
  },
  lengths: (days) => {
    const all = total(days, 'all');
    const { ranks, tied } = ranksOf(days);
    if (tied >= 1) return days.length - 1;
    const sum = days.reduce((s, d) => s + rankSum([d], ranks) ** 2 / d.all, 0);
    return ((12 / (all * (all + 1))) * sum - 3 * (all + 1)) / (1 - tied);
  },
};
