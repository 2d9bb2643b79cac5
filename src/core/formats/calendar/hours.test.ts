import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sized } from '../../../../tests/helpers/size';
import { plusDays } from '../../hours/dates';
import { type DatedDay, type Hours, openAt, type WeekPattern } from '../../hours/weekly';
import { readHoursCalendar, type TimesMean, writeHoursCalendar } from './hours';

const YEARS = { from: '2026-11-01', to: '2028-10-31' };
const DUBLIN = 'Europe/Dublin';
const SHOP: WeekPattern = {
  zone: DUBLIN,
  weekly: [1, 2, 3, 4, 5, 6].map((day) => ({ day, from: '09:00', to: '18:00' })),
  exceptions: [{ date: '2026-12-24', intervals: [{ from: '09:00', to: '13:00' }], note: 'Short' }],
};
let made = 0;
const calendar = (...events: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    ...events.flatMap((e) => ['BEGIN:VEVENT', `UID:h${made++}`, ...e.split('|'), 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');
const read = (timesMean: TimesMean, ...events: string[]) =>
  readHoursCalendar(calendar(...events), YEARS, SHOP, timesMean);

describe('dated days of opening hours from a calendar', () => {
  it('a whole-day event closes its days, also where it leaves people free; one with times opens its day only then', () => {
    expect(
      read(
        'open',
        'SUMMARY:Stocktaking|DTSTART;VALUE=DATE:20261203|DTEND;VALUE=DATE:20261205|TRANSP:TRANSPARENT',
        'SUMMARY:Late night|DTSTART:20261210T100000|DTEND:20261210T210000',
        'SUMMARY:From home|DTSTART;TZID=America/New_York:20261211T060000|DTEND;TZID=America/New_York:20261211T080000',
      ),
    ).toEqual({
      faults: [],
      exceptions: [
        { date: '2026-12-03', intervals: [], note: 'Stocktaking' },
        { date: '2026-12-04', intervals: [], note: 'Stocktaking' },
        { date: '2026-12-10', intervals: [{ from: '10:00', to: '21:00' }], note: 'Late night' },
        { date: '2026-12-11', intervals: [{ from: '11:00', to: '13:00' }], note: 'From home' },
      ],
    });
  });
  it('or it closes what would be open then: by the week, and by what stands for that day', () => {
    const { exceptions, faults } = read(
      'closed',
      'SUMMARY:Fire drill|DTSTART:20261210T110000|DTEND:20261210T113000',
      'SUMMARY:Party|DTSTART:20261224T120000|DTEND:20261224T200000',
      'SUMMARY:Cleaning|DTSTART:20261215T200000|DTEND:20261215T220000',
      'SUMMARY:Move|DTSTART:20261228T150000|DTEND:20261230T100000',
      'SUMMARY:Holiday|DTSTART;VALUE=DATE:20261225',
    );
    expect(exceptions).toEqual([
      {
        date: '2026-12-10',
        intervals: [
          { from: '09:00', to: '11:00' },
          { from: '11:30', to: '18:00' },
        ],
        note: 'Fire drill',
      },
      { date: '2026-12-24', intervals: [{ from: '09:00', to: '12:00' }], note: 'Party' },
      { date: '2026-12-25', intervals: [], note: 'Holiday' },
      { date: '2026-12-28', intervals: [{ from: '09:00', to: '15:00' }], note: 'Move' },
      { date: '2026-12-29', intervals: [], note: 'Move' },
      { date: '2026-12-30', intervals: [{ from: '10:00', to: '18:00' }], note: 'Move' },
    ]);
    expect(faults).toEqual(['“Cleaning” falls only into times at which it is closed anyway.']);
  });
  it('an opening that goes on past midnight is cut where it is closed, on whichever day that is', () => {
    const night: WeekPattern = { zone: DUBLIN, weekly: [{ day: 5, from: '20:00', to: '04:00' }] };
    const text = calendar('SUMMARY:Change|DTSTART:20261205T010000|DTEND:20261205T020000');
    expect(readHoursCalendar(text, YEARS, night, 'closed').exceptions).toEqual([
      { date: '2026-12-04', intervals: [{ from: '20:00', to: '01:00' }], note: 'Change' },
      { date: '2026-12-05', intervals: [{ from: '02:00', to: '04:00' }], note: 'Change' },
    ]);
  });
  it('what is longer than a day is open on each of its days', () => {
    expect(read('open', 'SUMMARY:Vigil|DTSTART:20261211T200000|DTEND:20261213T060000').exceptions).toEqual([
      { date: '2026-12-11', intervals: [{ from: '20:00', to: '00:00' }], note: 'Vigil' },
      { date: '2026-12-12', intervals: [{ from: '00:00', to: '00:00' }], note: 'Vigil' },
      { date: '2026-12-13', intervals: [{ from: '00:00', to: '06:00' }], note: 'Vigil' },
    ]);
  });
  it('what goes on, lies elsewhere or takes no time is told', () => {
    expect(
      read(
        'open',
        'SUMMARY:Holiday|DTSTART;VALUE=DATE:20101225|RRULE:FREQ=YEARLY',
        'SUMMARY:Old|DTSTART;VALUE=DATE:20101225',
        'SUMMARY:Reminder|DTSTART:20261210T100000',
      ),
    ).toEqual({
      exceptions: ['2026-12-25', '2027-12-25'].map((date) => ({ date, intervals: [], note: 'Holiday' })),
      faults: [
        'One event lies outside 2026-11-01 to 2028-10-31; it was left out.',
        '“Holiday” goes on after 2028-10-31; taken until then.',
        'Line 14: “Reminder” was left out: it takes no time.',
      ],
    });
  });
  it('closed means closed at every minute of an event, and as before at every other', () => {
    const stretch = fc.record({ at: fc.integer({ min: 0, max: 60 * 96 }), quarters: fc.integer({ min: 1, max: 160 }) });
    const begin = Date.parse('2026-11-02T00:00:00Z');
    const utc = (ms: number) => `${new Date(ms).toISOString().replace(/[-:]|\.\d+/g, '')}`;
    const weekly = fc.array(
      fc.record({
        day: fc.integer({ min: 1, max: 7 }),
        from: fc.constantFrom('00:00', '09:00', '13:30', '20:00'),
        to: fc.constantFrom('00:00', '04:00', '12:00', '18:00', '23:00'),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(weekly, fc.array(stretch, { minLength: 1, maxLength: 5 }), (week, list) => {
        const before: WeekPattern = { zone: DUBLIN, weekly: week };
        const shut = list.map(({ at, quarters }) => ({
          start: begin + at * 900_000,
          end: begin + (at + quarters) * 900_000,
        }));
        const text = calendar(...shut.map((s) => `DTSTART:${utc(s.start)}|DTEND:${utc(s.end)}`));
        const { exceptions } = readHoursCalendar(text, YEARS, before, 'closed');
        const after = { ...before, exceptions };
        for (let at = begin - 96 * 900_000; at < begin + 64 * 96 * 900_000; at += 7 * 900_000) {
          const isShut = shut.some((s) => s.start <= at && at < s.end);
          expect([new Date(at).toISOString(), openAt(after, at).open]).toEqual([
            new Date(at).toISOString(),
            !isShut && openAt(before, at).open,
          ]);
        }
        // Brought in again it changes nothing.
        expect(
          readHoursCalendar(text, YEARS, after, 'closed').exceptions.map(
            (e) => after.exceptions.find((x) => x.date === e.date)?.intervals,
          ),
        ).toEqual(readHoursCalendar(text, YEARS, after, 'closed').exceptions.map((e) => e.intervals));
      }),
      { numRuns: sized({ quick: 10, usual: 25, long: 500 }) },
    );
  });
  it('gives back what it wrote', () => {
    const time = fc
      .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    const day = fc.record({
      date: fc.integer({ min: 0, max: 600 }).map((n) => plusDays('2026-11-01', n)),
      note: fc.stringMatching(/^[A-Za-z][A-Za-z0-9 ,;é]{0,18}[a-z]$/).map((note) => note.replace(/ +/g, ' ')),
      intervals: fc.uniqueArray(fc.record({ from: time, to: time }), { maxLength: 3, selector: (i) => i.from + i.to }),
    });
    // The hour that clocks leave out, or show twice, is no time to compare by.
    const plainDay = day.filter((d) => !/-(03-2[5-9]|03-3|10-2[4-9]|10-3)/.test(d.date));
    fc.assert(
      fc.property(fc.uniqueArray(plainDay, { selector: (d) => d.date, minLength: 1, maxLength: 12 }), (days) => {
        const exceptions: DatedDay[] = [...days].sort((a, b) => (a.date < b.date ? -1 : 1));
        const hours: Hours = { id: 'h', name: 'Shop', zone: DUBLIN, weekly: [], exceptions };
        expect(readHoursCalendar(writeHoursCalendar(hours), YEARS, hours, 'open')).toEqual({ exceptions, faults: [] });
      }),
    );
  });
});
