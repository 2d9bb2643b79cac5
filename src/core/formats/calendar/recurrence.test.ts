import fc from 'fast-check';
import ICAL from 'ical.js';
import { RRule } from 'rrule';
import { describe, expect, it } from 'vitest';
import { sized } from '../../../../tests/helpers/size';
import { EventFault } from './lines';
import { follow, follower, MOST_INSTANCES, ruleOf } from './recurrence';

const DAY = 86_400_000;
const ruled = (text: string): unknown => (ICAL.parse.property(`RRULE:${text}`) as unknown[])[3];
const read = (text: string, start: string, last: string, until = Infinity): string[] => {
  const from = Date.parse(`${start}Z`);
  return follow(ruleOf(ruled(text), from, 7), from, until, Date.parse(`${last}T23:59:59Z`), follower()).map((wall) =>
    new Date(wall).toISOString().slice(0, 10),
  );
};
const fault = (text: string, start = '2026-11-02T09:00:00'): string => {
  try {
    read(text, start, '2060-01-01');
    return 'taken';
  } catch (error) {
    if (!(error instanceof EventFault)) throw error;
    return `${error.line}: ${error.message}`;
  }
};

/** Parts of a rule, as text by name. */
type Parts = Readonly<Record<string, string>>;
/** A second reading, by a package that goes from instance to instance. Its start counts as the first, as with us. */
function byPackage(text: string, parts: Parts, start: number, last: number): string[] {
  const options = RRule.parseString(text.replace(/;?COUNT=\d+/, ''));
  // What a rule of weeks leaves open comes from its start (§3.3.10); the package takes every day of the week.
  if (parts.BYWEEKNO && !parts.BYDAY) options.byweekday = [(new Date(start).getUTCDay() + 6) % 7];
  const all = new RRule({ ...options, dtstart: new Date(start), until: new Date(last) }).all().map(Number);
  return [start, ...all.filter((at) => at > start)]
    .slice(0, Number(parts.COUNT ?? Infinity))
    .map((at) => new Date(at).toISOString().slice(0, 10));
}

const some = (values: readonly (number | string)[], most = 3) =>
  fc.subarray([...values], { minLength: 1, maxLength: most }).map((list) => list.join(','));
const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined, freq: 2 });
const monthdays = some([1, 2, 15, 28, 29, 30, 31, -1, -3, -31]);
const byday = some(['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'], 4);
const months = some([1, 2, 3, 6, 9, 10, 12]);
/** One place only: of two that are the same day the package gives that day twice. */
const place = fc.constantFrom('1', '2', '3', '-1');
const common = {
  INTERVAL: maybe(fc.integer({ min: 1, max: 4 }).map(String)),
  COUNT: maybe(fc.integer({ min: 1, max: 12 }).map(String)),
  WKST: maybe(fc.constantFrom('SU', 'MO', 'WE')),
  BYMONTH: maybe(months),
};
const rules: fc.Arbitrary<Parts> = fc
  .oneof(
    fc.record({ FREQ: fc.constant('DAILY'), ...common, BYDAY: maybe(byday), BYMONTHDAY: maybe(monthdays) }),
    fc.record({ FREQ: fc.constant('WEEKLY'), ...common, BYDAY: maybe(byday) }),
    fc.record({
      FREQ: fc.constant('MONTHLY'),
      ...common,
      BYDAY: maybe(fc.oneof(byday, some(['1MO', '2TU', '-1FR', '-2SU', '5WE']))),
      BYMONTHDAY: maybe(monthdays),
      BYSETPOS: maybe(place),
    }),
    fc.record({
      FREQ: fc.constant('YEARLY'),
      ...common,
      BYDAY: maybe(fc.oneof(byday, some(['1MO', '-1SU', '20TU', '-10FR', '3TH']))),
      BYMONTHDAY: maybe(monthdays),
      BYSETPOS: maybe(place),
    }),
    fc.record({
      FREQ: fc.constant('YEARLY'),
      ...common,
      BYYEARDAY: some([1, 60, 100, 366, -1, -200]),
      BYDAY: maybe(byday),
    }),
    fc.record({
      FREQ: fc.constant('YEARLY'),
      INTERVAL: fc.constant(undefined),
      COUNT: common.COUNT,
      WKST: common.WKST,
      BYWEEKNO: some([2, 10, 20, 51, -10]),
      BYDAY: maybe(byday),
    }),
  )
  .map((parts) => Object.fromEntries(Object.entries(parts).filter(([, v]) => v !== undefined)) as Parts)
  .filter((p) => !p.BYSETPOS || !!(p.BYDAY ?? p.BYMONTHDAY ?? p.BYMONTH));

describe('recurrence rules', () => {
  it('give the same days as a second reading', () => {
    const start = fc.integer({ min: 0, max: 800 }).map((n) => Date.UTC(2025, 0, 1) + n * DAY + 9 * 3_600_000);
    fc.assert(
      fc.property(rules, start, (parts, from) => {
        const last = from + 1500 * DAY;
        const text = Object.entries(parts)
          .map(([name, value]) => `${name}=${value}`)
          .join(';');
        const [start_, last_] = [from, last].map((at) => new Date(at).toISOString());
        let mine: string[];
        try {
          mine = read(text, String(start_).slice(0, 19), String(last_).slice(0, 10));
        } catch (error) {
          // What cannot be is refused, and there is no such day.
          if (!(error instanceof EventFault)) throw error;
          mine = [String(start_).slice(0, 10)];
        }
        expect(mine).toEqual(byPackage(text, parts, from, last));
      }),
      { numRuns: sized({ quick: 20, usual: 60, long: 3000 }) },
    );
  });
  it('the week of the year is followed by its number, on the weekday of its start', () => {
    // 12 May 2025 is the Monday of week 20.
    expect(read('FREQ=YEARLY;BYWEEKNO=20', '2025-05-12T09:00:00', '2028-12-31')).toEqual([
      '2025-05-12',
      '2026-05-11',
      '2027-05-17',
      '2028-05-15',
    ]);
    expect(read('FREQ=YEARLY;BYWEEKNO=1;BYDAY=MO', '2024-01-01T09:00:00', '2027-01-31')).toEqual([
      '2024-01-01',
      '2024-12-30',
      '2025-12-29',
      '2027-01-04',
    ]);
  });
  it('places are counted in whole weeks and months, and weeks may end in another year', () => {
    // The first of its week was the day before it started.
    expect(read('FREQ=WEEKLY;BYDAY=WE,SA;BYSETPOS=1', '2025-04-03T09:00:00', '2025-04-12')).toEqual([
      '2025-04-03',
      '2025-04-09',
    ]);
    expect(read('FREQ=MONTHLY;BYDAY=5WE;BYSETPOS=-2', '2025-01-01T09:00:00', '2027-01-01')).toEqual(['2025-01-01']);
    expect(read('FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', '2026-10-30T09:00:00', '2027-01-31')).toEqual([
      '2026-10-30',
      '2026-11-30',
      '2026-12-31',
      '2027-01-29',
    ]);
    // By weeks from Sunday 2 January 2027 is in the last of 2026.
    expect(read('FREQ=YEARLY;WKST=SU;BYWEEKNO=52;BYDAY=SA', '2025-12-27T09:00:00', '2027-12-31')).toEqual([
      '2025-12-27',
      '2027-01-02',
    ]);
    expect(read('FREQ=YEARLY;BYWEEKNO=53;BYDAY=FR', '2026-01-02T09:00:00', '2033-01-31')).toEqual([
      '2026-01-02',
      '2027-01-01',
      '2032-12-31',
    ]);
  });
  it('what cannot be followed for sure is refused with its line', () => {
    expect(fault('FREQ=DAILY')).toBe(`7: it recurs more than 10,000 times until then.`);
    expect(fault('FREQ=HOURLY')).toBe('7: it recurs more often than daily.');
    expect(fault('FREQ=DAILY;BYHOUR=9,14')).toBe('7: its rule gives times within a day, which is finer than daily.');
    expect(fault('FREQ=DAILY;BYMINUTE=30')).toBe('7: its rule gives times within a day, which is finer than daily.');
    expect(fault('FREQ=DAILY;BYHOUR=9;COUNT=3')).toBe('taken');
    expect(fault('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30')).toBe('7: its rule names a day that no such month has.');
    expect(fault('FREQ=DAILY;COUNT=3;UNTIL=20270101')).toBe('7: its rule says both COUNT and UNTIL.');
    expect(fault('FREQ=WEEKLY;BYDAY=1MO')).toBe('7: its rule says BYDAY=1MO, which has no meaning there.');
    expect(fault('FREQ=MONTHLY;BYWEEKNO=3')).toBe('7: its rule says BYWEEKNO without being yearly.');
    expect(fault('FREQ=WEEKLY;BYSETPOS=9;BYDAY=MO')).toBe(
      '7: its rule says BYSETPOS where there are not so many to choose from.',
    );
    expect(fault('')).toBe('7: its rule does not say how often.');
  });
  it('rules without any day ahead end, and all of a file together ask for no more than they may', () => {
    const budget = follower();
    const monday = Date.parse('1990-01-01T09:00:00Z');
    const never = ruleOf(ruled('FREQ=DAILY;INTERVAL=7;BYDAY=TU'), monday, 1);
    const last = Date.parse('2028-12-31');
    expect(follow(never, monday, Infinity, last, budget)).toEqual([monday]);
    expect(() => {
      for (let i = 0; i < 1000; i++) follow(never, monday, Infinity, last, budget);
    }).toThrow(RangeError);
    expect(MOST_INSTANCES).toBe(10_000);
  });
});
