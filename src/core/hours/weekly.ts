import { TZDate } from '@date-fns/tz';

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

/** `until`/`opensAt` are UTC epoch milliseconds; null means not within the next fortnight. */
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

/**
 * Openings as [start, end) in UTC ms for the local days from `fromDay` to `toDay` relative to the day of `at`, merged
 * and in order.
 */
export function openings(
  hours: WeekPattern,
  at: number,
  fromDay: number,
  toDay: number,
): { start: number; end: number }[] {
  const today = localDayOf(at, hours.zone);
  const found: { start: number; end: number }[] = [];
  for (let offset = fromDay; offset <= toDay; offset++) {
    // Noon exists once on every day, and local noon of the n-th day is within it however clocks change.
    const { year, month, day, weekday, date } = localDayOf(
      instantOf(hours.zone, today.year, today.month, today.day + offset, '12:00'),
      hours.zone,
    );
    const exception = hours.exceptions?.find((e) => e.date === date);
    for (const interval of exception?.intervals ?? hours.weekly.filter((w) => w.day === weekday)) {
      const nextDay = interval.to <= interval.from ? 1 : 0;
      const start = instantOf(hours.zone, year, month, day, interval.from);
      const end = instantOf(hours.zone, year, month, day + nextDay, interval.to);
      if (end > start) found.push({ start, end });
    }
  }
  found.sort((a, b) => a.start - b.start);
  const merged: { start: number; end: number }[] = [];
  for (const next of found) {
    const last = merged.at(-1);
    if (last && next.start <= last.end) last.end = Math.max(last.end, next.end);
    else merged.push({ ...next });
  }
  return merged;
}

/**
 * Whether hours are open at an instant, until when, or when they open next.
 *
 * @example openAt({ zone: 'Europe/Paris', weekly: [{ day: 1, from: '09:00', to: '17:00' }], … }, monday10) // { open:
 * true, until: … }
 */
export function openAt(hours: WeekPattern, at: number): Opening {
  const list = openings(hours, at, -1, 14);
  const now = list.find((o) => o.start <= at && at < o.end);
  if (now) return { open: true, until: now.end - at > 13 * 86_400_000 ? null : now.end };
  return { open: false, opensAt: list.find((o) => o.start > at)?.start ?? null };
}

/** The first instant (UTC ms) of the week, from Monday, in which an instant is by a zone's clock. */
export function weekBegins(at: number, zone: string): number {
  const day = new TZDate(at, zone);
  const monday = day.getDate() - ((day.getDay() + 6) % 7);
  return new TZDate(day.getFullYear(), day.getMonth(), monday, 0, 0, 0, zone).getTime();
}
