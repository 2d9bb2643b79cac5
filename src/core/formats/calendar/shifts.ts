import { daysFrom, plusDays, weekdayOf } from '../../hours/dates';
import type { DatedDay, WeeklyInterval } from '../../hours/weekly';
import { localDate } from '../../hours/weekly';
import type { Shift } from '../../people/coverage';
import { type CalendarEvent, goingOn, readCalendar, type When } from './events';
import { asIntervals, type Interval, minutely } from './intervals';

/**
 * Shifts read from a calendar, by the address of whom each is for; `''` is whoever the file is given to. `faults`
 * name what was left out.
 */
export type CalendarShifts = { readonly shifts: ReadonlyMap<string, Shift>; readonly faults: readonly string[] };

/** How far back and ahead of today events are read, days: a year of shifts. */
const AROUND = 366;
const LONGEST_NOTE = 80;

/** What somebody's events say of one day. */
type Day = { readonly intervals: Map<string, Interval>; readonly titles: Set<string>; off: boolean; own: boolean };
const text = ({ from, to }: Interval): string => `${from} ${to}`;

/** The shift that events make by a clock: what recurs every week for ever is the week, days that differ are dated. */
function shiftOf(events: readonly CalendarEvent[], zone: string, today: string): Shift {
  const days = new Map<string, Day>();
  const dayOf = (date: string, title: string): Day => {
    const day = days.get(date) ?? { intervals: new Map(), titles: new Set(), off: false, own: false };
    days.set(date, day);
    day.titles.add(title);
    return day;
  };
  const daysOf = (when: When): string[] =>
    'days' in when
      ? daysFrom(...when.days)
      : daysFrom(localDate(when.start, zone), localDate(Math.max(when.start, when.end - 1), zone));
  const weekly: WeeklyInterval[] = [];
  for (const { title, times, free, weekly: everyWeek, missing } of events) {
    const week = new Map<number, WeeklyInterval>();
    for (const when of times) {
      if ('days' in when || free) {
        for (const date of daysOf(when)) dayOf(date, title).off = true;
        continue;
      }
      for (const { date, ...interval } of asIntervals(zone, { start: minutely(when.start), end: minutely(when.end) })) {
        const day = dayOf(date, title);
        day.intervals.set(text(interval), interval);
        if (everyWeek === null) day.own = true;
        else if (date >= today && !week.has(weekdayOf(date)))
          week.set(weekdayOf(date), { day: weekdayOf(date), ...interval });
      }
    }
    weekly.push(...week.values());
    for (const when of missing) for (const date of daysOf(when)) dayOf(date, title).own = true;
  }
  const asWeek = (date: string): string[] =>
    weekly
      .filter((w) => w.day === weekdayOf(date))
      .map(text)
      .sort();
  const exceptions: DatedDay[] = [];
  // A week that recurs says nothing of days that are over; what was meant for such a day by itself does.
  for (const date of daysFrom(plusDays(today, -AROUND), plusDays(today, AROUND))) {
    const day = days.get(date);
    const standing = asWeek(date);
    if (!day && (date < today || standing.length === 0)) continue;
    if (day && date < today && !day.own && !day.off) continue;
    const intervals = day && !day.off ? [...day.intervals.values()].sort((a, b) => (text(a) < text(b) ? -1 : 1)) : [];
    if (!day?.off && intervals.map(text).sort().join() === standing.join()) continue;
    exceptions.push({ date, intervals, note: [...(day?.titles ?? [])].join(', ').slice(0, LONGEST_NOTE) });
  }
  return { weekly: weekly.sort((a, b) => a.day - b.day || (a.from < b.from ? -1 : 1)), exceptions };
}

/**
 * Reads shifts from iCalendar (RFC 5545) by the clock of whom each is for. An endless weekly rule becomes part of the
 * week, whatever differs from that, and any other event, dated days within a year of `today`. An all-day or transparent
 * event is a day off. ATTENDEE or else ORGANIZER says for whom. Throws RangeError when the text is no calendar.
 */
export function readShiftCalendar(text: string, today: string, zoneFor: (who: string) => string): CalendarShifts {
  const range = { from: plusDays(today, -AROUND), to: plusDays(today, AROUND) };
  const { events, faults } = readCalendar(text, range, zoneFor);
  const of = new Map<string, CalendarEvent[]>();
  const told = [
    ...faults,
    ...goingOn(
      events.filter((e) => e.weekly === null || e.free),
      range,
    ),
  ];
  for (const event of events) {
    of.set(event.who, [...(of.get(event.who) ?? []), event]);
    if (event.times.some((w) => !('days' in w) && !event.free && minutely(w.end) <= minutely(w.start)))
      told.push(`Line ${event.line}: “${event.title}” takes no time.`);
  }
  return { faults: told, shifts: new Map([...of].map(([who, theirs]) => [who, shiftOf(theirs, zoneFor(who), today)])) };
}
