import { EventFault } from './lines';

/**
 * Times by a clock on the wall are counted as if they were UTC, ms: so that days and hours are added without any zone.
 */
export type Wall = number;

/** How many instances one rule may give. */
export const MOST_INSTANCES = 10_000;
/** How many days all rules of a file together may be followed through. */
const MOST_DAYS = 2_000_000;
const DAY = 86_400_000;

const FREQUENCIES = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY'] as const;
type Frequency = (typeof FREQUENCIES)[number];
/** In the order of Date. */
const WEEKDAYS = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];
const MOST_DAYS_OF: Readonly<Record<Frequency, number>> = { DAILY: 1, WEEKLY: 7, MONTHLY: 31, YEARLY: 366 };
const LONGEST = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** A recurrence rule that can be followed: by the day or coarser, and of what RFC 5545 allows together. */
export type Rule = {
  readonly frequency: Frequency;
  readonly interval: number;
  readonly weekBegins: number;
  readonly months: readonly number[];
  /** Negative ones count from the end. */
  readonly monthdays: readonly number[];
  readonly yeardays: readonly number[];
  readonly weeks: readonly number[];
  readonly places: readonly number[];
  /** Days of the week, Sunday 0, each alone or the n-th of its month or year. */
  readonly weekdays: readonly { readonly weekday: number; readonly nth: number | null }[];
  readonly count: number | null;
  /** As it is written, `YYYY-MM-DD` or `YYYY-MM-DDTHH:MM:SS`, with Z where it is in UTC; null for no end. */
  readonly until: string | null;
  /** It repeats on days of the week alone: what could be part of a week. */
  readonly days: readonly number[] | null;
  readonly line: number;
};

/** What follows rules, and how much of it is left for a file. */
export type Follower = { left: number };
export const follower = (): Follower => ({ left: MOST_DAYS });

const list = (value: unknown): readonly (string | number)[] =>
  (Array.isArray(value) ? value : value === undefined ? [] : [value]) as readonly (string | number)[];

/** Reads a rule as ical.js gives it; `start` is the wall time of the first instance. Throws EventFault. */
export function ruleOf(value: unknown, start: Wall, line: number): Rule {
  const no = (sentence: string) => new EventFault(line, sentence);
  const given = typeof value === 'object' && value !== null ? (value as Readonly<Record<string, unknown>>) : {};
  const known = /^(freq|interval|count|until|wkst|by(second|minute|hour|day|monthday|yearday|weekno|month|setpos))$/;
  const odd = Object.keys(given).find((name) => !known.test(name));
  if (odd) throw no(`its rule says ${odd.toUpperCase()}, which is not followed.`);
  const frequency = String(given.freq ?? '') as Frequency;
  if (!FREQUENCIES.includes(frequency))
    throw no(given.freq === undefined ? 'its rule does not say how often.' : 'it recurs more often than daily.');
  const at = new Date(start);
  for (const [name, own] of [
    ['byhour', at.getUTCHours()],
    ['byminute', at.getUTCMinutes()],
    ['bysecond', at.getUTCSeconds()],
  ] as const)
    if (list(given[name]).some((v) => Number(v) !== own) || list(given[name]).length > 1)
      throw no('its rule gives times within a day, which is finer than daily.');
  const whole = (name: string, least: number, most: number, signed = false): number[] =>
    list(given[name]).map((v) => {
      const n = Number(v);
      if (!Number.isInteger(n) || (signed ? Math.abs(n) < least || Math.abs(n) > most : n < least || n > most))
        throw no(`its rule says ${name.toUpperCase()}=${v}, which cannot be.`);
      return n;
    });
  const [interval = 1] = whole('interval', 1, 10_000);
  const [count = null] = whole('count', 1, 1e9);
  const until = typeof given.until === 'string' ? given.until : null;
  if (count !== null && until !== null) throw no('its rule says both COUNT and UNTIL.');
  const months = whole('bymonth', 1, 12);
  const monthdays = whole('bymonthday', 1, 31, true);
  const yeardays = whole('byyearday', 1, 366, true);
  const weeks = whole('byweekno', 1, 53, true);
  const places = whole('bysetpos', 1, 366, true);
  const weekdays = list(given.byday).map((v) => {
    const [, nth = '', day = ''] = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/i.exec(String(v)) ?? [];
    const weekday = WEEKDAYS.indexOf(day.toUpperCase());
    if (weekday < 0 || Math.abs(Number(nth)) > 53 || (nth !== '' && Number(nth) === 0))
      throw no(`its rule says BYDAY=${v}, which cannot be.`);
    if (nth !== '' && (!['MONTHLY', 'YEARLY'].includes(frequency) || (frequency === 'YEARLY' && weeks.length > 0)))
      throw no(`its rule says BYDAY=${v}, which has no meaning there.`);
    return { weekday, nth: nth === '' ? null : Number(nth) };
  });
  const [wkst = 'MO'] = list(given.wkst);
  // ical.js numbers it from Sunday 1.
  const weekBegins = typeof wkst === 'number' ? wkst - 1 : WEEKDAYS.indexOf(wkst.toUpperCase());
  if (!(weekBegins in WEEKDAYS)) throw no(`its rule says WKST=${wkst}, which cannot be.`);
  if (weeks.length > 0 && frequency !== 'YEARLY') throw no('its rule says BYWEEKNO without being yearly.');
  if (yeardays.length > 0 && frequency !== 'YEARLY') throw no('its rule says BYYEARDAY without being yearly.');
  if (monthdays.length > 0 && frequency === 'WEEKLY') throw no('its rule says BYMONTHDAY while it is weekly.');
  const by = months.length + monthdays.length + yeardays.length + weeks.length + weekdays.length;
  if (places.length > 0 && (by === 0 || places.some((n) => Math.abs(n) > MOST_DAYS_OF[frequency])))
    throw no('its rule says BYSETPOS where there are not so many to choose from.');
  const fits = (day: number) => (months.length ? months : [1]).some((m) => Math.abs(day) <= (LONGEST[m - 1] ?? 0));
  if (monthdays.length > 0 && !monthdays.some(fits)) throw no('its rule names a day that no such month has.');
  return {
    frequency,
    interval,
    weekBegins,
    months,
    monthdays,
    yeardays,
    weeks,
    places,
    weekdays,
    count,
    until,
    days:
      frequency === 'WEEKLY' && interval === 1 && by === weekdays.length && places.length === 0
        ? (weekdays.length > 0 ? weekdays.map((d) => d.weekday) : [at.getUTCDay()]).map((d) => d || 7)
        : null,
    line,
  };
}

const yearStart = (year: number): Wall => Date.UTC(year, 0, 1);
const daysOfYear = (year: number): number => (yearStart(year + 1) - yearStart(year)) / DAY;
const daysOfMonth = (year: number, month: number): number =>
  (Date.UTC(year, month, 1) - Date.UTC(year, month - 1, 1)) / DAY;
/** Whether a list holds the n-th of so many, counted from the start or, where negative, from the end. */
const holds = (list: readonly number[], n: number, of: number): boolean =>
  list.some((x) => (x > 0 ? x === n : of + 1 + x === n));
const weekOf = (day: Wall, begins: number): Wall => day - ((new Date(day).getUTCDay() - begins + 7) % 7) * DAY;
/** The first week of a year is the first with four of its days in it. */
function firstWeek(year: number, begins: number): Wall {
  const week = weekOf(yearStart(year), begins);
  return (yearStart(year) - week) / DAY > 3 ? week + 7 * DAY : week;
}
/** The year whose week a day is in. */
function weekYear(day: Wall, begins: number): number {
  const year = new Date(day).getUTCFullYear();
  return firstWeek(year + 1, begins) <= day ? year + 1 : firstWeek(year, begins) <= day ? year : year - 1;
}

/** Whether a day is one of those that a rule names; what it leaves open comes from its start (RFC 5545 §3.3.10). */
function fits(rule: Rule, start: Date, at: Date): boolean {
  const { frequency, months, monthdays, yeardays, weeks, weekdays } = rule;
  const [year, month, date, weekday] = [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCDay()];
  const day = at.getTime();
  if (months.length > 0 && !months.includes(month)) return false;
  if (weeks.length > 0) {
    const of = weekYear(day, rule.weekBegins);
    const first = firstWeek(of, rule.weekBegins);
    const many = (firstWeek(of + 1, rule.weekBegins) - first) / (7 * DAY);
    if (!holds(weeks, Math.floor((day - first) / (7 * DAY)) + 1, many)) return false;
  }
  if (yeardays.length > 0 && !holds(yeardays, (day - yearStart(year)) / DAY + 1, daysOfYear(year))) return false;
  if (monthdays.length > 0 && !holds(monthdays, date, daysOfMonth(year, month))) return false;
  if (weekdays.length > 0) {
    // A number counts the day within the month, or within the year where no month is named.
    const [n, of] =
      frequency === 'MONTHLY' || months.length > 0
        ? [date, daysOfMonth(year, month)]
        : [(day - yearStart(year)) / DAY + 1, daysOfYear(year)];
    return weekdays.some(
      (d) =>
        d.weekday === weekday &&
        (d.nth === null || d.nth === Math.ceil(n / 7) || d.nth === -Math.ceil((of - n + 1) / 7)),
    );
  }
  if (monthdays.length > 0 || yeardays.length > 0 || frequency === 'DAILY') return true;
  if (frequency === 'WEEKLY' || weeks.length > 0) return weekday === start.getUTCDay();
  return (
    date === start.getUTCDate() && (frequency === 'MONTHLY' || months.length > 0 || month === start.getUTCMonth() + 1)
  );
}

/** The period of a rule's frequency that a day is in, numbered from that of its start, and where it begins. */
function periodOf(rule: Rule, start: Date, at: Date): number {
  const days = (d: Date): Wall => d.getTime() - (d.getTime() % DAY);
  if (rule.frequency === 'DAILY') return (days(at) - days(start)) / DAY;
  if (rule.frequency === 'WEEKLY')
    return (weekOf(days(at), rule.weekBegins) - weekOf(days(start), rule.weekBegins)) / (7 * DAY);
  if (rule.frequency === 'MONTHLY')
    return (at.getUTCFullYear() - start.getUTCFullYear()) * 12 + at.getUTCMonth() - start.getUTCMonth();
  // Weeks are of the year that they are counted in.
  const year = (d: Date): number => (rule.weeks.length > 0 ? weekYear(days(d), rule.weekBegins) : d.getUTCFullYear());
  return year(at) - year(start);
}

/**
 * The instances of a rule from its start, which is always the first of them, to `last`, wall times in order. `until` is
 * the rule's own end as wall time, Infinity without. Day by day, so that a rule that no day fits costs no more than its
 * days. Throws EventFault for more than MOST_INSTANCES, RangeError when the rules of a file together ask for too much.
 */
export function follow(rule: Rule, start: Wall, until: Wall, last: Wall, follower: Follower): Wall[] {
  const end = Math.min(until, last);
  if (start > end) return [];
  const begun = new Date(start);
  const time = ((start % DAY) + DAY) % DAY;
  // Places are counted from the begin of the first period to the end of the last.
  const around = rule.places.length > 0 ? MOST_DAYS_OF[rule.frequency] : 0;
  const most = Math.min(rule.count ?? Infinity, MOST_INSTANCES + 1);
  const walls: Wall[] = [start];
  let [period, set] = [-1, [] as Wall[]];
  const put = () => {
    for (const [i, wall] of set.entries())
      if ((rule.places.length === 0 || holds(rule.places, i + 1, set.length)) && wall > start && wall <= end)
        walls.push(wall);
    set = [];
  };
  for (let day = start - time - around * DAY; day <= end + around * DAY && walls.length < most; day += DAY) {
    if (--follower.left < 0)
      throw new RangeError('The events of this calendar recur too often and too long to be followed.');
    const at = new Date(day);
    const of = periodOf(rule, begun, at);
    if (of < 0) continue;
    if (of !== period) {
      put();
      period = of;
    }
    if (of % rule.interval !== 0 || !fits(rule, begun, at)) continue;
    set.push(day + time);
    // Without places to count, each is there as soon as it is found.
    if (rule.places.length === 0) put();
  }
  put();
  const counted = walls.slice(0, most);
  if (counted.length > MOST_INSTANCES)
    throw new EventFault(rule.line, `it recurs more than ${MOST_INSTANCES.toLocaleString('en')} times until then.`);
  return counted;
}
