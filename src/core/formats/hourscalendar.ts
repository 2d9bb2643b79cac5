import ICAL from 'ical.js';
import type { DatedDay, Hours } from '../hours/weekly';
import { readShiftCalendar } from './shiftcalendar';

/**
 * Reads exceptions of opening hours from iCalendar (RFC 5545): an all-day or transparent event closes its days, any
 * other one opens its days from its start to its end instead of the week; several on one day are several openings.
 * What recurs is followed from the first to the last day given (YYYY-MM-DD). Throws RangeError when the text is no
 * calendar.
 */
export function readHoursCalendar(
  text: string,
  range: { readonly from: string; readonly to: string },
): { exceptions: DatedDay[]; faults: readonly string[] } {
  const { shifts, faults } = readShiftCalendar(text, range);
  const days = new Map<string, DatedDay>();
  for (const { exceptions } of shifts.values())
    for (const day of exceptions) {
      const there = days.get(day.date);
      days.set(day.date, there ? { ...there, intervals: [...there.intervals, ...day.intervals] } : day);
    }
  return { faults, exceptions: [...days.values()].sort((a, b) => (a.date < b.date ? -1 : 1)) };
}

const compact = (date: string): string => date.replaceAll('-', '');
const dayAfter = (date: string): string =>
  new Date(Date.parse(`${date}T12:00:00Z`) + 86_400_000).toISOString().slice(0, 10);

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
      add(`${hours.id}-${compact(day.date)}@usher-lane`, day.note || 'Closed', day.date, dayAfter(day.date), true);
    day.intervals.forEach((interval, i) => {
      const endsOn = interval.to <= interval.from ? dayAfter(day.date) : day.date;
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
