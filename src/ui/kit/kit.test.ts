import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { localDate } from '@/core/hours/weekly';
import { asClock, asCount, asDay, asDayTime, asFigure, asShare, asShortDay, asTime, initials } from './figures';
import { usualRanges } from './ranges';
import { inOrder } from './table';

describe('how figures are written', () => {
  it.each([
    [null, '–'],
    [0, '0:00'],
    [59.4, '0:59'],
    [59.5, '1:00'],
    [3599, '59:59'],
    [3600, '1:00:00'],
    [90_061, '25:01:01'],
    [-3, '0:00'],
  ])('%s seconds are %s', (seconds, words) => expect(asClock(seconds)).toBe(words));
  it('a clock can be read back to the second, and longer is never shorter', () => {
    const secondsOf = (clock: string) => clock.split(':').reduce((n, part) => n * 60 + Number(part), 0);
    fc.assert(
      fc.property(fc.nat(400_000), (seconds) => {
        expect(secondsOf(asClock(seconds))).toBe(seconds);
      }),
    );
  });
  it.each([
    [null, 'share', '–'],
    [0.034, 'share', '3.4%'],
    [0.834, 'share', '83%'],
    [1, 'share', '100%'],
    [75, 'seconds', '1:15'],
    [12_419, 'count', '12,419'],
    [0.5, 'count', '1'],
  ] as const)('%s as %s is %s', (value, unit, words) => expect(asFigure(value, unit)).toBe(words));
  it('a share has as many digits as it is asked for', () => {
    expect([asShare(0.12345), asShare(0.12345, 1), asShare(0.12345, 2), asShare(null, 2)]).toEqual([
      '12%',
      '12.3%',
      '12.35%',
      '–',
    ]);
    expect([asCount(null), asCount(1e6)]).toEqual(['–', '1,000,000']);
  });
  it('instants are said in the zone that is asked for, with the year only where it is another', () => {
    const at = Date.parse('2026-12-31T23:30:00Z');
    expect(asTime(at, 'UTC')).toBe('23:30');
    expect(asTime(at, 'Asia/Kathmandu')).toBe('05:15');
    expect(asDayTime(Date.parse('2019-06-01T12:00:00Z'), 'UTC')).toBe('Sat, 1 Jun 2019, 12:00');
    expect(asDayTime(Date.now(), 'UTC')).not.toMatch(/\d{4},/);
  });
  it('a day is that day whatever the zone of whoever looks', () => {
    expect([asDay('2026-11-16'), asShortDay('2026-03-01'), asDay('')]).toEqual(['16 Nov 2026', '1 Mar', '']);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60_000 }), (days) => {
        const day = localDate(days * 86_400_000, 'UTC');
        expect(asDay(day)).toContain(String(Number(day.slice(8))));
        expect(asDay(day)).toContain(day.slice(0, 4));
      }),
    );
  });
  it('initials are of the first two names', () =>
    expect(['Amaia Recalde', 'Cher', 'jan van der Wal', ''].map(initials)).toEqual(['AR', 'C', 'JV', '']));
});

describe('rows in the order of a column', () => {
  const row = fc.record({ at: fc.nat(), by: fc.option(fc.oneof(fc.integer({ min: -5, max: 5 }))) });
  it('rise or fall, what is not known comes last, and equal ones keep the order they came in', () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 20 }), fc.boolean(), (given, falling) => {
        const rows = given.map((r, i) => ({ ...r, at: i }));
        const shown = inOrder(rows, (r) => r.by, falling);
        expect(new Set(shown)).toEqual(new Set(rows));
        for (const [i, now] of shown.entries()) {
          const before = shown[i - 1];
          if (!before) continue;
          if (before.by === null) expect(now.by).toBeNull();
          if (before.by === null || now.by === null) continue;
          expect(falling ? before.by >= now.by : before.by <= now.by).toBe(true);
          if (before.by === now.by) expect(before.at).toBeLessThan(now.at);
        }
        expect(rows.map((r) => r.at)).toEqual(rows.map((_, i) => i));
      }),
    );
  });
  it('words are in the order of the alphabet, not of their codes', () =>
    expect(inOrder(['Zelda', 'élan', 'apple', 'Émile'], (w) => w, false)).toEqual(['apple', 'élan', 'Émile', 'Zelda']));
});

describe('ranges that are asked for again and again', () => {
  it.each([
    ['2026-03-01', 'Yesterday', '2026-02-28', '2026-02-28'],
    ['2024-03-01', 'Yesterday', '2024-02-29', '2024-02-29'],
    ['2026-01-03', 'Last 7 days', '2025-12-28', '2026-01-03'],
    ['2026-11-16', 'Last 28 days', '2026-10-20', '2026-11-16'],
    ['2026-11-16', 'This month', '2026-11-01', '2026-11-16'],
  ])('on %s, %s is %s to %s', (today, name, from, to) =>
    expect(usualRanges(today).find((r) => r.name === name)).toEqual({ name, from, to }),
  );
});
