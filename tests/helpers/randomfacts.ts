import fc from 'fast-check';
import { columnsOf, type DaySpan, type FactDay, partOf } from '../../src/core/measures/columns';
import {
  type DayRows,
  FACT_KEYS,
  type FactKey,
  type FactRow,
  type Part,
  PARTS,
} from '../../src/core/measures/factparts';
import { factDay } from '../../src/core/measures/rollups';
import type { Narrowing } from '../../src/core/measures/narrowing';

/** Any day of facts, with few values of each key so that they meet, and what may be asked of it. */
const HOUR = 3_600_000;
export const ORDINARY = Array.from({ length: 24 }, (_, hour) => hour);
const VALUES: { readonly [K in FactKey]: readonly string[] } = {
  channel: ['voice', 'chat'],
  door: ['d1', 'd2'],
  bot: ['b1'],
  version: ['b1 1', 'b1 2'],
  line: ['b1 l1', 'b1 l2'],
  intent: ['i1', 'i2'],
  language: ['en', 'fr'],
  queue: ['q1', 'q2', 'q3'],
  stage: ['q1 0', 'q1 1', 'q2 0'],
  person: ['p1', 'p2', 'p3'],
  team: ['t1', 't2'],
  outcome: ['SOLD', 'NONE'],
  skill: ['s1', 's2'],
  open: ['open', 'shut'],
};
/** Each row has one channel; what belongs to a visit has its one queue. */
const keysOf = (part: Part) =>
  fc.record(
    Object.fromEntries(
      FACT_KEYS.map((key) => {
        const one = key === 'channel' || (key === 'queue' && ['visits', 'offers', 'legs'].includes(part));
        return [
          key,
          fc.subarray([...VALUES[key]], {
            minLength: one ? 1 : 0,
            maxLength: one ? 1 : Math.min(2, VALUES[key].length),
          }),
        ];
      }),
    ),
  ) as fc.Arbitrary<FactRow['keys']>;
const length = fc.option(fc.integer({ min: 0, max: 100_000 }), { nil: null, freq: 8 });
const ends: { readonly [P in Part]: readonly (string | null)[] } = {
  contacts: ['bot', 'left-bot', 'resolved', 'gave-up', null],
  visits: [
    'accepted',
    'gave-up',
    'moved-on',
    'rung-reached',
    'rung-not',
    'message-met',
    'message-late',
    'message-not',
    null,
  ],
  offers: ['accepted', 'missed', 'declined', 'withdrawn', 'taken', null],
  legs: ['kept', 'passed-on'],
  lines: ['passed', 'left'],
  messages: [null],
};
const LENGTHS: { readonly [P in Part]: object } = {
  contacts: {
    lasted: length,
    again: fc.option(fc.constantFrom(0, 0, 5000), { nil: null }),
    rating: fc.option(fc.integer({ min: 1, max: 5 }), { nil: null }),
    mood: fc.option(fc.integer({ min: 0, max: 2 }), { nil: null }),
    journey: length,
    took: fc.option(fc.integer({ min: 0, max: 7 }), { nil: null }),
  },
  visits: {
    waited: length,
    stayed: length,
    goal: fc.integer({ min: 1000, max: 60_000 }),
    told: length,
    followed: length,
  },
  offers: { lasted: length },
  legs: {
    handled: length,
    wrapped: length,
    waited: length,
    goal: fc.integer({ min: 1000, max: 60_000 }),
    asked: length,
    replied: length,
    held: length,
    fronted: length,
  },
  lines: { heard: fc.integer({ min: 0, max: 3 }), missed: fc.integer({ min: 0, max: 2 }) },
  messages: {
    in: fc.integer({ min: 0, max: 20 }),
    out: fc.integer({ min: 0, max: 20 }),
    byPerson: fc.integer({ min: 0, max: 20 }),
  },
};
const rowsOf = <P extends Part>(part: P, from: number) =>
  fc.array(
    fc.record({
      no: fc.integer({ min: 1, max: 40 }),
      at: fc.integer({ min: from, max: from + 24 * HOUR - 1 }),
      keys: keysOf(part),
      how: fc.constantFrom(...ends[part]),
      lengths: fc.record(LENGTHS[part] as Record<string, fc.Arbitrary<number | null>>),
    }),
    { maxLength: 30 },
  ) as unknown as fc.Arbitrary<FactRow<P>[]>;

export type RandomDay = { readonly span: DaySpan; readonly rows: DayRows };
export const dayFrom = (from: number): fc.Arbitrary<RandomDay> =>
  fc
    .record({
      contacts: rowsOf('contacts', from),
      visits: rowsOf('visits', from),
      offers: rowsOf('offers', from),
      legs: rowsOf('legs', from),
      lines: rowsOf('lines', from),
      messages: rowsOf('messages', from),
    })
    .map((rows) => ({ span: { from, to: from + 24 * HOUR, weekday: 1, hours: ORDINARY }, rows }));
export const randomDays = fc.tuple(dayFrom(0), dayFrom(24 * HOUR));

/** Any narrowing; most keys are left out. */
export const randomNarrowing: fc.Arbitrary<Narrowing> = fc
  .tuple(
    ...FACT_KEYS.map((key) =>
      fc
        .option(fc.subarray([...VALUES[key], 'unheard of']), { nil: undefined, freq: 1 })
        .map((values) => [key, values] as const),
    ),
  )
  .chain((all) =>
    fc.record({
      kept: fc.subarray(all, { maxLength: 3 }),
      until: fc.option(fc.integer({ min: 0, max: 48 * HOUR }), { nil: undefined }),
      clock: fc.option(
        fc.record({
          weekday: fc.constantFrom(null, null, 1, 2),
          from: fc.integer({ min: 0, max: 12 }),
          to: fc.integer({ min: 12, max: 24 }),
        }),
        { nil: undefined },
      ),
    }),
  )
  .map(({ kept, until, clock }) => ({
    ...Object.fromEntries(kept.filter(([, values]) => values !== undefined)),
    ...(until === undefined ? {} : { until }),
    ...(clock === undefined ? {} : { clock }),
  }));

export const asDay = ({ span, rows }: RandomDay): FactDay => {
  const parts = new Map(
    PARTS.map((part) => [
      part,
      partOf(columnsOf(part, rows[part] as readonly FactRow<typeof part>[], span.from), span),
    ]),
  );
  return factDay(span, (part) => {
    const found = parts.get(part);
    if (!found) throw new Error(part);
    return found;
  });
};
