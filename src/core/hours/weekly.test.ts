import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plusDays, weekdayOf } from './dates';
import { type Hours, openAt, openings, openingsBetween, openSeconds, type WeekPattern } from './weekly';

const hours = (zone: string, ...weekly: [number, string, string][]): Hours => ({
  id: 'h',
  name: 'h',
  zone,
  weekly: weekly.map(([day, from, to]) => ({ day, from, to })),
  exceptions: [],
});
const utc = (text: string) => Date.parse(`${text}Z`);

describe('weekly hours', () => {
  const shop = hours('Europe/Dublin', [1, '09:00', '17:00'], [2, '09:00', '17:00']);
  it('opens at the first minute and is closed at the last', () => {
    // 16 November 2026 is a Monday; Dublin is on UTC in winter.
    expect(openAt(shop, utc('2026-11-16T08:59:59'))).toEqual({ open: false, opensAt: utc('2026-11-16T09:00:00') });
    expect(openAt(shop, utc('2026-11-16T09:00:00'))).toEqual({ open: true, until: utc('2026-11-16T17:00:00') });
    expect(openAt(shop, utc('2026-11-16T17:00:00'))).toEqual({ open: false, opensAt: utc('2026-11-17T09:00:00') });
  });
  it('follows the zone into summer time', () => {
    expect(openAt(shop, utc('2026-07-06T08:00:00'))).toEqual({ open: true, until: utc('2026-07-06T16:00:00') });
  });
  it('crosses midnight, also from Sunday into Monday', () => {
    const night = hours('Europe/Dublin', [7, '22:00', '06:00']);
    expect(openAt(night, utc('2026-11-16T05:59:00'))).toEqual({ open: true, until: utc('2026-11-16T06:00:00') });
    expect(openAt(night, utc('2026-11-16T06:00:00')).open).toBe(false);
  });
  it('joins intervals that touch', () => {
    const split = hours('UTC', [1, '09:00', '12:00'], [1, '12:00', '18:00']);
    expect(openAt(split, utc('2026-11-16T10:00:00'))).toEqual({ open: true, until: utc('2026-11-16T18:00:00') });
  });
  it('a start that does not exist moves forward; an ambiguous one means the first', () => {
    // Dublin: 29 March 2026 01:00 → 02:00, 25 October 2026 02:00 → 01:00.
    const spring = openings(hours('Europe/Dublin', [7, '01:30', '04:00']), utc('2026-03-29T00:00:00'), 0, 0)[0];
    expect(spring).toEqual({ start: utc('2026-03-29T01:30:00'), end: utc('2026-03-29T03:00:00') });
    const autumn = openings(hours('Europe/Dublin', [7, '01:30', '04:00']), utc('2026-10-24T23:30:00'), 0, 1)[0];
    expect(autumn).toEqual({ start: utc('2026-10-25T00:30:00'), end: utc('2026-10-25T04:00:00') });
  });
  it('knows when it never opens, and when it never closes', () => {
    expect(openAt(hours('UTC'), 0)).toEqual({ open: false, opensAt: null });
    const always = hours('UTC', ...[1, 2, 3, 4, 5, 6, 7].map((d): [number, string, string] => [d, '00:00', '00:00']));
    expect(openAt(always, utc('2026-11-16T05:00:00'))).toEqual({ open: true, until: null });
  });
});

const DAY = 86_400_000;
const minutes = (from: number, to: number) =>
  fc
    .integer({ min: from * 4, max: to * 4 - 1 })
    .map((q) => `${String(Math.floor(q / 4)).padStart(2, '0')}:${String((q % 4) * 15).padStart(2, '0')}`);
const interval = fc.record({ from: minutes(0, 24), to: minutes(0, 24) });
const START = utc('2026-11-01T00:00:00');
const date = fc.integer({ min: -2, max: 500 }).map((n) => plusDays('2026-11-01', n));
const pattern = (zone: string): fc.Arbitrary<WeekPattern> =>
  fc.record({
    zone: fc.constant(zone),
    weekly: fc.oneof(
      fc.constant([]),
      fc.constant([1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', to: '00:00' }))),
      fc.array(
        interval.chain((i) => fc.integer({ min: 1, max: 7 }).map((day) => ({ day, ...i }))),
        { maxLength: 8 },
      ),
    ),
    exceptions: fc.array(fc.record({ date, intervals: fc.array(interval, { maxLength: 2 }), note: fc.constant('') }), {
      maxLength: 6,
    }),
  });

describe('hours at any distance', () => {
  const holidays: WeekPattern = {
    zone: 'Europe/Dublin',
    weekly: [{ day: 1, from: '09:00', to: '17:00' }],
    exceptions: Array.from({ length: 60 }, (_, i) => ({ date: plusDays('2026-12-01', i), intervals: [], note: '' })),
  };
  it('it opens after two months off, and once a year', () => {
    expect(openAt(holidays, utc('2026-12-01T12:00:00'))).toEqual({ open: false, opensAt: utc('2027-02-01T09:00:00') });
    const fair = {
      zone: 'Europe/Dublin',
      weekly: [],
      exceptions: [{ date: '2031-07-05', intervals: [{ from: '10:00', to: '16:00' }], note: '' }],
    };
    expect(openAt(fair, utc('2026-12-01T12:00:00'))).toEqual({ open: false, opensAt: utc('2031-07-05T09:00:00') });
    expect(openAt(fair, utc('2031-07-05T15:00:00'))).toEqual({ open: false, opensAt: null });
  });
  it('it closes on the one day that differs from a week without an end', () => {
    const always = {
      zone: 'UTC',
      weekly: [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', to: '00:00' })),
      exceptions: [{ date: '2027-12-25', intervals: [{ from: '12:00', to: '18:00' }], note: '' }],
    };
    expect(openAt(always, utc('2026-12-01T12:00:00'))).toEqual({ open: true, until: utc('2027-12-25T00:00:00') });
    expect(openAt(always, utc('2027-12-25T01:00:00'))).toEqual({ open: false, opensAt: utc('2027-12-25T12:00:00') });
    expect(openAt(always, utc('2027-12-25T20:00:00'))).toEqual({ open: false, opensAt: utc('2027-12-26T00:00:00') });
    expect(openAt(always, utc('2027-12-26T00:00:00'))).toEqual({ open: true, until: null });
  });
  it('a week whose only opening falls into the hour that clocks leave out opens in the next', () => {
    // 29 March 2026 in Dublin: 01:00 is followed by 02:00.
    const hour = hours('Europe/Dublin', [7, '01:00', '02:00']);
    expect(openAt(hour, utc('2026-03-22T03:00:00'))).toEqual({ open: false, opensAt: utc('2026-04-05T00:00:00') });
  });
  it('agrees with every opening of the next years laid side by side', () => {
    fc.assert(
      fc.property(pattern('UTC'), fc.integer({ min: 0, max: 520 * 96 }), (p, quarter) => {
        const at = START + quarter * 900_000;
        const list = openingsBetween(p, at - 2 * DAY, at + 600 * DAY);
        const now = list.find((o) => o.start <= at && at < o.end);
        const next = list.find((o) => o.start > at);
        const opening = openAt(p, at);
        if (now) expect(opening).toEqual({ open: true, until: now.end >= at + 599 * DAY ? null : now.end });
        else expect(opening).toEqual({ open: false, opensAt: next?.start ?? null });
      }),
    );
  });
  it('is open exactly when the clock on the wall stands within an interval of its day, or of the day before', () => {
    const wall = new Intl.DateTimeFormat('sv-SE', {
      timeZone: 'Europe/Dublin',
      dateStyle: 'short',
      timeStyle: 'short',
    });
    fc.assert(
      fc.property(pattern('Europe/Dublin'), fc.integer({ min: 0, max: 520 * 96 }), (p, quarter) => {
        const at = START + quarter * 900_000;
        const [day = '', time = ''] = wall.format(at).split(' ');
        // The hour that comes twice is its first run by our reading, either by the wall's.
        fc.pre(!/-10-(2[4-9]|3[01])$/.test(day) && !/-03-(2[4-9]|3[01])$/.test(day));
        const of = (date: string) =>
          p.exceptions?.find((e) => e.date === date)?.intervals ?? p.weekly.filter((w) => w.day === weekdayOf(date));
        const open =
          of(day).some(({ from, to }) => from <= time && (to <= from || time < to)) ||
          of(plusDays(day, -1)).some(({ from, to }) => to <= from && time < to);
        expect(openAt(p, at).open).toBe(open);
      }),
    );
  });
  it('counts seconds of opening over any length, whole to the second at both ends', () => {
    expect(openSeconds(holidays, utc('2026-11-30T16:59:00'), utc('2027-02-01T09:00:30'))).toBe(90);
    const shop = hours('Europe/Dublin', [1, '09:00', '17:00']);
    expect(openSeconds(shop, utc('2026-01-01T00:00:00'), utc('2027-01-01T00:00:00'))).toBe(52 * 8 * 3600);
    fc.assert(
      fc.property(
        pattern('UTC'),
        fc.array(fc.integer({ min: 0, max: 520 * 96 }), { minLength: 3, maxLength: 3 }),
        (p, q) => {
          const [a = 0, b = 0, c = 0] = q.toSorted((x, y) => x - y).map((n) => START + n * 900_000);
          expect(openSeconds(p, a, b) + openSeconds(p, b, c)).toBe(openSeconds(p, a, c));
        },
      ),
      { numRuns: 30 },
    );
  });
});
