import ICAL from 'ical.js';
import { daysFrom, plusDays } from '../../hours/dates';
import {
  type DatedDay,
  type Hours,
  localDate,
  merged,
  openingsOn,
  type Stretch,
  type WeekPattern,
} from '../../hours/weekly';
import { type DayRange, goingOn, readCalendar } from './events';
import { asIntervals, type Interval, minutely } from './intervals';

/** What events with times mean for opening hours: open only then on their days, or closed then. */
export const TIMES_MEAN = ['open', 'closed'] as const;
export type TimesMean = (typeof TIMES_MEAN)[number];
export type HoursCalendar = { readonly exceptions: readonly DatedDay[]; readonly faults: readonly string[] };

/** The longest note of a dated day. */
const LONGEST_NOTE = 80;
type Titled = Stretch & { readonly title: string };
/** What is left of a stretch without others, which are in order and do not touch. */
function without({ start, end }: Stretch, others: readonly Stretch[]): Stretch[] {
  const left: Stretch[] = [];
  let from = start;
  for (const other of others) {
    if (other.end <= from || other.start >= end) continue;
    if (other.start > from) left.push({ start: from, end: other.start });
    from = Math.max(from, other.end);
  }
  if (from < end) left.push({ start: from, end });
  return left;
}

/** Gathers what each day becomes. */
class Days {
  readonly #days = new Map<string, { intervals: Interval[]; titles: Set<string> }>();
  put(date: string, titles: Iterable<string>, intervals: readonly Interval[] = []): void {
    const day = this.#days.get(date) ?? { intervals: [], titles: new Set<string>() };
    this.#days.set(date, day);
    day.intervals.push(...intervals);
    for (const title of titles) day.titles.add(title);
  }
  dated(): DatedDay[] {
    return [...this.#days]
      .map(([date, { intervals, titles }]) => {
        const differing = new Map(intervals.map((i) => [`${i.from} ${i.to}`, i]));
        return { date, intervals: [...differing.values()], note: [...titles].join(', ').slice(0, LONGEST_NOTE) };
      })
      .sort((a, b) => (a.date < b.date ? -1 : 1));
  }
}

/** Puts what is left open where events close something; gives the titles of those that do. */
function close(days: Days, hours: WeekPattern, range: DayRange, closed: readonly Titled[]): ReadonlySet<string> {
  const shut = merged(closed);
  const taking = new Set<string>();
  // What is open past midnight begins the day before, and what is left of it may begin on the day itself.
  const dates = daysFrom(plusDays(range.from, -1), range.to);
  const left = new Map(
    dates.map((date) => [date, { changed: false, pieces: [] as Stretch[], titles: new Set<string>() }]),
  );
  for (const date of dates)
    for (const opening of openingsOn(hours, date)) {
      const pieces = without(opening, shut);
      const [first] = pieces;
      const changed = pieces.length !== 1 || first?.start !== opening.start || first.end !== opening.end;
      const titles = changed
        ? closed.filter((c) => c.start < opening.end && c.end > opening.start).map((c) => c.title)
        : [];
      for (const [day, some] of [[date, []], ...pieces.map((p) => [localDate(p.start, hours.zone), [p]])] as [
        string,
        Stretch[],
      ][]) {
        const there = left.get(day);
        if (!there) continue;
        there.pieces.push(...some);
        there.changed ||= changed;
        for (const title of titles) there.titles.add(title);
      }
      for (const title of titles) taking.add(title);
    }
  for (const [date, { changed, pieces, titles }] of left)
    if (changed && date >= range.from)
      days.put(
        date,
        titles,
        pieces.flatMap((p) => [...asIntervals(hours.zone, p)].map(({ from, to }) => ({ from, to }))),
      );
  return taking;
}

/**
 * Dated days of opening hours from a calendar (RFC 5545), for the days of the range by the clock of the hours. Whole-day
 * events close their days. Those with times open their days only then, or close what would be open then by what stands
 * for that day. Throws RangeError when the text is no calendar.
 */
export function readHoursCalendar(
  text: string,
  range: DayRange,
  hours: WeekPattern,
  timesMean: TimesMean,
): HoursCalendar {
  const { events, faults } = readCalendar(text, range, () => hours.zone);
  const days = new Days();
  const told = [...faults, ...goingOn(events, range)];
  const timed: Titled[] = [];
  const off: [string, string][] = [];
  for (const { title, times, line } of events)
    for (const when of times) {
      if ('days' in when) {
        const [from, to] = [max(when.days[0], range.from), min(when.days[1], range.to)];
        for (const date of daysFrom(from, to)) off.push([date, title]);
        continue;
      }
      const stretch = { start: minutely(when.start), end: minutely(when.end), title };
      if (stretch.end > stretch.start) timed.push(stretch);
      else told.push(`Line ${line}: “${title}” was left out: it takes no time.`);
    }
  if (timesMean === 'open') {
    for (const [date, title] of off) days.put(date, [title]);
    for (const stretch of timed)
      for (const { date, ...interval } of asIntervals(hours.zone, stretch))
        if (date >= range.from && date <= range.to) days.put(date, [stretch.title], [interval]);
    return { exceptions: days.dated(), faults: told };
  }
  // Whole days that are closed leave nothing for events with times to take.
  const shut = new Map(off.map(([date, title]) => [date, { date, intervals: [], note: title }]));
  const standing = { ...hours, exceptions: [...shut.values(), ...(hours.exceptions ?? [])] };
  const taking = close(days, standing, range, timed);
  const idle = new Set(timed.map((t) => t.title).filter((title) => !taking.has(title)));
  if (idle.size > 0)
    told.push(
      `${idle.size === 1 ? `“${[...idle].join('')}” falls` : `${idle.size} events fall`} only into times at which it is closed anyway.`,
    );
  const changed = days.dated().filter(({ date }) => !shut.has(date));
  for (const [date, title] of off) days.put(date, [title]);
  const closedDays = days.dated().flatMap((d) => (shut.has(d.date) ? [{ ...d, intervals: [] }] : []));
  return { exceptions: [...changed, ...closedDays].sort((a, b) => (a.date < b.date ? -1 : 1)), faults: told };
}
const max = (a: string, b: string): string => (a > b ? a : b);
const min = (a: string, b: string): string => (a < b ? a : b);

const compact = (date: string): string => date.replaceAll('-', '');

/**
 * Exceptions as iCalendar, readable again by `readHoursCalendar`: an all-day event for a day closed, one with times
 * for each opening.
 */
export function writeHoursCalendar(hours: Hours): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.updatePropertyWithValue('version', '2.0');
  calendar.updatePropertyWithValue('prodid', '-//Usher Lane//Opening hours//EN');
  const add = (uid: string, summary: string, start: string, end: string, isDate: boolean) => {
    const event = new ICAL.Component('vevent');
    event.updatePropertyWithValue('uid', uid);
    event.updatePropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString('2000-01-01T00:00:00Z'));
    event.updatePropertyWithValue('summary', summary);
    for (const [name, value] of [
      ['dtstart', start],
      ['dtend', end],
    ] as const) {
      const property = event.updatePropertyWithValue(
        name,
        isDate ? ICAL.Time.fromDateString(value) : ICAL.Time.fromDateTimeString(value),
      );
      if (!isDate) property.setParameter('tzid', hours.zone);
    }
    calendar.addSubcomponent(event);
  };
  for (const day of hours.exceptions) {
    if (day.intervals.length === 0)
      add(`${hours.id}-${compact(day.date)}@usher-lane`, day.note || 'Closed', day.date, plusDays(day.date, 1), true);
    day.intervals.forEach((interval, i) => {
      const endsOn = interval.to <= interval.from ? plusDays(day.date, 1) : day.date;
      add(
        `${hours.id}-${compact(day.date)}-${i}@usher-lane`,
        day.note || 'Open',
        `${day.date}T${interval.from}:00`,
        `${endsOn}T${interval.to}:00`,
        false,
      );
    });
  }
  return `${calendar.toString()}\r\n`;
}
