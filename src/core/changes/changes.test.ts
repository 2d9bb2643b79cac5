import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rehearsedDays } from '../../../tests/helpers/rehearseddays';
import { arrivalsOf, poolOf, queueOf, scenarioOf } from '../../../tests/helpers/scenarios';
import { sized } from '../../../tests/helpers/size';
import { stream } from '../chance';
import { columnsOf, type FactDay, partOf } from '../measures/columns';
import { factDay } from '../measures/rollups';
import { FACT_KEYS, type FactRow } from '../measures/factparts';
import type { Duration, Scenario } from '../rehearsal/scenario';
import { type Change, changesBetween } from './changes';
import { chanceOf, discoveries } from './discoveries';
import { emptyDay, type Kind, noiseOf, scoreOf, type Series, stepOf } from './evidence';
import { standingOut } from './standing';

const DAY = 86_400;

describe('how surprising a change is', () => {
  const day = fc.record({
    weekday: fc.integer({ min: 1, max: 7 }),
    good: fc.integer({ min: 0, max: 40 }),
    bad: fc.integer({ min: 0, max: 40 }),
    lengths: fc.array(fc.integer({ min: 0, max: 2_000_000 }), { maxLength: 30 }),
  });
  const dayOf = (kind: Kind, of: { weekday: number; good: number; bad: number; lengths: number[] }) => {
    const made = emptyDay(of.weekday, kind);
    if (kind === 'lengths') {
      made.all = of.lengths.length;
      for (const ms of of.lengths) {
        made.sum += ms;
        if (made.spread) made.spread[stepOf(ms)] = (made.spread[stepOf(ms)] ?? 0) + 1;
      }
    } else {
      made.all = of.good + of.bad;
      made.good = of.good;
    }
    return made;
  };
  const series = (kind: Kind) =>
    fc.record({ now: fc.array(day), then: fc.array(day), earlier: fc.array(day) }).map((days): Series => ({
      kind,
      now: days.now.map((d) => dayOf(kind, d)),
      then: days.then.map((d) => dayOf(kind, d)),
      earlier: days.earlier.map((d) => dayOf(kind, d)),
      prior: { factor: 2, df: 10 },
    }));
  it.each(['share', 'lengths', 'count'] as const)(
    '%s: is none of a range against itself, and turns with the ranges',
    (kind) => {
      fc.assert(
        fc.property(series(kind), (one) => {
          const forth = scoreOf(one);
          if (forth) expect(Number.isFinite(forth.score)).toBe(true);
          expect(noiseOf(one).factor).toBeGreaterThanOrEqual(1);
          expect(Math.abs(scoreOf({ ...one, then: one.now })?.score ?? 0)).toBeLessThan(1e-6);
          const back = scoreOf({ ...one, now: one.then, then: one.now, earlier: [] });
          const plain = scoreOf({ ...one, earlier: [] });
          expect(Math.sign(Math.round((back?.score ?? 0) * 1e6))).toBe(
            -Math.sign(Math.round((plain?.score ?? 0) * 1e6)) + 0,
          );
        }),
        { numRuns: 100 },
      );
    },
  );
  it('of two shares is the test of two proportions, and of ranks that of Wilcoxon', () => {
    const share = (good: number, all: number) => ({ ...emptyDay(1, 'share'), good, all });
    const prior = { factor: 1, df: 1e6 };
    const shares = scoreOf({ kind: 'share', now: [share(45, 100)], then: [share(30, 100)], earlier: [], prior });
    // (45 − 37.5) ÷ √(100·100·75·125 ÷ (200²·199))
    expect(shares?.score).toBeCloseTo(7.5 / Math.sqrt((1e4 * 75 * 125) / (4e4 * 199)), 9);
    const lengths = (all: readonly number[]) => dayOf('lengths', { weekday: 1, good: 0, bad: 0, lengths: [...all] });
    // 1 4 | 9 16 s: ranks 1 2 | 3 4; W = 7, mean 5, variance 2·2·5 ÷ 12.
    const ranks = scoreOf({
      kind: 'lengths',
      now: [lengths([9e3, 16e3])],
      then: [lengths([1e3, 4e3])],
      earlier: [],
      prior,
    });
    expect(ranks?.score).toBeCloseTo(2 / Math.sqrt(20 / 12), 6);
  });
  it('counts days of one weekday only against each other', () => {
    const on = (weekday: number, all: number) => ({ ...emptyDay(weekday, 'count'), all });
    const prior = { factor: 1, df: 10 };
    expect(scoreOf({ kind: 'count', now: [on(1, 100)], then: [on(2, 10)], earlier: [], prior })).toBeNull();
    // A quiet Sunday against a quiet Sunday beside a Monday that is not compared.
    expect(scoreOf({ kind: 'count', now: [on(7, 20), on(1, 500)], then: [on(7, 20)], earlier: [], prior })?.score).toBe(
      0,
    );
  });
  it('is less where such days vary anyhow', () => {
    const share = (good: number) => ({ ...emptyDay(1, 'share'), good, all: 100 });
    const change = { kind: 'share', now: [share(60)], then: [share(80)], prior: { factor: 1, df: 2 } } as const;
    const calm = scoreOf({ ...change, earlier: [80, 79, 81, 80].map(share) });
    const wild = scoreOf({ ...change, earlier: [60, 95, 70, 90].map(share) });
    expect(Math.abs(wild?.score ?? 0)).toBeLessThan(Math.abs(calm?.score ?? 0) / 1.5);
  });
});

describe('what may be told', () => {
  it('is by Benjamini and Hochberg where all questions weigh alike', () => {
    // Their own example (1995, §3.2): fifteen tests at 5%, of which the first four are told.
    const chances = [
      0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528, 0.759, 1,
    ];
    const told = discoveries(
      chances.map((chance) => ({ chance, family: 'one' })),
      { one: 1 },
      0.05,
    );
    expect(told.map((q) => q.chance)).toEqual(chances.slice(0, 4));
  });
  it('a family of many does not drown out one of few', () => {
    const many = Array.from({ length: 500 }, () => ({ chance: 0.5, family: 'many' }));
    const one = { chance: 0.01, family: 'few' };
    expect(discoveries([...many, one], { many: 1, few: 1 }, 0.05)).toEqual([one]);
    expect(discoveries([...many, { ...one, family: 'many' }], { many: 1, few: 1 }, 0.05)).toEqual([]);
  });
  it('takes chances from Student’s t', () => {
    expect(chanceOf({ score: 2.228138852, df: 10 })).toBeCloseTo(0.05, 8);
    expect(chanceOf({ score: -2.228138852, df: 10 })).toBeCloseTo(0.05, 8);
  });
});

// Weeks from the product's own rehearsal: three queues, four pools, quiet and busy hours, people with different days.
const HOURS = [6, 8, 14, 12, 9, 10, 11, 8, 5];
const WEEK = [1.3, 1.1, 1, 1, 1.1, 0.6, 0.2];
const rates = (days: number, scale: number) =>
  Array.from({ length: days }, (_, d) =>
    HOURS.map((rate, h) => ({
      fromSeconds: d * DAY + (9 + h) * 3600,
      toSeconds: d * DAY + (10 + h) * 3600,
      perHour: rate * scale * (WEEK[d % 7] ?? 1),
    })),
  ).flat();
const shifts = (days: number) =>
  Array.from({ length: days }, (_, d) => ({ fromSeconds: d * DAY + 8.9 * 3600, toSeconds: d * DAY + 18.5 * 3600 }));
const handling = (mean: number): Duration => ({ kind: 'log-normal', mean, variation: 0.6 });
const PATIENCE: Duration = { kind: 'exponential', mean: 300 };

/** Weeks in which `b` has some 700 contacts, so many people, and so long a handle time. */
const weeks = (n: number, seed: number, { people = 4, seconds = 485, others = 4 } = {}): Scenario =>
  scenarioOf({
    seed,
    runs: 1,
    warmUpSeconds: 0,
    lengthSeconds: n * 7 * DAY,
    queues: ['a', 'b', 'c'].map((q) => queueOf(q)),
    pools: [
      poolOf('pa', 5, ['a'], { shifts: shifts(n * 7) }),
      poolOf('pb', people, ['b'], { shifts: shifts(n * 7) }),
      poolOf('pc', others, ['c', 'a'], { shifts: shifts(n * 7) }),
    ],
    arrivals: (
      [
        ['a', 3, 400],
        ['b', 1.37, seconds],
        ['c', 2, 400],
      ] as const
    ).map(([queue, scale, mean]) =>
      arrivalsOf(0, handling(mean), { queue, rates: rates(n * 7, scale), patience: PATIENCE }),
    ),
  });
const split = (days: readonly FactDay[], after: readonly FactDay[]) => ({
  earlier: days.slice(0, -7),
  then: days.slice(-7),
  now: after,
});
const PAIRS = sized({ quick: 4, usual: 8, long: 200 });
const PLANTED = sized({ quick: 3, usual: 4, long: 60 });
/** At least nine of ten; of few, one may be missed by chance. */
const NINE_OF_TEN = Math.min(Math.ceil(PLANTED * 0.9), PLANTED - 1);

describe('sound', () => {
  it.each([
    { earlier: 0, others: 4 },
    { earlier: 3, others: 3 },
  ])(
    'of pairs of weeks in which nothing changed, with $earlier before them, hardly any shows a sentence',
    { timeout: 900_000 },
    ({ earlier, others }) => {
      let told = 0;
      for (let i = 0; i < PAIRS; i++) {
        const days = rehearsedDays(weeks(2 + earlier, 77_000 + i, { others }), i);
        if (changesBetween(split(days.slice(0, -7), days.slice(-7)), {}).length > 0) told++;
      }
      // 18 of 200 are allowed for; of fewer, as many more as chance has it.
      expect(told).toBeLessThanOrEqual(sized({ quick: 1, usual: 2, long: 18 }));
    },
  );

  const tells = (plant: Parameters<typeof weeks>[2], told: (change: Change) => boolean): number => {
    let found = 0;
    for (let i = 0; i < PLANTED; i++) {
      const before = rehearsedDays(weeks(3, 5000 + i), i);
      const after = rehearsedDays(weeks(1, 9000 + i, plant), i);
      if (changesBetween(split(before, after), {}).some((c) => c.of === 'queue' && c.id === 'b' && told(c))) found++;
    }
    return found;
  };
  it('a service level that fell by 15 points on 700 contacts is told', { timeout: 600_000 }, () => {
    const found = tells(
      { people: 3, seconds: 500 },
      (c) => ['service-level', 'speed'].includes(c.measure) && c.count < 800,
    );
    expect(found).toBeGreaterThanOrEqual(NINE_OF_TEN);
  });
  it('handle times longer by a quarter on 300 contacts are told', () => {
    let found = 0;
    for (let i = 0; i < PLANTED; i++) {
      const chance = stream(31, i);
      const week = (mean: number) => madeDays('legs', 43, () => ({ handled: 1000 * chance.lognormal(mean, 0.6) }));
      const told = changesBetween({ earlier: [], then: week(400), now: week(500) }, {});
      if (told.some((c) => c.measure === 'handle-time')) found++;
    }
    expect(found).toBeGreaterThanOrEqual(NINE_OF_TEN);
  });
  it('a line of a bot that loses 11% of 900 where it lost 5% is told', () => {
    let found = 0;
    for (let i = 0; i < PLANTED; i++) {
      const chance = stream(37, i);
      const week = (share: number) => madeDays('lines', 129, () => ({ left: chance.next() < share }));
      const told = changesBetween({ earlier: [], then: week(0.05), now: week(0.11) }, {});
      if (told.some((c) => c.measure === 'left-at-line' && c.id === 'b1 l1')) found++;
    }
    expect(found).toBeGreaterThanOrEqual(NINE_OF_TEN);
  });
});

/** A week of rows of one part, so many a day. */
function madeDays(part: 'legs' | 'lines', perDay: number, row: () => { handled?: number; left?: boolean }): FactDay[] {
  const none = Object.fromEntries(FACT_KEYS.map((key) => [key, []])) as unknown as FactRow['keys'];
  const keys = { ...none, queue: ['b'], person: ['p'], bot: ['b1'], line: ['b1 l1'] };
  return Array.from({ length: 7 }, (_, d) => {
    const span = { from: d * DAY * 1000, to: (d + 1) * DAY * 1000, weekday: d + 1, hours: [] };
    const rows = Array.from({ length: perDay }, (_, no) => ({ no, at: span.from, keys, ...row() }));
    const legs = rows.map((r): FactRow<'legs'> => ({
      ...r,
      how: 'kept',
      lengths: {
        handled: r.handled ?? 0,
        wrapped: 0,
        waited: null,
        goal: null,
        asked: null,
        replied: null,
        held: null,
        fronted: null,
      },
    }));
    const lines = rows.map((r): FactRow<'lines'> => ({
      ...r,
      how: r.left ? 'left' : 'passed',
      lengths: { heard: 1, missed: 0 },
    }));
    return factDay(span, (name) =>
      name === part
        ? part === 'legs'
          ? partOf(columnsOf('legs', legs, span.from), span)
          : partOf(columnsOf('lines', lines, span.from), span)
        : partOf(columnsOf(name, [], span.from), span),
    );
  });
}

describe('what stands out', () => {
  const GOAL = () => 0.8;
  it('is nothing where people fit what comes, and the hours in which they do not', { timeout: 120_000 }, () => {
    const fits = weeks(1, 41, { people: 7, others: 7 });
    expect(standingOut(rehearsedDays(fits, 0), [], {}, GOAL)).toEqual([]);
    // On Mondays from eleven to one three times as many come to `b`.
    const peak: Scenario = {
      ...fits,
      arrivals: fits.arrivals.map((a) =>
        a.queue !== 'b'
          ? a
          : {
              ...a,
              rates: a.rates.map((r) =>
                r.fromSeconds >= 11 * 3600 && r.toSeconds <= 13 * 3600 ? { ...r, perHour: r.perHour * 4 } : r,
              ),
            },
      ),
    };
    const [found, ...others] = standingOut(rehearsedDays(peak, 0), [], {}, GOAL);
    expect(others).toEqual([]);
    expect(found).toMatchObject({ kind: 'peak', id: 'b', weekday: 1, against: 0.8 });
    const hours = found && 'hours' in found ? found.hours : null;
    expect(hours?.from).toBeGreaterThanOrEqual(11);
    expect(hours?.to).toBeLessThanOrEqual(14);
  });
});

describe('who hardly has a moment', () => {
  const workload = (id: string, teamId: string, days: readonly number[]) => ({ id, teamId, days, before: days });
  const usual = (i: number) => [0.6, 0.7, 0.65, 0.72, 0.58].map((busy) => busy + i * 0.01);
  const team = Array.from({ length: 6 }, (_, i) => workload(`p${i}`, 'a', usual(i)));
  it('is told of somebody who is busy nearly all the time where the others of their team are not', () => {
    const found = standingOut([], [], {}, () => 0.8, [...team, workload('p9', 'a', [0.96, 0.95, 0.97, 0.96])]);
    expect(found).toMatchObject([{ kind: 'busy', id: 'p9', count: 4 }]);
    expect(found[0]?.share).toBeCloseTo(0.96, 6);
  });
  it('is not told where all are, of too few days, or of another team’s usual', () => {
    const all = team.map((w) => ({ ...w, days: [0.95, 0.96, 0.94], before: [0.95] }));
    expect(standingOut([], [], {}, () => 0.8, all)).toEqual([]);
    expect(standingOut([], [], {}, () => 0.8, [...team, workload('p9', 'a', [0.99, 0.99])])).toEqual([]);
    expect(standingOut([], [], {}, () => 0.8, [...team, workload('p9', 'b', [0.96, 0.95, 0.97])])).toEqual([]);
  });
});
