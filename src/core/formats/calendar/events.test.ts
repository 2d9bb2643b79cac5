import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { sized } from '../../../../tests/helpers/size';
import { plusDays } from '../../hours/dates';
import { textOf } from '../bytes';
import { readCalendar, type When } from './events';

const RANGE = { from: '2026-11-01', to: '2027-10-31' };
const HOME = 'Europe/Lisbon';
const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//example//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
let made = 0;
const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  ...(lines.some((l) => l.startsWith('UID:')) ? [] : [`UID:e${made++}@example`]),
  'DTSTAMP:20261001T000000Z',
  ...lines,
  'END:VEVENT',
];
const DUBLIN = [
  'BEGIN:VTIMEZONE',
  'TZID:Our office',
  'BEGIN:STANDARD',
  'DTSTART:19961027T020000',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0000',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19810329T010000',
  'TZOFFSETFROM:+0000',
  'TZOFFSETTO:+0100',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
];

const said = (when: When): string =>
  'days' in when
    ? when.days.join(' to ')
    : `${new Date(when.start).toISOString().slice(0, 16)} to ${new Date(when.end).toISOString().slice(0, 16)}`;
const read = (text: string) => {
  const { events, faults } = readCalendar(text, RANGE, () => HOME);
  return { times: events.flatMap((e) => e.times.map(said)).sort(), faults };
};
const faultsOf = (...lines: string[]) =>
  read(calendar(...event('DTSTART:20261210T100000', 'SUMMARY:There'), ...lines)).faults;

/** The offset of a zone by what Intl shows of it, ms. */
function offsetAt(zone: string, at: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(at);
  const n = (type: string) => Number(parts.find((p) => p.type === type)?.value);
  return Date.UTC(n('year'), n('month') - 1, n('day'), n('hour'), n('minute'), n('second')) - at;
}
/**
 * A second reading, by the calendar package's own recurrence, exceptions and zones; IANA names by what Intl shows. It
 * takes no part in ours, which has only single properties from that package.
 */
function byPackage(text: string): string[] {
  const root = new ICAL.Component(ICAL.parse(text) as unknown as string);
  const zones = new Map(
    root.getAllSubcomponents('vtimezone').map((c) => {
      const zone = new ICAL.Timezone(c);
      return [zone.tzid, zone] as const;
    }),
  );
  const instant = (time: ICAL.Time, tzid: string | undefined): number => {
    const wall = Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second);
    if (time.zone === ICAL.Timezone.utcTimezone) return wall;
    const described = zones.get(tzid ?? '');
    if (described) {
      const there = time.clone();
      there.zone = described;
      return there.toUnixTime() * 1000;
    }
    const zone = tzid ?? HOME;
    const guess = wall - offsetAt(zone, wall);
    return wall - offsetAt(zone, guess);
  };
  const events = root.getAllSubcomponents('vevent').map((c) => new ICAL.Event(c));
  const found: string[] = [];
  const put = (start: ICAL.Time, end: ICAL.Time, tzid?: string) => {
    if (start.isDate) {
      const days: [string, string] = [start.toString(), plusDays(end.toString(), -1)];
      const to = days[1] < days[0] ? days[0] : days[1];
      if (to >= RANGE.from && days[0] <= RANGE.to) found.push(said({ days: [days[0], to] }));
      return;
    }
    const when = { start: instant(start, tzid), end: instant(end, tzid) };
    if (when.end >= Date.parse(RANGE.from) && when.start <= Date.parse(`${RANGE.to}T24:00Z`)) found.push(said(when));
  };
  const tzidOf = (e: ICAL.Event) => e.component.getFirstProperty('dtstart')?.getFirstParameter('tzid');
  for (const master of events.filter((e) => !e.isRecurrenceException())) {
    for (const other of events)
      if (other.isRecurrenceException() && other.uid === master.uid) master.relateException(other);
    if (!master.isRecurring()) put(master.startDate, master.endDate, tzidOf(master));
    else {
      const iterator = master.iterator();
      for (let next = iterator.next(); next && next.toString() < '2027-11-02'; next = iterator.next()) {
        const { item, startDate, endDate } = master.getOccurrenceDetails(next);
        if (item.component.getFirstPropertyValue('status') !== 'CANCELLED') put(startDate, endDate, tzidOf(item));
      }
    }
  }
  return found.sort();
}

const FILES: readonly (readonly [string, string])[] = [
  ['times in UTC', calendar(...event('DTSTART:20261224T120000Z', 'DTEND:20261224T230000Z'))],
  ['times of no zone', calendar(...event('DTSTART:20261224T120000', 'DTEND:20261224T230000'))],
  [
    'times of zones known by name',
    calendar(
      ...event('DTSTART;TZID=America/New_York:20270315T090000', 'DTEND;TZID=America/New_York:20270315T100000'),
      ...event('DTSTART;TZID=Asia/Kathmandu:20261224T120000', 'DTEND;TZID=Asia/Kathmandu:20261224T134500'),
    ),
  ],
  [
    'times of a zone that the file describes, over both changes of its clock',
    calendar(
      ...DUBLIN,
      ...event(
        'DTSTART;TZID=Our office:20261023T090000',
        'DTEND;TZID=Our office:20261023T173000',
        'RRULE:FREQ=WEEKLY;COUNT=40',
      ),
    ),
  ],
  [
    'a series with an instance moved, one cancelled, one left out and one more',
    calendar(
      ...event(
        'UID:series',
        'DTSTART;TZID=Europe/Dublin:20261102T090000',
        'DTEND;TZID=Europe/Dublin:20261102T100000',
        'RRULE:FREQ=WEEKLY;UNTIL=20261221T090000Z',
        'EXDATE;TZID=Europe/Dublin:20261109T090000',
        'RDATE;TZID=Europe/Dublin:20261111T090000',
      ),
      ...event(
        'UID:series',
        'RECURRENCE-ID;TZID=Europe/Dublin:20261116T090000',
        'DTSTART;TZID=Europe/Dublin:20261117T140000',
        'DTEND;TZID=Europe/Dublin:20261117T160000',
      ),
      ...event(
        'UID:series',
        'RECURRENCE-ID;TZID=Europe/Dublin:20261123T090000',
        'DTSTART;TZID=Europe/Dublin:20261123T090000',
        'DTEND;TZID=Europe/Dublin:20261123T100000',
        'STATUS:CANCELLED',
      ),
    ),
  ],
  [
    'events of several days, repeated too',
    calendar(
      ...event('DTSTART;VALUE=DATE:20261224', 'DTEND;VALUE=DATE:20261228'),
      ...event('DTSTART;VALUE=DATE:20261230', 'DTEND;VALUE=DATE:20270102', 'RRULE:FREQ=MONTHLY;COUNT=4'),
      ...event('DTSTART:20261210T180000', 'DTEND:20261212T080000', 'RRULE:FREQ=WEEKLY;COUNT=2'),
    ),
  ],
  [
    'lengths instead of ends, and neither',
    calendar(
      ...event('DTSTART:20261210T100000', 'DURATION:PT1H30M'),
      ...event('DTSTART:20261211T220000', 'DURATION:P1DT2H'),
      ...event('DTSTART;VALUE=DATE:20261212', 'DURATION:P2D'),
      ...event('DTSTART;VALUE=DATE:20261220'),
    ),
  ],
  [
    'rules by the day, the month and the year',
    calendar(
      ...event('DTSTART:20261201T090000', 'DTEND:20261201T100000', 'RRULE:FREQ=DAILY;INTERVAL=3;COUNT=9'),
      ...event('DTSTART;VALUE=DATE:20261127', 'RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4FR'),
      ...event('DTSTART;VALUE=DATE:20261130', 'RRULE:FREQ=MONTHLY;BYMONTHDAY=-1'),
      ...event('DTSTART;VALUE=DATE:20101225', 'RRULE:FREQ=YEARLY'),
    ),
  ],
];

describe('events of a calendar', () => {
  it.each(FILES)('%s: as a second reading has it', (_, text) => {
    const { times, faults } = read(text);
    expect(faults.filter((f) => !f.includes('outside'))).toEqual([]);
    expect(times).toEqual(byPackage(text));
    expect(times.length).toBeGreaterThan(0);
  });
  it('what is left out and added is told by instants, in whatever zone, as days, and as periods', () => {
    expect(
      read(
        calendar(
          ...event(
            'DTSTART;TZID=Europe/Dublin:20270401T090000',
            'DURATION:PT1H',
            'RRULE:FREQ=DAILY;COUNT=5',
            'EXDATE:20270402T080000Z',
            'EXDATE;VALUE=DATE:20270403',
            'RDATE;VALUE=PERIOD:20270410T120000Z/PT3H,20270411T120000Z/20270411T130000Z',
          ),
        ),
      ).times,
    ).toEqual([
      '2027-04-01T08:00 to 2027-04-01T09:00',
      '2027-04-04T08:00 to 2027-04-04T09:00',
      '2027-04-05T08:00 to 2027-04-05T09:00',
      '2027-04-10T12:00 to 2027-04-10T15:00',
      '2027-04-11T12:00 to 2027-04-11T13:00',
    ]);
  });
  it('of several versions the last counts; cancelled ones, and all of a calendar that cancels, are gone', () => {
    const versions = (...more: string[]) =>
      calendar(
        ...event('UID:v', 'SEQUENCE:2', 'DTSTART:20261210T120000', 'DURATION:PT1H'),
        ...event('UID:v', 'SEQUENCE:1', 'DTSTART:20261210T090000', 'DURATION:PT1H'),
        ...more,
      );
    expect(read(versions()).times).toEqual(['2026-12-10T12:00 to 2026-12-10T13:00']);
    expect(
      read(versions(...event('UID:v', 'SEQUENCE:3', 'STATUS:CANCELLED', 'DTSTART:20261210T090000'))).times,
    ).toEqual([]);
    expect(read(versions().replace('VERSION:2.0', 'VERSION:2.0\r\nMETHOD:CANCEL')).times).toEqual([]);
  });
  it('a moved instance comes into the range from outside, and goes out of it', () => {
    const series = event('UID:s', 'DTSTART:20261020T090000', 'DURATION:PT1H', 'RRULE:FREQ=DAILY;COUNT=14');
    const moved = (from: string, to: string) =>
      event('UID:s', `RECURRENCE-ID:${from}T090000`, `DTSTART:${to}T150000`, 'DURATION:PT1H');
    const { times } = read(calendar(...series, ...moved('20261021', '20261105'), ...moved('20261102', '20251102')));
    expect(times).toContain('2026-11-05T15:00 to 2026-11-05T16:00');
    expect(times.filter((t) => t.startsWith('2026-11-02'))).toEqual([]);
  });
  it('lines folded within a character are put together, by whatever ends them', () => {
    const text = calendar(...event('DTSTART;VALUE=DATE:20261224', 'SUMMARY:Nochebuena é último')).replaceAll(
      '\r\n',
      '\n',
    );
    const bytes = [...new TextEncoder().encode(text)];
    const at = bytes.indexOf(0xc3) + 1;
    for (const fold of [
      [13, 10, 32],
      [10, 9],
    ]) {
      const folded = Uint8Array.from([...bytes.slice(0, at), ...fold, ...bytes.slice(at)]);
      expect(readCalendar(textOf(folded), RANGE, () => HOME).events[0]?.title).toBe('Nochebuena é último');
    }
    for (const mark of ['utf-16le', 'utf-16be'] as const) {
      const units = [...`\uFEFF${text}`].map((c) => c.charCodeAt(0));
      const of = units.flatMap((u) => (mark === 'utf-16le' ? [u & 255, u >> 8] : [u >> 8, u & 255]));
      expect(readCalendar(textOf(Uint8Array.from(of)), RANGE, () => HOME).events[0]?.title).toBe('Nochebuena é último');
    }
  });
  it('what cannot be read for sure is left out with its line, and the rest is there', () => {
    const one = (...lines: string[]) => faultsOf(...event('SUMMARY:Odd', ...lines));
    expect(one('DTSTART:20260231T090000')).toEqual([
      'Line 14: “Odd” was left out: DTSTART says 2026-02-31T09:00:00, which is no day and time there is.',
    ]);
    expect(one()).toEqual(['Line 10: “Odd” was left out: it has no start.']);
    expect(one('DTSTART:20261210T250000')[0]).toContain('Line 14');
    expect(one('DTSTART:20261210T100000', 'DTEND:20261210T090000')[0]).toContain('it ends before it starts');
    expect(one('DTSTART:20261210T100000', 'DTEND;VALUE=DATE:20261211')[0]).toContain('one is a whole day');
    expect(one('DTSTART;TZID=Nowhere/Land:20261210T100000')[0]).toContain('its zone Nowhere/Land is neither described');
    expect(one('DTSTART:20261210T100000', 'RRULE:FREQ=SECONDLY')[0]).toContain(
      'Line 15: “Odd” was left out: it recurs more often',
    );
    expect(one('DTSTART:19900101T100000', 'RRULE:FREQ=DAILY')[0]).toContain('more than 10,000 times');
    expect(one('DTSTART:20261210T100000', 'RRULE:FREQ=NOW')[0]).toContain('RRULE cannot be read');
    expect(one('DTSTART:20261210T100000', 'EXRULE:FREQ=DAILY')[0]).toContain('leaves instances out by a rule');
    expect(one('DTSTART:20261210T100000', 'DURATION:an hour')[0]).toContain('which is no length of time');
    expect(one('DTSTART:20261210T100000', 'DURATION:-PT1H')[0]).toContain('less than nothing');
    expect(one('RECURRENCE-ID;RANGE=THISANDFUTURE:20261210T100000', 'DTSTART:20261210T100000')[0]).toContain(
      'RANGE=THISANDFUTURE',
    );
    const there = read(
      calendar(...event('DTSTART:20260231T090000'), ...event('DTSTART:20261210T100000', 'DURATION:PT1H')),
    );
    expect(there.times).toEqual(['2026-12-10T10:00 to 2026-12-10T11:00']);
  });
  it('what does not end is refused whole, with its line', () => {
    const whole = calendar(...event('DTSTART:20261210T100000'));
    const cut = (lines: number) => whole.split('\r\n').slice(0, lines).join('\r\n');
    expect(() => read(cut(6))).toThrow('The file ends before VCALENDAR of line 1 does.');
    expect(() => read(whole.replace('END:VEVENT\r\n', ''))).toThrow(
      'Line 8 ends VCALENDAR, while VEVENT of line 4 is open.',
    );
    expect(() => read('hello')).toThrow('This is not an iCalendar file: line 1');
    expect(() => read(calendar())).toThrow('This calendar holds no events.');
    expect(() => read('')).toThrow('it holds no calendar');
  });
  it('whatever is done to a file, it is read, told or refused in a sentence', () => {
    const texts = FILES.map(([, text]) => text);
    const piece = fc.constantFrom(
      '\r\n',
      ';',
      ':',
      ',',
      '=',
      '2',
      'Z',
      'RRULE:FREQ=DAILY',
      'é',
      '\0',
      'BEGIN:VEVENT',
      '-',
      'TZID=',
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...texts),
        fc.array(fc.tuple(fc.nat(4000), fc.nat(12), piece), { minLength: 1, maxLength: 4 }),
        (text, edits) => {
          let broken = text;
          for (const [at, gone, put] of edits) {
            const place = at % broken.length;
            broken = broken.slice(0, place) + put + broken.slice(place + gone);
          }
          try {
            const { events, faults } = readCalendar(broken, RANGE, () => HOME);
            for (const fault of faults) expect(fault).toMatch(/\.$/);
            for (const when of events.flatMap((e) => e.times))
              expect('days' in when ? when.days[1] >= when.days[0] : when.end >= when.start).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(RangeError);
          }
        },
      ),
      { numRuns: sized({ quick: 100, usual: 500, long: 20_000 }) },
    );
  });
});
