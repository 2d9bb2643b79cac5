import { TZDate } from '@date-fns/tz';
import { plusDays, weekdayOf } from './dates';

/**
 * One weekly opening, day 1 (Monday) to 7 (Sunday), local wall-clock `HH:MM`; an end at or before the start is on the
 * next day.
 */
export type WeeklyInterval = { readonly day: number; readonly from: string; readonly to: string };
/** A dated day that differs from the week: these intervals instead, none of them for the whole day off. */
export type DatedDay = {
  readonly date: string;
  readonly intervals: readonly { readonly from: string; readonly to: string }[];
  readonly note: string;
};
/** A week with its exceptions, in local time. */
export type WeekPattern = {
  readonly zone: string;
  readonly weekly: readonly WeeklyInterval[];
  readonly exceptions?: readonly DatedDay[];
};
export type Hours = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly weekly: readonly WeeklyInterval[];
  readonly exceptions: readonly DatedDay[];
};

/** `until`/`opensAt` are UTC epoch milliseconds; null means never, by the hours as they are. */
export type Opening =
  { readonly open: true; readonly until: number | null } | { readonly open: false; readonly opensAt: number | null };

const clock = (text: string): { hour: number; minute: number } => {
  const [hour = 0, minute = 0] = text.split(':').map(Number);
  return { hour, minute };
};

/**
 * Zone arithmetic is slow and asked for the same few days over and over (a thousand people share a zone and a week), so
 * answers are kept. They never change; the size is bounded only so that a long life does not fill memory.
 */
function memo<V>(most: number): (key: string, make: () => V) => V {
  const known = new Map<string, V>();
  return (key, make) => {
    const there = known.get(key);
    if (there !== undefined) return there;
    if (known.size >= most) known.clear();
    const made = make();
    known.set(key, made);
    return made;
  };
}
type LocalDay = {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  readonly weekday: number;
  readonly date: string;
  readonly hour: number;
  /** The minute at which its quarter of the hour began. */
  readonly quarterMinute: number;
};
const keptHours = memo<LocalDay>(20_000);
/**
 * The local day of an instant, month from 0, weekday 1 (Monday) to 7. Zones change their offset on whole quarters of
 * an hour.
 */
function localDayOf(at: number, zone: string): LocalDay {
  const quarter = Math.floor(at / 900_000);
  return keptHours(`${zone}|${quarter}`, () => {
    const local = new TZDate(quarter * 900_000, zone);
    const [year, month, day] = [local.getFullYear(), local.getMonth(), local.getDate()];
    return {
      year,
      month,
      day,
      weekday: local.getDay() === 0 ? 7 : local.getDay(),
      date: `${year}-${String(month + 1).padStart(2, '0')}-${String(day).padStart(2, '0')}`,
      hour: local.getHours(),
      quarterMinute: local.getMinutes(),
    };
  });
}

/** The local day of an instant, YYYY-MM-DD. */
export const localDate = (at: number, zone: string): string => localDayOf(at, zone).date;
/** The local date and time of an instant, `YYYY-MM-DDTHH:MM`. */
export function localTime(at: number, zone: string): string {
  const { date, hour, quarterMinute } = localDayOf(at, zone);
  // Offsets are whole quarters of an hour, so that the minute within a quarter is the same everywhere.
  const minute = quarterMinute + Math.floor((at % 900_000) / 60_000);
  return `${date}T${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}
/** The instant at which a local day (YYYY-MM-DD) is over. */
export function endOfDay(date: string, zone: string): number {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return instantOf(zone, year, month - 1, day + 1, '00:00');
}
/** The instant at which a local day (YYYY-MM-DD) begins. */
export function startOfDay(date: string, zone: string): number {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return instantOf(zone, year, month - 1, day, '00:00');
}
/** When the local day began that an instant is in, UTC ms: what "today" means everywhere. */
export const startOfToday = (at: number, zone: string): number => startOfDay(localDate(at, zone), zone);
/** The calendar hour, day or month of a zone that an instant is in, as [start, end) in UTC ms. */
export function periodAt(at: number, zone: string, unit: 'hour' | 'day' | 'month'): { start: number; end: number } {
  const { year, month, date } = localDayOf(at, zone);
  if (unit === 'day') return { start: startOfDay(date, zone), end: endOfDay(date, zone) };
  if (unit === 'month')
    return { start: instantOf(zone, year, month, 1, '00:00'), end: instantOf(zone, year, month + 1, 1, '00:00') };
  // Local hours begin on a whole quarter of a UTC hour; walking on from there is right where clocks change as well.
  const minutes = new TZDate(Math.floor(at / 60_000) * 60_000, zone).getMinutes();
  const start = Math.floor(at / 60_000) * 60_000 - minutes * 60_000;
  return { start, end: start + 3_600_000 };
}
/** The next instant at which the local clock shows this time (HH:MM), after `at`. */
export function nextTime(at: number, zone: string, time: string): number {
  const { year, month, day } = localDayOf(at, zone);
  const today = instantOf(zone, year, month, day, time);
  return today > at ? today : instantOf(zone, year, month, day + 1, time);
}

/** The instant at which a zone's clock shows this day (YYYY-MM-DD) and time (HH:MM). */
export function instantAt(zone: string, date: string, time: string): number {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return instantOf(zone, year, month - 1, day, time);
}

/** The instant of a local wall-clock time; one that does not exist moves forward, an ambiguous one means the first. */
const keptInstants = memo<number>(50_000);
function instantOf(zone: string, year: number, month: number, date: number, text: string): number {
  return keptInstants(`${zone}|${year}|${month}|${date}|${text}`, () => findInstant(zone, year, month, date, text));
}
function findInstant(zone: string, year: number, month: number, date: number, text: string): number {
  const { hour, minute } = clock(text);
  const at = new TZDate(year, month, date, hour, minute, 0, zone).getTime();
  // Where clocks go back the same wall-clock time comes twice, an hour (rarely half an hour) apart: take the earlier.
  for (const back of [3_600_000, 1_800_000]) {
    const earlier = new TZDate(at - back, zone);
    if (
      earlier.getHours() === hour &&
      earlier.getMinutes() === minute &&
      earlier.getDate() === new TZDate(at, zone).getDate()
    )
      return at - back;
  }
  return at;
}

/** A stretch of time, [start, end) in UTC ms. */
export type Stretch = { readonly start: number; readonly end: number };

/** The dated days of a pattern by their date, and those dates in order. */
type Dated = { readonly by: ReadonlyMap<string, DatedDay>; readonly dates: readonly string[] };
const NONE: Dated = { by: new Map(), dates: [] };
const keptDated = new WeakMap<readonly DatedDay[], Dated>();
function datedDays({ exceptions }: WeekPattern): Dated {
  if (!exceptions || exceptions.length === 0) return NONE;
  const there = keptDated.get(exceptions);
  if (there) return there;
  // Of two for one date the first counts.
  const by = new Map(exceptions.toReversed().map((e) => [e.date, e]));
  const made = { by, dates: [...by.keys()].sort() };
  keptDated.set(exceptions, made);
  return made;
}

function openingsOf(hours: WeekPattern, dated: Dated, date: string): Stretch[] {
  const intervals =
    dated.by.get(date)?.intervals ??
    (hours.weekly.length === 0 ? [] : hours.weekly.filter((w) => w.day === weekdayOf(date)));
  return intervals
    .map(({ from, to }) => ({
      start: instantAt(hours.zone, date, from),
      end: instantAt(hours.zone, to <= from ? plusDays(date, 1) : date, to),
    }))
    .filter(({ start, end }) => end > start);
}

/** The openings that begin on one local day (YYYY-MM-DD), in no order; they may overlap. */
export const openingsOn = (hours: WeekPattern, date: string): Stretch[] => openingsOf(hours, datedDays(hours), date);

/** In order, and one where they overlap or touch. */
export function merged(found: readonly Stretch[]): Stretch[] {
  const list: { start: number; end: number }[] = [];
  for (const next of found.toSorted((a, b) => a.start - b.start)) {
    const last = list.at(-1);
    if (last && next.start <= last.end) last.end = Math.max(last.end, next.end);
    else list.push({ ...next });
  }
  return list;
}

/**
 * Openings as [start, end) in UTC ms for the local days from `fromDay` to `toDay` relative to the day of `at`, merged
 * and in order.
 */
export function openings(hours: WeekPattern, at: number, fromDay: number, toDay: number): Stretch[] {
  const today = localDate(at, hours.zone);
  const dated = datedDays(hours);
  const found: Stretch[] = [];
  for (let day = fromDay; day <= toDay; day++) found.push(...openingsOf(hours, dated, plusDays(today, day)));
  return merged(found);
}

/** Openings within [from, to), UTC ms, cut to it, merged and in order: at any distance, over any length. */
export function openingsBetween(hours: WeekPattern, from: number, to: number): Stretch[] {
  const dated = datedDays(hours);
  const found: Stretch[] = [];
  const last = localDate(to, hours.zone);
  for (let date = plusDays(localDate(from, hours.zone), -1); date <= last; date = plusDays(date, 1))
    found.push(...openingsOf(hours, dated, date));
  return merged(found)
    .map(({ start, end }) => ({ start: Math.max(start, from), end: Math.min(end, to) }))
    .filter(({ start, end }) => end > start);
}

/** Seconds of opening between two instants (UTC ms). */
export const openSeconds = (hours: WeekPattern, from: number, to: number): number =>
  openingsBetween(hours, from, to).reduce((sum, { start, end }) => sum + (end - start), 0) / 1000;

/**
 * Three weeks without a dated day hold all that a week can bring, even where one of its openings falls into the hour
 * that clocks leave out.
 */
const SETTLED_DAYS = 21;

/**
 * Whether hours are open at an instant, until when, or when they open next, however far away that is: day by day, and
 * on to the next dated day where the week alone has shown that it changes nothing.
 *
 * @example openAt({ zone: 'Europe/Paris', weekly: [{ day: 1, from: '09:00', to: '17:00' }], … }, monday10) // { open:
 * true, until: … }
 */
export function openAt(hours: WeekPattern, at: number): Opening {
  const dated = datedDays(hours);
  // An opening of the day before may still go on.
  let date = plusDays(localDate(at, hours.zone), -1);
  /** Until when it is open without a break, as far as has been seen; null while it is closed. */
  let until: number | null = null;
  let next = dated.dates.findIndex((d) => d >= date);
  for (let settled = 0; ; date = plusDays(date, 1)) {
    const ahead = next < 0 ? undefined : dated.dates[next];
    if (ahead === date) {
      next++;
      settled = 0;
    } else if (++settled > SETTLED_DAYS) {
      if (ahead === undefined) return until === null ? { open: false, opensAt: null } : { open: true, until: null };
      const before = plusDays(ahead, -1);
      if (before > date) date = before;
      // What has been open all through the week is so until there.
      if (until !== null) until = Math.max(until, startOfDay(date, hours.zone));
      settled = 0;
    }
    if (until !== null && until < startOfDay(date, hours.zone)) return { open: true, until };
    for (const { start, end } of merged(openingsOf(hours, dated, date))) {
      if (until !== null) {
        if (start > until) return { open: true, until };
        until = Math.max(until, end);
      } else if (start <= at && at < end) until = end;
      else if (start > at) return { open: false, opensAt: start };
    }
  }
}

/** The first instant (UTC ms) of the week, from Monday, in which an instant is by a zone's clock. */
export function weekBegins(at: number, zone: string): number {
  const day = new TZDate(at, zone);
  const monday = day.getDate() - ((day.getDay() + 6) % 7);
  return new TZDate(day.getFullYear(), day.getMonth(), monday, 0, 0, 0, zone).getTime();
}
