import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DatedDay, Hours } from '../hours/weekly';
import { readHoursCalendar, writeHoursCalendar } from './hourscalendar';

const YEAR = { from: '2026-01-01', to: '2027-12-31' };
const calendar = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR'].join('\r\n');
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:1', ...lines, 'END:VEVENT'];

describe('exceptions of opening hours as a calendar', () => {
  it('an all-day event closes its days, one with times opens them differently', () => {
    const { exceptions, faults } = readHoursCalendar(
      calendar(
        ...event('SUMMARY:Stocktaking', 'DTSTART;VALUE=DATE:20261203', 'DTEND;VALUE=DATE:20261205'),
        ...event(
          'SUMMARY:Late night',
          'DTSTART;TZID=Europe/Dublin:20261210T100000',
          'DTEND;TZID=Europe/Dublin:20261210T210000',
        ),
      ),
      YEAR,
    );
    expect(faults).toEqual([]);
    expect(exceptions).toEqual([
      { date: '2026-12-03', intervals: [], note: 'Stocktaking' },
      { date: '2026-12-04', intervals: [], note: 'Stocktaking' },
      { date: '2026-12-10', intervals: [{ from: '10:00', to: '21:00' }], note: 'Late night' },
    ]);
  });
  it('what recurs is followed within the days given, exceptions to it left out', () => {
    const yearly = readHoursCalendar(
      calendar(...event('SUMMARY:Holiday', 'DTSTART;VALUE=DATE:20101225', 'RRULE:FREQ=YEARLY')),
      YEAR,
    );
    expect(yearly.exceptions.map((e) => e.date)).toEqual(['2026-12-25', '2027-12-25']);
    const monthly = readHoursCalendar(
      calendar(
        ...event(
          'SUMMARY:Training',
          'DTSTART;VALUE=DATE:20261001',
          'RRULE:FREQ=MONTHLY;COUNT=3',
          'EXDATE;VALUE=DATE:20261101',
        ),
      ),
      YEAR,
    );
    expect(monthly.exceptions.map((e) => e.date)).toEqual(['2026-10-01', '2026-12-01']);
    const weekly = readHoursCalendar(
      calendar(
        ...event('SUMMARY:Short Friday', 'DTSTART:20261204T090000', 'DTEND:20261204T130000', 'RRULE:FREQ=WEEKLY'),
      ),
      { from: '2026-12-05', to: '2026-12-20' },
    );
    expect(weekly.exceptions).toEqual(
      ['2026-12-11', '2026-12-18'].map((date) => ({
        date,
        intervals: [{ from: '09:00', to: '13:00' }],
        note: 'Short Friday',
      })),
    );
  });
  it('refuses what is no calendar', () => {
    for (const text of ['', 'closed', 'BEGIN:VCALENDAR\r\nEND:VCALENDAR'])
      expect(() => readHoursCalendar(text, YEAR)).toThrow(RangeError);
  });
  it('gives back what it wrote', () => {
    const time = fc
      .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    const day = fc.record({
      date: fc.integer({ min: 0, max: 600 }).map((n) => new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10)),
      note: fc.stringMatching(/^[A-Za-z][A-Za-z0-9 ,;é]{0,18}[a-z]$/),
      intervals: fc.array(fc.record({ from: time, to: time }), { maxLength: 3 }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(day, { selector: (d) => d.date, maxLength: 12 }), (days) => {
        const exceptions: DatedDay[] = [...days].sort((a, b) => (a.date < b.date ? -1 : 1));
        const hours: Hours = { id: 'h', name: 'Shop', zone: 'Europe/Dublin', weekly: [], exceptions };
        if (exceptions.length > 0)
          expect(readHoursCalendar(writeHoursCalendar(hours), YEAR)).toEqual({ exceptions, faults: [] });
      }),
    );
  });
});
