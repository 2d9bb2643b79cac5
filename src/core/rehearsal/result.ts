import type { Channel } from '../channels';
import { quantileSorted } from '../measures/quantile';
import type { RunFigures } from './record';
import type { Scenario } from './scenario';

/**
 * A figure over runs: its mean, and the 95% confidence interval of that mean; the interval is null with one run only,
 * all are null without data.
 */
export type Estimate = {
  readonly mean: number | null;
  readonly low: number | null;
  readonly high: number | null;
  readonly standardError: number | null;
};
export type LaneResult = {
  readonly queue: string;
  readonly channel: Channel;
  readonly offered: Estimate;
  readonly handled: Estimate;
  readonly gaveUp: Estimate;
  readonly otherwise: Estimate;
  readonly gaveUpShare: Estimate;
  readonly waitedShare: Estimate;
  readonly speedOfAnswer: { readonly mean: Estimate; readonly median: Estimate; readonly percentile90: Estimate };
  readonly serviceLevel: Estimate;
};
export type PersonResult = {
  readonly id: string;
  readonly pool: string;
  readonly handled: Estimate;
  readonly occupancy: Estimate;
  readonly loadUsed: Estimate;
};
export type RehearsalResult = {
  readonly format: 'usher-lane/rehearsal-result';
  readonly version: 1;
  readonly name: string;
  readonly seed: number;
  readonly runs: number;
  readonly queues: readonly LaneResult[];
  readonly pools: readonly Omit<PersonResult, 'pool'>[];
  readonly people: readonly PersonResult[];
};

/**
 * The 97.5% point of Student's t with n degrees of freedom, by the expansion of Hill ("Algorithm 396: Student's
 * t-quantiles", Communications of the ACM 13, 1970); exact for 1 and 2.
 */
export function studentT975(n: number): number {
  if (n === 1) return 12.706204736;
  if (n === 2) return 4.3026527297;
  const p = 0.05;
  const a = 1 / (n - 0.5);
  const b = 48 / (a * a);
  let c = ((20700 * a) / b - 98) * a - 16 + 96.36;
  const d = ((94.5 / (b + c) - 3) / b + 1) * Math.sqrt((a * Math.PI) / 2) * n;
  let y = Math.pow(d * p, 2 / n);
  if (y > 0.05 + a) {
    const x = -1.959963984540054;
    y = x * x;
    if (n < 5) c += 0.3 * (n - 4.5) * (x + 0.6);
    c = (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b + c;
    y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
    y = a * y * y;
    y = y > 0.002 ? Math.expm1(y) : 0.5 * y * y + y;
  } else
    y =
      ((1 / (((n + 6) / (n * y) - 0.089 * d - 0.822) * (n + 2) * 3) + 0.5 / (n + 4)) * y - 1) * ((n + 1) / (n + 2)) +
      1 / y;
  return Math.sqrt(n * y);
}

/** Mean and interval over runs; runs without the figure are left out. */
export function estimate(values: readonly (number | null)[]): Estimate {
  const known = values.filter((v): v is number => v !== null);
  const n = known.length;
  if (n === 0) return { mean: null, low: null, high: null, standardError: null };
  const mean = known.reduce((s, v) => s + v, 0) / n;
  if (n === 1) return { mean, low: null, high: null, standardError: null };
  const standardError = Math.sqrt(known.reduce((s, v) => s + (v - mean) ** 2, 0) / (n - 1) / n);
  const half = studentT975(n - 1) * standardError;
  return { mean, low: mean - half, high: mean + half, standardError };
}

const share = (part: number, whole: number): number | null => (whole > 0 ? part / whole : null);

/** Puts the runs of a scenario together. */
export function summarise(scenario: Scenario, runs: readonly RunFigures[]): RehearsalResult {
  const lanes = new Map(
    runs.flatMap((r) =>
      r.lanes.map((l) => [`${l.queue}|${l.channel}`, { queue: l.queue, channel: l.channel }] as const),
    ),
  );
  const people = runs[0]?.people ?? [];
  const person = (pick: (p: RunFigures['people'][number]) => boolean): Omit<PersonResult, 'pool' | 'id'> => {
    const per = runs.map((r) =>
      r.people.filter(pick).reduce(
        (sum, p) => ({
          handled: sum.handled + p.handled,
          onDuty: sum.onDuty + p.onDuty,
          busy: sum.busy + p.busy,
          load: sum.load + p.load,
        }),
        { handled: 0, onDuty: 0, busy: 0, load: 0 },
      ),
    );
    return {
      handled: estimate(per.map((p) => p.handled)),
      occupancy: estimate(per.map((p) => share(p.busy, p.onDuty))),
      loadUsed: estimate(per.map((p) => share(p.load, p.onDuty))),
    };
  };
  return {
    format: 'usher-lane/rehearsal-result',
    version: 1,
    name: scenario.name,
    seed: scenario.seed,
    runs: runs.length,
    queues: [...lanes.values()]
      .sort((a, b) => (a.queue + a.channel < b.queue + b.channel ? -1 : 1))
      .map(({ queue, channel }) => {
        const per = runs.map((r) => r.lanes.find((l) => l.queue === queue && l.channel === channel));
        const each = (of: (lane: RunFigures['lanes'][number]) => number | null) =>
          estimate(per.map((l) => (l ? of(l) : null)));
        return {
          queue,
          channel,
          offered: each((l) => l.offered),
          handled: each((l) => l.handled),
          gaveUp: each((l) => l.gaveUp),
          otherwise: each((l) => l.otherwise),
          gaveUpShare: each((l) => share(l.gaveUp, l.handled + l.gaveUp)),
          waitedShare: each((l) => share(l.waited, l.handled + l.gaveUp)),
          speedOfAnswer: {
            mean: each((l) =>
              share(
                l.waits.reduce((s, w) => s + w, 0),
                l.waits.length,
              ),
            ),
            median: each((l) => quantileSorted(l.waits, 0.5)),
            percentile90: each((l) => quantileSorted(l.waits, 0.9)),
          },
          serviceLevel: each((l) => share(l.inGoal, l.handled + l.gaveUp - l.shortGiveUps)),
        };
      }),
    pools: [...new Set(people.map((p) => p.pool))].map((pool) => ({ id: pool, ...person((p) => p.pool === pool) })),
    people: people.map(({ id, pool }) => ({ id, pool, ...person((p) => p.id === id) })),
  };
}
