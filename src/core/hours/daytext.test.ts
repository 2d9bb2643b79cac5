import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayFrom, timeFrom } from './daytext';

describe('a day as it is typed', () => {
  it.each([
    ['2026-11-16', '2026-11-16'],
    ['16/11/2026', '2026-11-16'],
    ['16.11.26', '2026-11-16'],
    ['1-2-2027', '2027-02-01'],
    ['16 Nov 2026', '2026-11-16'],
    ['Mon, 16 November 2026', '2026-11-16'],
    [' 5 jan. 27 ', '2027-01-05'],
    ['29.2.2028', '2028-02-29'],
  ])('%s', (text, day) => expect(dayFrom(text)).toBe(day));
  it.each(['', '16 Nov', '31/02/2026', '29.2.2027', '13/13/2026', 'tomorrow', '16 Foo 2026', '1/1/1', '2026-1'])(
    'nothing is guessed of %s',
    (text) => expect(dayFrom(text)).toBeNull(),
  );
  it('every day that exists is read back as it was written, in every way of writing it', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date('1900-01-01'), max: new Date('2199-12-31'), noInvalidDate: true }), (at) => {
        const iso = at.toISOString().slice(0, 10);
        const [y, m, d] = iso.split('-');
        const named = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' }).format(at);
        return [iso, `${d}/${m}/${y}`, `${Number(d)}.${Number(m)}.${y}`, named].every((text) => dayFrom(text) === iso);
      }),
    );
  });
});

describe('a time as it is typed', () => {
  it.each([
    ['9', '09:00'],
    ['930', '09:30'],
    ['9:30', '09:30'],
    ['09.30', '09:30'],
    ['1745', '17:45'],
    ['0:05', '00:05'],
  ])('%s', (text, time) => expect(timeFrom(text)).toBe(time));
  it.each(['', '24', '9:60', 'noon', '9:3', '123456'])('%s is none', (text) => expect(timeFrom(text)).toBeNull());
});
