import { describe, expect, it } from 'vitest';
import { openAt, openings, type Hours } from './weekly';

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
