import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asDay, dayFrom, randomDays, randomNarrowing } from '../../../tests/helpers/randomfacts';
import { contactsBehind } from './behind';
import { daySpan } from './calendar';
import { columnsOf, NONE, partOf } from './columns';
import { countedFor, MEASURES, measureById, type Measure } from './definitions';
import { type DayRows, FACT_KEYS, type FactRow, type Part, PARTS } from './factparts';
import type { Narrowing } from './narrowing';
import { quantile } from './quantile';
import { tally } from './counting';
import { groupName } from './grouping';
import { factDay } from './rollups';
import { addTally, emptyTally, type Tally } from './tally';

/** What rows give by loops that know nothing of columns and masks. */
const has = (row: Pick<FactRow, 'at' | 'keys'>, asked: Narrowing) =>
  FACT_KEYS.every((key) => !asked[key] || row.keys[key].some((value) => asked[key]?.includes(value))) &&
  row.at < (asked.until ?? Infinity) &&
  // Random days are Mondays, and their clock never changes.
  (!asked.clock ||
    ((asked.clock.weekday ?? 1) === 1 && hourOf(row.at) >= asked.clock.from && hourOf(row.at) < asked.clock.to));
const hourOf = (at: number) => Math.floor(at / 3_600_000) % 24;
type Kept = { readonly [P in Part]: readonly FactRow<P>[] };
const kept = (days: readonly DayRows[], asked: Narrowing): Kept => ({
  contacts: days.flatMap((d) => d.contacts.filter((r) => has(r, asked))),
  visits: days.flatMap((d) => d.visits.filter((r) => has(r, asked))),
  offers: days.flatMap((d) => d.offers.filter((r) => has(r, asked))),
  legs: days.flatMap((d) => d.legs.filter((r) => has(r, asked))),
  lines: days.flatMap((d) => d.lines.filter((r) => has(r, asked))),
  messages: days.flatMap((d) => d.messages.filter((r) => has(r, asked))),
});
const mean = (numbers: readonly number[]) =>
  numbers.length === 0 ? null : numbers.reduce((a, b) => a + b, 0) / numbers.length;
const share = (part: number, whole: number) => (whole === 0 ? null : part / whole);

function directly(
  { contacts, visits, offers, legs, lines, messages }: Kept,
  { person }: Narrowing = {},
): Record<string, number | null> {
  const left = visits.filter((v) => v.how?.startsWith('message-'));
  const waiting = visits.filter((v) => v.how !== 'rung-reached' && v.how !== 'rung-not' && !left.includes(v));
  const taken = waiting.filter((v) => v.how === 'accepted');
  const lost = waiting.filter((v) => v.how === 'gave-up' && (v.lengths.stayed ?? NONE) > 5000);
  const good = taken.filter((v) => (v.lengths.waited ?? NONE) <= (v.lengths.goal ?? 0));
  const waits = taken.map((v) => (v.lengths.waited ?? NONE) / 1000);
  const done = legs.filter((l) => l.lengths.handled !== null);
  const able = done.filter(
    (l) => l.lengths.waited !== null && l.lengths.asked !== null && l.lengths.asked <= (l.lengths.goal ?? 0),
  );
  const refused = offers.filter((o) => o.how === 'missed' || o.how === 'declined').length;
  const rung = visits.filter((v) => v.how === 'rung-reached' || v.how === 'rung-not');
  const told = visits.flatMap(({ lengths: { told: said, followed: then } }) =>
    said === null || then === null ? [] : [[said / 1000, then / 1000] as const],
  );
  const trips = contacts.filter((c) => c.lengths.journey !== null);
  return {
    started: contacts.length,
    offered: waiting.length,
    handled: done.length,
    'service-level': share(good.length, taken.length + lost.length),
    answered: taken.length,
    speed: mean(waits),
    'speed-90': quantile(waits, 0.9),
    'handle-time': mean(done.map((l) => (l.lengths.handled ?? 0) / 1000)),
    'own-reply': mean(done.flatMap((l) => (l.lengths.replied === null ? [] : [l.lengths.replied / 1000]))),
    'gave-up': share(lost.length, taken.length + lost.length),
    missed: share(refused, refused + offers.filter((o) => o.how === 'accepted').length),
    bot: share(contacts.filter((c) => c.how === 'bot').length, contacts.length),
    'left-bot': share(contacts.filter((c) => c.how === 'left-bot').length, contacts.length),
    'came-back': share(
      contacts.filter((c) => (c.lengths.again ?? 0) > 0).length,
      contacts.filter((c) => c.lengths.again !== null).length,
    ),
    rating: mean(contacts.flatMap((c) => c.lengths.rating ?? [])),
    'messages-in': messages.reduce((n, m) => n + (m.lengths.in ?? 0), 0),
    'messages-out': messages.reduce((n, m) => n + (m.lengths.out ?? 0), 0),
    'messages-person': messages.reduce((n, m) => n + (m.lengths.byPerson ?? 0), 0),
    'wait-told': mean(told.map(([said]) => said)),
    'wait-after-told': mean(told.map(([, then]) => then)),
    'told-wrong-by': mean(told.map(([said, then]) => Math.abs(then - said))),
    'first-to-last': mean(contacts.flatMap((c) => (c.lengths.lasted === null ? [] : [c.lengths.lasted / 1000]))),
    journey: mean(trips.map((c) => (c.lengths.journey ?? NONE) / 1000)),
    'journey-several': share(trips.filter((c) => (c.lengths.took ?? 0) % 2 === 1).length, trips.length),
    'journey-channels': share(trips.filter((c) => [2, 3, 6, 7].includes(c.lengths.took ?? 0)).length, trips.length),
    'journey-people': share(trips.filter((c) => (c.lengths.took ?? 0) >= 4).length, trips.length),
    // Never of a person.
    upset: person
      ? null
      : share(
          contacts.filter((c) => c.lengths.mood === 0).length,
          contacts.filter((c) => c.lengths.mood !== null).length,
        ),
    'messages-met': share(left.filter((v) => v.how === 'message-met').length, left.length),
    'rung-back': share(rung.filter((v) => v.how === 'rung-reached').length, rung.length),
    met: share(able.filter((l) => (l.lengths.waited ?? NONE) <= (l.lengths.goal ?? 0)).length, able.length),
    'passed-on': share(done.filter((l) => l.how === 'passed-on').length, done.length),
    'came-to-line': lines.length,
    'left-at-line': share(lines.filter((l) => l.how === 'left').length, lines.length),
    'missed-at-line': share(lines.filter((l) => (l.lengths.missed ?? 0) > 0).length, lines.length),
  };
}
const values = (one: Tally | undefined) =>
  Object.fromEntries(MEASURES.map((m) => [m.id, m.value(one ?? emptyTally())]));
const close = (found: Record<string, number | null>, expected: Record<string, number | null>) => {
  expect(Object.keys(found).sort()).toEqual(Object.keys(expected).sort());
  for (const [id, value] of Object.entries(expected))
    if (value === null) expect([id, found[id]]).toEqual([id, null]);
    // Quantiles are told within 1%.
    else if (id === 'speed-90')
      expect(Math.abs((found[id] ?? Infinity) - value)).toBeLessThanOrEqual(value / 100 + 1e-9);
    else expect([id, found[id]]).toEqual([id, expect.closeTo(value, 6)]);
};

describe('figures from columns', () => {
  it('are what the rows give one by one, however it is narrowed', () => {
    fc.assert(
      fc.property(randomDays, randomNarrowing, (days, asked) => {
        const found = tally(days.map(asDay), asked).get('');
        close(
          values(found),
          directly(
            kept(
              days.map((d) => d.rows),
              asked,
            ),
            asked,
          ),
        );
      }),
    );
  });
  it.each(MEASURES)('$id is the same where nothing else is counted', (measure) => {
    fc.assert(
      fc.property(randomDays, randomNarrowing, (days, asked) => {
        const [all, alone] = [tally(days.map(asDay), asked), tally(days.map(asDay), asked, countedFor([measure]))];
        const of = (found: typeof all) =>
          [measure.value, measure.count].map((part) => part(found.get('') ?? emptyTally()));
        expect(of(alone)).toEqual(of(all));
      }),
      { numRuns: 20 },
    );
  });
  it.each(['queue', 'person', 'outcome', 'day', 'hour'] as const)('told apart by %s are those of each alone', (by) => {
    fc.assert(
      fc.property(randomDays, randomNarrowing, (days, asked) => {
        const groups = tally(days.map(asDay), asked, { by: [by] });
        for (const [name, one] of groups) {
          const mine = (row: Pick<FactRow, 'at' | 'keys'>, from: number) =>
            by === 'day'
              ? String(from) === name
              : by === 'hour'
                ? String(Math.floor((row.at - from) / 3_600_000)) === name
                : row.keys[by].includes(name);
          const rows = days.map((d) => {
            const of = <P extends Part>(part: P): readonly FactRow<P>[] =>
              (d.rows[part] as readonly FactRow<P>[]).filter((r) => mine(r, d.span.from));
            return {
              contacts: of('contacts'),
              visits: of('visits'),
              offers: of('offers'),
              legs: of('legs'),
              lines: of('lines'),
              messages: of('messages'),
            };
          });
          close(values(one), directly(kept(rows, asked), by === 'person' ? { ...asked, person: [name] } : asked));
        }
      }),
      { numRuns: 60 },
    );
  });
  it('told apart by several keys are narrowed to each of them', () => {
    fc.assert(
      fc.property(randomDays, (days) => {
        const all = days.map(asDay);
        for (const [name, one] of tally(all, {}, { by: ['queue', 'channel', 'person'] })) {
          const [queue = '', channel = '', person = ''] = name.split('\n');
          const alone = tally(all, { queue: [queue], channel: [channel], person: [person] }).get('');
          expect(values(one)).toEqual(values(alone));
        }
      }),
      { numRuns: 60 },
    );
  });
  it('told apart by so many that most of what could be never is, are the same', () => {
    fc.assert(
      fc.property(randomDays, (days) => {
        const all = days.map(asDay);
        const by = ['person', 'queue', 'outcome', 'skill', 'door', 'hour'] as const;
        const found = tally(all, {}, { by, parts: ['visits'] });
        const expected = new Map<string, number>();
        for (const { rows, span } of days)
          for (const row of rows.visits) {
            if (row.how?.startsWith('rung-') || row.how?.startsWith('message-')) continue;
            const hour = String(Math.floor((row.at - span.from) / 3_600_000));
            const { person, queue, outcome, skill, door } = row.keys;
            for (const p of person)
              for (const q of queue)
                for (const o of outcome)
                  for (const s of skill)
                    for (const d of door) {
                      const name = groupName([p, q, o, s, d, hour]);
                      expected.set(name, (expected.get(name) ?? 0) + 1);
                    }
          }
        const offered = [...found].filter(([, t]) => t.visits.offered > 0).map(([name, t]) => [name, t.visits.offered]);
        expect(offered.sort()).toEqual([...expected].sort());
      }),
      { numRuns: 60 },
    );
  });
  it('say what they were meant to reach, each by its queue and channel', () => {
    const goals = (queue: string, channel: string) => ({ q1: 90, q2: channel === 'voice' ? 80 : 60 })[queue] ?? 0;
    const of = (row: Pick<FactRow, 'keys'>) => goals(row.keys.queue[0] ?? '', row.keys.channel[0] ?? '');
    fc.assert(
      fc.property(randomDays, randomNarrowing, (days, asked) => {
        const one = tally(days.map(asDay), asked, { goals }).get('') ?? emptyTally();
        const { visits, legs } = kept(
          days.map((d) => d.rows),
          asked,
        );
        const rated = visits.filter(
          (v) => v.how === 'accepted' || (v.how === 'gave-up' && (v.lengths.stayed ?? NONE) > 5000),
        );
        expect(one.visits.wanted).toBe(rated.reduce((n, v) => n + of(v), 0));
        const able = legs.filter(
          ({ lengths: l }) => l.handled !== null && l.waited !== null && l.asked !== null && l.asked <= (l.goal ?? 0),
        );
        expect(one.legs.wanted).toBe(able.reduce((n, l) => n + of(l), 0));
      }),
    );
  });
  it('of days added up are those of all of them, in any order', () => {
    fc.assert(
      fc.property(randomDays, ([a, b]) => {
        const sum = emptyTally();
        for (const day of [b, a]) addTally(sum, tally([asDay(day)], {}).get('') ?? emptyTally());
        const once = tally([asDay(a), asDay(b)], {}).get('') ?? emptyTally();
        close(values(sum), values(once));
        expect({ ...sum.visits, waits: null }).toEqual({ ...once.visits, waits: null });
        expect([sum.contacts, sum.offers]).toEqual([once.contacts, once.offers]);
      }),
    );
  });
  it('there is no group without rows', () => {
    fc.assert(
      fc.property(dayFrom(0), (day) => {
        expect([...tally([asDay(day)], { queue: [] }, { by: ['queue', 'person'] }).keys()]).toEqual([]);
      }),
    );
  });
  it('the hours of a day on which clocks change are those of the clock', () => {
    const zone = 'Europe/Berlin';
    const [spring, autumn] = [daySpan('2026-03-29', zone), daySpan('2026-10-25', zone)];
    expect([spring.hours.length, autumn.hours.length]).toEqual([23, 25]);
    expect([spring.hours[2], autumn.hours.filter((h) => h === 2).length]).toEqual([3, 2]);
    const keys = Object.fromEntries(FACT_KEYS.map((k) => [k, []])) as unknown as FactRow['keys'];
    const contact = (at: number): FactRow<'contacts'> => ({
      no: 1,
      at,
      keys,
      how: 'bot',
      lengths: { lasted: 1, again: null, rating: null, mood: null, journey: null, took: null },
    });
    const hoursOf = (span: typeof spring, at: readonly number[]) => {
      const rows = at.map((hours) => contact(span.from + hours * 3_600_000));
      const day = factDay(span, (part: Part) =>
        partOf(part === 'contacts' ? columnsOf(part, rows, span.from) : columnsOf(part, [], span.from), span),
      );
      return [...tally([day], {}, { by: ['hour'] })].map(([hour, t]) => [hour, t.contacts.started]);
    };
    expect(hoursOf(spring, [1.5, 2.5])).toEqual([
      ['1', 1],
      ['3', 1],
    ]);
    // The hour that comes twice is one hour of the clock.
    expect(hoursOf(autumn, [2.5, 3.5])).toEqual([['2', 2]]);
  });
});

describe('columns', () => {
  it('keep every row as it was', () => {
    fc.assert(
      fc.property(dayFrom(0), ({ rows, span }) => {
        for (const part of PARTS) {
          const made = partOf(columnsOf(part, rows[part] as readonly FactRow<typeof part>[], span.from), span);
          expect(made.rows).toBe(rows[part].length);
          rows[part].forEach((row, i) => {
            expect([made.numbers('no')[i], made.numbers('at')[i]]).toEqual([row.no, row.at]);
            expect(made.coded('how').entries[made.coded('how').codes[i] ?? -1]).toEqual(
              row.how === null ? [] : [row.how],
            );
            for (const key of FACT_KEYS)
              expect(made.coded(key).entries[made.coded(key).codes[i] ?? -1]).toEqual(row.keys[key]);
            for (const [name, ms] of Object.entries(row.lengths))
              expect(made.numbers(name as 'lasted')[i]).toBe(ms ?? NONE);
          });
        }
      }),
    );
  });
  it('a length that is a moment below nothing is nothing', () => {
    const none = Object.fromEntries(FACT_KEYS.map((k) => [k, []])) as unknown as FactRow['keys'];
    const lengths = {
      handled: 1,
      wrapped: null,
      waited: -3,
      goal: 30_000,
      asked: -5,
      replied: null,
      held: 2,
      fronted: null,
    };
    const leg: FactRow<'legs'> = { no: 1, at: 0, keys: none, how: 'kept', lengths };
    const day = asDay({
      span: { from: 0, to: 1, weekday: 1, hours: [] },
      rows: { contacts: [], visits: [], offers: [], legs: [leg], lines: [], messages: [] },
    });
    expect(tally([day], {}).get('')?.legs).toMatchObject({ possible: 1, met: 1 });
  });
  it('a value that reads like a list is not taken for one, and more than 256 values are told apart', () => {
    const none = Object.fromEntries(FACT_KEYS.map((k) => [k, []])) as unknown as FactRow['keys'];
    const row = (queue: readonly string[]): FactRow<'contacts'> => ({
      no: 1,
      at: 0,
      keys: { ...none, queue },
      how: null,
      lengths: { lasted: null, again: null, rating: null, mood: null, journey: null, took: null },
    });
    const lists = [['["a","b"]'], ['a', 'b'], ...Array.from({ length: 300 }, (_, i) => [`q${i}`])];
    const { codes, entries } = partOf(columnsOf('contacts', lists.map(row), 0), {
      from: 0,
      to: 1,
      weekday: 1,
      hours: [],
    }).coded('queue');
    expect([...codes].map((code) => entries[code])).toEqual(lists);
  });
});

describe('the contacts behind a figure', () => {
  const figure = fc.constantFrom(...MEASURES);
  const found = (days: Parameters<typeof asDay>[0][], asked: Narrowing, m: Measure, more: object = {}) =>
    contactsBehind(days.map(asDay), asked, m, { side: null, from: 0, most: 1000, ...more });
  it('are those of its rows, each once; sides add up to what it speaks of', () => {
    fc.assert(
      fc.property(randomDays, randomNarrowing, figure, (days, asked, m) => {
        const all = found(days, asked, m);
        const one = tally(days.map(asDay), asked).get('') ?? emptyTally();
        expect(new Set(all.nos).size).toBe(all.nos.length);
        expect(all.total).toBe(all.nos.length);
        const { with: good, without } = all.sides;
        const value = m.value(one);
        expect(m.unit === 'share' ? good + without : good).toBe(m.count(one));
        if (m.unit === 'share' && value !== null) expect(good / (good + without)).toBeCloseTo(value, 9);
        const [a, b] = (['with', 'without'] as const).map((side) => found(days, asked, m, { side }).nos);
        expect([...new Set([...(a ?? []), ...(b ?? [])])].sort()).toEqual([...all.nos].sort());
      }),
    );
  });
  it('come page by page as they come at once', () => {
    fc.assert(
      fc.property(randomDays, figure, fc.integer({ min: 1, max: 7 }), (days, m, most) => {
        const all = found(days, {}, m).nos;
        const pages = Array.from(
          { length: Math.ceil(all.length / most) + 1 },
          (_, i) => found(days, {}, m, { from: i * most, most }).nos,
        );
        expect(pages.flat()).toEqual(all);
      }),
    );
  });
  it('begin with misses, and among them with the longest', () => {
    const level = measureById('service-level');
    if (!level) throw new Error('no such figure');
    const keys = Object.fromEntries(FACT_KEYS.map((k) => [k, []])) as unknown as FactRow['keys'];
    const visit = (no: number, waited: number, how: 'accepted' | 'gave-up'): FactRow<'visits'> => ({
      no,
      at: no,
      keys,
      how,
      lengths: { waited: waited * 1000, stayed: waited * 1000, goal: 30_000, told: null, followed: null },
    });
    const visits = [
      visit(1, 10, 'accepted'),
      visit(2, 40, 'accepted'),
      visit(3, 60, 'gave-up'),
      visit(4, 20, 'accepted'),
      visit(5, 3, 'gave-up'),
    ];
    const day = asDay({
      span: { from: 0, to: 86_400_000, weekday: 1, hours: [] },
      rows: { contacts: [], visits, offers: [], legs: [], lines: [], messages: [] },
    });
    expect(contactsBehind([day], {}, level, { side: null, from: 0, most: 10 })).toEqual({
      nos: [3, 2, 4, 1],
      total: 4,
      sides: { with: 2, without: 2 },
    });
    expect(contactsBehind([day], {}, level, { side: 'with', from: 1, most: 10 }).nos).toEqual([1]);
  });
});

describe('figures without anything', () => {
  it.each(MEASURES.map((m) => m.id))('%s has no value, or zero, and no contact behind it', (id) => {
    const m = measureById(id);
    expect([null, 0]).toContain(m?.value(emptyTally()));
    expect(m && contactsBehind([], {}, m, { side: null, from: 0, most: 10 }).nos).toEqual([]);
  });
  it('groups are named by their values', () => expect(groupName(['a', 'b'])).toBe('a\nb'));
});
