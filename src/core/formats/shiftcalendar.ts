import ICAL from 'ical.js';
import type { DatedDay, WeeklyInterval } from '../hours/weekly';
import type { Shift } from '../people/coverage';

/**
 * Shifts read from a calendar, by the address of whom each is for; `''` is whoever the file is given to. `faults`
 * name what was left out.
 */
export type CalendarShifts = { readonly shifts: ReadonlyMap<string, Shift>; readonly faults: readonly string[] };

type Gathered = {
  readonly weekly: WeeklyInterval[];
  readonly days: Map<string, { readonly intervals: { from: string; to: string }[]; readonly note: string }>;
};

const two = (n: number) => String(n).padStart(2, '0');
const dateOf = (t: ICAL.Time) => `${t.year}-${two(t.month)}-${two(t.day)}`;
const timeOf = (t: ICAL.Time) => `${two(t.hour)}:${two(t.minute)}`;
const WEEKDAYS: Readonly<Record<string, number>> = { MO: 1, TU: 2, WE: 3, TH: 4, FR: 5, SA: 6, SU: 7 };
/** How many dated days one event may make: a year of daily shifts. */
const MOST_DATES = 366;
/** How many events a file may have, and how many instants all of them together may be followed through. */
const MOST_EVENTS = 5000;
const MOST_INSTANTS = 10_000;
/** Shifts and openings recur by the day at most; anything finer is no calendar of them, and may never end. */
const TOO_FINE = ['SECONDLY', 'MINUTELY', 'HOURLY'];

/**
 * Reads shifts from iCalendar (RFC 5545), as local times of each event's own zone. An endless weekly rule becomes
 * part of the week, its EXDATEs days off; any other event becomes dated days, at most a year of them. An all-day or
 * transparent event is a day off. ATTENDEE or else ORGANIZER says for whom. With a `range` of days (YYYY-MM-DD, both
 * counted) what recurs is followed within it only, endless weekly rules included, and nothing becomes part of the
 * week. Throws RangeError when the text is no calendar.
 */
export function readShiftCalendar(
  text: string,
  range: { readonly from: string; readonly to: string } | null = null,
): CalendarShifts {
  let events: ICAL.Component[];
  try {
    const calendar: unknown = ICAL.parse(text);
    if (!Array.isArray(calendar)) throw new Error('no calendar');
    events = new ICAL.Component(calendar).getAllSubcomponents('vevent');
  } catch (error) {
    throw new RangeError(`This is not an iCalendar file: ${error instanceof Error ? error.message : 'unreadable'}`);
  }
  const found = new Map<string, Gathered>();
  const faults: string[] = [];
  if (events.length === 0) throw new RangeError('This calendar holds no events.');
  if (events.length > MOST_EVENTS) throw new RangeError(`This calendar holds more than ${MOST_EVENTS} events.`);
  let instants = 0;
  for (const one of events) {
    const event = new ICAL.Event(one);
    const title = event.summary || 'An event without a name';
    const start = event.startDate;
    if (!start) {
      faults.push(`${title} has no start.`);
      continue;
    }
    const who = addressOf(one);
    const mine: Gathered = found.get(who) ?? { weekly: [], days: new Map() };
    found.set(who, mine);
    const off = start.isDate || one.getFirstPropertyValue('transp') === 'TRANSPARENT';
    const interval = { from: timeOf(start), to: timeOf(event.endDate) };
    const put = (date: string, work: boolean) => {
      const day = mine.days.get(date) ?? { intervals: [], note: title };
      if (work) day.intervals.push(interval);
      mine.days.set(date, day);
    };
    const rule = one.getFirstPropertyValue('rrule');
    const line = lineOf(text, String(one.getFirstPropertyValue('uid') ?? ''));
    if (rule instanceof ICAL.Recur && TOO_FINE.includes(rule.freq)) {
      faults.push(`${title}${line} recurs more often than daily; it was left out.`);
      continue;
    }
    const exdates = one.getAllProperties('exdate').flatMap((p) => p.getValues() as ICAL.Time[]);
    if (
      range === null &&
      rule instanceof ICAL.Recur &&
      !off &&
      rule.freq === 'WEEKLY' &&
      rule.interval === 1 &&
      !rule.until &&
      !rule.count
    ) {
      const days = (rule.parts.BYDAY as string[] | undefined)?.map((d) => WEEKDAYS[d.slice(-2)] ?? 0) ?? [
        ((start.dayOfWeek() + 5) % 7) + 1,
      ];
      for (const day of days) if (day > 0) mine.weekly.push({ day, ...interval });
      for (const date of exdates) put(dateOf(date), false);
      continue;
    }
    const skipped = new Set(exdates.map(dateOf));
    let dates: string[] = [dateOf(start)];
    if (event.isRecurring()) {
      dates = [];
      const iterator = event.iterator();
      for (let next = iterator.next(); next && dates.length < MOST_DATES; next = iterator.next()) {
        if (++instants > MOST_INSTANTS)
          throw new RangeError(
            `${title}${line} recurs too often: a calendar is followed through ${MOST_INSTANTS} instants at most.`,
          );
        if (range && dateOf(next) > range.to) break;
        if (!range || dateOf(next) >= range.from) dates.push(dateOf(next));
      }
      if (dates.length === MOST_DATES && !range)
        faults.push(`${title} goes on for more than a year; the first ${MOST_DATES} days were taken.`);
    } else if (start.isDate) {
      const last = event.endDate.clone();
      for (const day = start.clone(); dates.length < MOST_DATES; dates.push(dateOf(day))) {
        day.adjust(1, 0, 0, 0);
        if (day.compare(last) >= 0) break;
      }
    }
    for (const date of dates)
      if (!skipped.has(date) && (!range || (date >= range.from && date <= range.to))) put(date, !off);
  }
  return {
    faults,
    shifts: new Map(
      [...found].map(([who, { weekly, days }]) => [
        who,
        {
          weekly,
          exceptions: [...days]
            .map(([date, day]): DatedDay => ({ date, ...day }))
            .sort((a, b) => (a.date < b.date ? -1 : 1)),
        },
      ]),
    ),
  };
}

/** Where an event stands, for a sentence about it: ` (line 12)`, or nothing where it has no name of its own. */
function lineOf(text: string, uid: string): string {
  const at = uid === '' ? -1 : text.indexOf(`UID:${uid}`);
  return at < 0 ? '' : ` (line ${text.slice(0, at).split('\n').length})`;
}

function addressOf(event: ICAL.Component): string {
  const value = event.getFirstPropertyValue('attendee') ?? event.getFirstPropertyValue('organizer');
  return typeof value === 'string'
    ? value
        .replace(/^mailto:/i, '')
        .trim()
        .toLowerCase()
    : '';
}
