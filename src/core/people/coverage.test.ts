import { describe, expect, it } from 'vitest';
import { readTable } from '../formats/csv';
import { endOfDay, localDate, nextTime, openingsBetween } from '../hours/weekly';
import { HALF_HOUR, peopleNeeded, plannedPerHalfHour, workPerSlot } from './coverage';
import { readShiftTable } from './shifttable';

const DUBLIN = 'Europe/Dublin';
const week = {
  zone: DUBLIN,
  weekly: [{ day: 1, from: '09:00', to: '17:00' }],
  exceptions: [
    { date: '2026-11-30', intervals: [], note: 'closed' },
    { date: '2026-11-24', intervals: [{ from: '10:00', to: '12:00' }], note: '' },
  ],
};
const MONDAY = Date.parse('2026-11-23T00:00:00Z');

describe('shifts', () => {
  it('follow the week, with a dated day in its place', () => {
    expect(openingsBetween(week, MONDAY, MONDAY + 14 * 86_400_000).map((s) => new Date(s.start).toISOString())).toEqual(
      ['2026-11-23T09:00:00.000Z', '2026-11-24T10:00:00.000Z'],
    );
  });
  it('count people in each half-hour that they cover at least half of', () => {
    const counts = plannedPerHalfHour(
      [week, { zone: DUBLIN, weekly: [{ day: 1, from: '09:20', to: '10:45' }] }],
      MONDAY,
      336,
    );
    expect(counts.slice(17, 23)).toEqual([0, 1, 2, 2, 2, 1]);
  });
  it('work is spread over the slots it touches, by share', () => {
    expect([
      ...workPerSlot(
        [
          { from: 0, to: HALF_HOUR * 1.5, share: 1 },
          { from: HALF_HOUR, to: HALF_HOUR * 2, share: 0.25 },
        ],
        0,
        3,
        HALF_HOUR,
      ),
    ]).toEqual([1, 0.75, 0]);
  });
  it('people needed are the load over 85%, rounded up', () => {
    expect([0, 0.2, 0.85, 0.86, 8.5].map(peopleNeeded)).toEqual([0, 1, 1, 2, 10]);
  });
  it('the last day of something ends at the local midnight, also when clocks change', () => {
    expect(endOfDay('2026-11-23', 'Europe/Lisbon')).toBe(Date.parse('2026-11-24T00:00:00Z'));
    expect(endOfDay('2026-10-25', 'Europe/Warsaw')).toBe(Date.parse('2026-10-25T23:00:00Z'));
    expect(localDate(Date.parse('2026-11-23T23:30:00Z'), 'Europe/Warsaw')).toBe('2026-11-24');
  });
  it('“until 14:00” is today while that is ahead, else tomorrow', () => {
    const at = Date.parse('2026-11-23T10:00:00Z');
    expect(nextTime(at, DUBLIN, '14:00')).toBe(Date.parse('2026-11-23T14:00:00Z'));
    expect(nextTime(at, DUBLIN, '10:00')).toBe(Date.parse('2026-11-24T10:00:00Z'));
  });
});

describe('shifts from a table', () => {
  it('reads weekdays and dates, and names the rows it leaves out', () => {
    const { shifts, faults } = readShiftTable(
      readTable(
        [
          'who;day;from;to',
          'a@x.example;mon;9:00;17.30',
          'A@x.example;2026-12-24;;',
          'Front desk;3;08:00;16:00',
          'b@x.example;someday;08:00;16:00',
          'b@x.example;fri;8;16:00',
          '',
        ].join('\n'),
      ),
    );
    expect(shifts.get('a@x.example')).toEqual({
      weekly: [{ day: 1, from: '09:00', to: '17:30' }],
      exceptions: [{ date: '2026-12-24', intervals: [], note: '' }],
    });
    expect(shifts.get('front desk')?.weekly).toEqual([{ day: 3, from: '08:00', to: '16:00' }]);
    expect(faults).toEqual([
      { row: 5, what: '“someday” is neither a weekday nor a date such as 2026-12-24' },
      { row: 6, what: '“8–16:00” are not times such as 08:30' },
    ]);
  });
  it('says which columns are missing', () =>
    expect(readShiftTable(readTable('who,when\na,b\n')).faults[0]?.what).toBe('there is no column day, from, to'));
});
