import { describe, expect, it } from 'vitest';
import { daysFrom } from '../../hours/dates';
import { openAt, type WeekPattern } from '../../hours/weekly';
import { readShiftCalendar } from './shifts';

const TODAY = '2026-11-20';
const ZONES: Readonly<Record<string, string>> = { 'ida@x.example': 'Europe/Dublin', 'pia@x.example': 'Europe/Warsaw' };
const zoneFor = (who: string) => ZONES[who] ?? 'Europe/Lisbon';
const calendar = (...events: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//example//EN',
    ...events.flatMap((e, i) => [
      'BEGIN:VEVENT',
      `UID:${i}@x`,
      'DTSTAMP:20261101T000000Z',
      ...e.split('|'),
      'END:VEVENT',
    ]),
    'END:VCALENDAR',
  ].join('\r\n');
const read = (...events: string[]) => readShiftCalendar(calendar(...events), TODAY, zoneFor);

describe('shifts from a calendar', () => {
  it('an endless weekly rule becomes the week; before it begins, and where it is left out, the day differs', () => {
    const { shifts, faults } = read(
      'SUMMARY:Early|ATTENDEE:mailto:Ida@x.example|DTSTART:20261123T080000|DTEND:20261123T160000|RRULE:FREQ=WEEKLY;BYDAY=MO,WE|EXDATE:20261125T080000',
    );
    expect(faults).toEqual([]);
    expect(shifts.get('ida@x.example')).toEqual({
      weekly: [
        { day: 1, from: '08:00', to: '16:00' },
        { day: 3, from: '08:00', to: '16:00' },
      ],
      exceptions: [{ date: '2026-11-25', intervals: [], note: 'Early' }],
    });
    const later = read('SUMMARY:Late|DTSTART:20261207T120000|DTEND:20261207T200000|RRULE:FREQ=WEEKLY');
    expect(later.shifts.get('')?.exceptions.map((e) => [e.date, e.intervals])).toEqual([
      ['2026-11-23', []],
      ['2026-11-30', []],
    ]);
  });
  it('of two shifts of a day one is left out, and the other stays', () => {
    const { shifts } = read(
      'SUMMARY:Morning|DTSTART:20261102T080000|DTEND:20261102T120000|RRULE:FREQ=WEEKLY|EXDATE:20261130T080000',
      'SUMMARY:Evening|DTSTART:20261102T160000|DTEND:20261102T200000|RRULE:FREQ=WEEKLY',
    );
    expect(shifts.get('')?.exceptions).toEqual([
      { date: '2026-11-30', intervals: [{ from: '16:00', to: '20:00' }], note: 'Morning, Evening' },
    ]);
  });
  it('single events become dated days, all-day ones days off, counted rules as many days', () => {
    const { shifts } = read(
      'SUMMARY:Fair|DTSTART:20261205T100000|DTEND:20261205T150000',
      'SUMMARY:Leave|DTSTART;VALUE=DATE:20261224|DTEND;VALUE=DATE:20261227',
      'SUMMARY:Course|DTSTART:20261201T090000|DTEND:20261201T100000|RRULE:FREQ=DAILY;COUNT=2',
      'SUMMARY:Away|TRANSP:TRANSPARENT|DTSTART:20261210T090000|DTEND:20261210T100000',
      'SUMMARY:Done|DTSTART:20261110T090000|DTEND:20261110T100000',
    );
    expect(shifts.get('')?.exceptions.map((e) => [e.date, e.intervals.length])).toEqual([
      ['2026-11-10', 1],
      ['2026-12-01', 1],
      ['2026-12-02', 1],
      ['2026-12-05', 1],
      ['2026-12-10', 0],
      ['2026-12-24', 0],
      ['2026-12-25', 0],
      ['2026-12-26', 0],
    ]);
  });
  it('is told by the clock of whom it is for, at every hour of the year ahead', () => {
    const weekly = 'DTSTART:20261102T070000Z|DTEND:20261102T150000Z|RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR';
    const { shifts } = read(`SUMMARY:Day|ATTENDEE:mailto:pia@x.example|${weekly}`);
    const shift = shifts.get('pia@x.example');
    expect(shift?.weekly[0]).toEqual({ day: 1, from: '08:00', to: '16:00' });
    const pattern: WeekPattern = {
      zone: 'Europe/Warsaw',
      weekly: shift?.weekly ?? [],
      exceptions: shift?.exceptions ?? [],
    };
    // Of 7 to 15 in UTC, whatever the clock in Warsaw shows meanwhile.
    for (const date of daysFrom('2026-11-23', '2027-11-20')) {
      const works = ![0, 6].includes(new Date(date).getUTCDay());
      for (const [hour, within] of [
        ['06:30', false],
        ['07:30', true],
        ['14:30', true],
        ['15:30', false],
      ] as const)
        expect([date, hour, openAt(pattern, Date.parse(`${date}T${hour}:00Z`)).open]).toEqual([
          date,
          hour,
          works && within,
        ]);
    }
  });
  it('says what goes on for longer than a year, and what takes no time', () => {
    const { faults } = read(
      'SUMMARY:Monthly|DTSTART:20261205T100000|DTEND:20261205T150000|RRULE:FREQ=MONTHLY',
      'SUMMARY:Note|DTSTART:20261205T100000',
    );
    expect(faults).toEqual(['“Monthly” goes on after 2027-11-21; taken until then.', 'Line 12: “Note” takes no time.']);
  });
  it('refuses what is no calendar', () => {
    expect(() => readShiftCalendar('BEGIN:VCALENDAR\r\nnonsense', TODAY, zoneFor)).toThrow(RangeError);
    expect(() => read()).toThrow(/no events/);
  });
});
