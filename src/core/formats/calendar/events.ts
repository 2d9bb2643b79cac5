import { plusDays } from '../../hours/dates';
import { type Component, EventFault, properties, property, type Property, readComponents, textOf } from './lines';
import { follow, type Follower, follower, type Rule, ruleOf, type Wall } from './recurrence';
import { UTC, type Written, writtenTime, type Zone, zonesOf, zoneNamed } from './zones';

/** When something takes place: whole days (YYYY-MM-DD, both counted), or from an instant to another (UTC ms). */
export type When =
  { readonly days: readonly [from: string, to: string] } | { readonly start: number; readonly end: number };
/** An event as it takes place within the days asked for. */
export type CalendarEvent = {
  readonly title: string;
  readonly line: number;
  /** Address of whom it is for, in small letters; empty where it does not say. */
  readonly who: string;
  /** It leaves whom it is for free. */
  readonly free: boolean;
  readonly times: readonly When[];
  /** It recurs beyond the days asked for. */
  readonly goesOn: boolean;
  /** Days of the week (Monday 1) on which it recurs with times every week without an end; null where it is anything else. */
  readonly weekly: readonly number[] | null;
  /** Instances of it that are left out or put elsewhere, by the start they would have had. */
  readonly missing: readonly When[];
};
export type Calendar = {
  readonly events: readonly CalendarEvent[];
  /** What was left out, each in a sentence with its line. */
  readonly faults: readonly string[];
};
/** Local days, YYYY-MM-DD, both counted. */
export type DayRange = { readonly from: string; readonly to: string };

const MOST_EVENTS = 5000;
/** Faults that are told one by one; the rest are counted. */
const MOST_FAULTS = 50;
const DAY = 86_400_000;
const dayOf = (wall: Wall): string => new Date(wall).toISOString().slice(0, 10);
const same = (when: When): string => ('days' in when ? when.days[0] : String(when.start));

/** A time of an event with the clock it is told by. */
type Timed = Written & { readonly zone: Zone };
type Reader = {
  /** The clock of times that name none. */
  readonly floating: Zone;
  readonly zoneOf: ReturnType<typeof zonesOf>;
  readonly range: DayRange;
  /** One day more than the range at both ends, UTC ms: whatever zone it is of. */
  readonly from: number;
  readonly to: number;
  readonly follower: Follower;
};

function timed(reader: Reader, p: Property, value: unknown = p.values[0]): Timed {
  const written = writtenTime(value);
  if (!written)
    throw new EventFault(p.line, `${p.name.toUpperCase()} says ${String(value)}, which is no day and time there is.`);
  const { tzid } = p.parameters;
  return {
    ...written,
    zone: written.utc ? UTC : written.timed && typeof tzid === 'string' ? reader.zoneOf(tzid, p.line) : reader.floating,
  };
}

/** How long an instance is: whole days, or a time that the clock shows and one that passes, ms. */
type Length = { readonly days: number } | { readonly nominal: number; readonly exact: number };
function durationOf(text: unknown, line: number): { nominal: number; exact: number } {
  const [, sign, w, d, h, m, s] =
    /^([+-]?)P(?:(\d{1,5})W)?(?:(\d{1,5})D)?(?:T(?:(\d{1,6})H)?(?:(\d{1,8})M)?(?:(\d{1,9})S)?)?$/.exec(String(text)) ??
    [];
  if (sign === undefined || [w, d, h, m, s].every((part) => part === undefined))
    throw new EventFault(line, `DURATION says ${String(text)}, which is no length of time.`);
  if (sign === '-') throw new EventFault(line, 'its length is less than nothing.');
  const n = (part: string | undefined) => Number(part ?? 0);
  return { nominal: (n(w) * 7 + n(d)) * DAY, exact: ((n(h) * 60 + n(m)) * 60 + n(s)) * 1000 };
}

/** RFC 5545 §3.6.1: by its end, by its duration, else the day that it is on, or no time at all. */
function lengthOf(reader: Reader, event: Component, start: Timed): Length {
  const [ends, lasts] = [property(event, 'dtend'), property(event, 'duration')];
  if (ends && lasts) throw new EventFault(lasts.line, 'it says both an end and a length.');
  if (ends) {
    const end = timed(reader, ends);
    if (end.timed !== start.timed)
      throw new EventFault(ends.line, 'of its start and its end one is a whole day and the other is not.');
    if (!start.timed) {
      if (end.wall < start.wall) throw new EventFault(ends.line, 'it ends before it starts.');
      // Many write the same day where they mean that one day.
      return { days: Math.max(1, (end.wall - start.wall) / DAY) };
    }
    // Each instance is as long as the first (§3.8.5.3).
    const exact = end.zone.at(end.wall) - start.zone.at(start.wall);
    if (exact < 0) throw new EventFault(ends.line, 'it ends before it starts.');
    return { nominal: 0, exact };
  }
  if (!lasts) return start.timed ? { nominal: 0, exact: 0 } : { days: 1 };
  const length = durationOf(lasts.values[0], lasts.line);
  if (start.timed) return length;
  if (length.exact > 0) throw new EventFault(lasts.line, 'it is of whole days, and its length is not.');
  return { days: Math.max(1, length.nominal / DAY) };
}

function taking(start: Timed, wall: Wall, length: Length): When {
  if ('days' in length) return { days: [dayOf(wall), dayOf(wall + (length.days - 1) * DAY)] };
  return {
    start: start.zone.at(wall),
    end: start.zone.at(wall + length.nominal) + length.exact,
  };
}

/** The wall time, by the clock of a series, up to which it goes on. */
function untilOf(rule: Rule, start: Timed): Wall {
  if (rule.until === null) return Infinity;
  const until = writtenTime(rule.until);
  if (!until) throw new EventFault(rule.line, `its rule says UNTIL ${rule.until}, which is no day and time there is.`);
  if (!start.timed) return until.wall - (until.wall % DAY);
  // A day alone is meant with all that is on it.
  if (!until.timed) return until.wall + DAY - 1;
  if (!until.utc || start.zone === UTC) return until.wall;
  // The clock shows that instant at most a day from where UTC does; which instance is the last is found by instants.
  return until.wall + DAY;
}

/** All that one event says, its recurrence followed; `moved` are the instances that stand on their own. */
function eventOf(reader: Reader, event: Component, moved: readonly Timed[]): CalendarEvent {
  const begins = property(event, 'dtstart');
  if (!begins) throw new EventFault(event.line, 'it has no start.');
  const start = timed(reader, begins);
  const length = lengthOf(reader, event, start);
  const unread = properties(event, 'exrule')[0];
  if (unread) throw new EventFault(unread.line, 'it leaves instances out by a rule, which is not followed any more.');
  const rules = properties(event, 'rrule').map((p) => ruleOf(p.values[0], start.wall, p.line));
  const lengthMs = 'days' in length ? length.days * DAY : length.nominal + length.exact;
  const times = new Map<string, When>();
  const put = (when: When) => times.set(same(when), when);
  put(taking(start, start.wall, length));
  let goesOn = false;
  for (const rule of rules) {
    const until = untilOf(rule, start);
    const byInstant = rule.until === null ? null : writtenTime(rule.until);
    const last = reader.to + DAY;
    const walls = follow(rule, start.wall, until, last, reader.follower);
    goesOn ||= until > last && (rule.count === null || walls.length < rule.count);
    for (const wall of walls) {
      if (byInstant?.utc && start.timed && start.zone.at(wall) > byInstant.wall) break;
      if (wall + lengthMs >= reader.from - DAY) put(taking(start, wall, length));
    }
  }
  for (const p of properties(event, 'rdate'))
    for (const value of p.values) {
      const [from, to] = Array.isArray(value) ? (value as [string, string]) : [value, null];
      const more = timed(reader, p, from);
      if (more.timed !== start.timed)
        throw new EventFault(p.line, 'RDATE says a whole day where its start has a time, or the other way round.');
      if (to === null) put(taking(more, more.wall, length));
      else if (/^[+-]?P/.test(String(to))) put(taking(more, more.wall, durationOf(to, p.line)));
      else {
        const end = timed(reader, p, to);
        const when = { start: more.zone.at(more.wall), end: end.zone.at(end.wall) };
        if (when.end < when.start) throw new EventFault(p.line, 'a period of it ends before it starts.');
        put(when);
      }
    }
  const missing: When[] = [];
  const leave = (one: Timed, line: number) => {
    // A day alone leaves out all that starts on it by the clock of the series.
    const gone = [...times.values()].filter((when) =>
      'days' in when
        ? when.days[0] === dayOf(one.wall)
        : one.timed
          ? when.start === one.zone.at(one.wall)
          : when.start >= start.zone.at(one.wall) && when.start < start.zone.at(one.wall + DAY),
    );
    if ('days' in length && one.timed && (one.utc || one.wall % DAY !== 0))
      throw new EventFault(line, 'it is of whole days, and what it leaves out is not.');
    for (const when of gone) {
      times.delete(same(when));
      missing.push(when);
    }
  };
  for (const p of properties(event, 'exdate')) for (const value of p.values) leave(timed(reader, p, value), p.line);
  for (const one of moved) leave(one, event.line);
  const touches = (when: When): boolean =>
    'days' in when
      ? when.days[1] >= reader.range.from && when.days[0] <= reader.range.to
      : when.end >= reader.from && when.start <= reader.to;
  const [only] = rules;
  return {
    title: titleOf(event),
    line: event.line,
    who: addressOf(event),
    free: textOf(event, 'transp').toUpperCase() === 'TRANSPARENT',
    times: [...times.values()].filter(touches),
    goesOn,
    weekly: start.timed && rules.length === 1 && only?.count === null && only.until === null ? only.days : null,
    missing: missing.filter(touches),
  };
}

const titleOf = (event: Component): string =>
  textOf(event, 'summary').replace(/\s+/g, ' ').slice(0, 80) || 'An event without a name';
const addressOf = (event: Component): string =>
  (textOf(event, 'attendee') || textOf(event, 'organizer'))
    .replace(/^mailto:/i, '')
    .trim()
    .toLowerCase();
const sequenceOf = (event: Component): number => Number(textOf(event, 'sequence')) || 0;
/** Of several versions of one thing only the last counts (RFC 5545 §3.8.7.4); equal ones are told apart by nothing. */
const newest = (events: readonly Component[]): readonly Component[] => {
  const last = Math.max(...events.map(sequenceOf));
  return events.filter((e) => sequenceOf(e) === last);
};
function grouped<T>(things: readonly T[], keyOf: (thing: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const thing of things) groups.set(keyOf(thing), [...(groups.get(keyOf(thing)) ?? []), thing]);
  return [...groups.values()];
}

/**
 * Reads the events of a calendar file (RFC 5545) that touch the days given. Times in UTC, of a zone that the file
 * describes or that IANA knows, or of none: those are of the zone (IANA) of whom the event is for. What recurs is followed, with what is left out, added,
 * moved or cancelled; an event that cannot be read for sure is left out and told with its line. Throws RangeError
 * for what is no calendar, and for one that asks for too much work.
 */
export function readCalendar(text: string, range: DayRange, zoneFor: (who: string) => string): Calendar {
  const calendars = readComponents(text);
  const floating = new Map<string, Zone>();
  const floatingFor = (event: Component): Zone => {
    const name = zoneFor(addressOf(event));
    const zone = floating.get(name) ?? zoneNamed(name) ?? UTC;
    floating.set(name, zone);
    return zone;
  };
  const found: CalendarEvent[] = [];
  const faults: string[] = [];
  let count = 0;
  const following = follower();
  for (const calendar of calendars) {
    const events = calendar.inside.filter((c) => c.name === 'vevent');
    count += events.length;
    if (count > MOST_EVENTS) throw new RangeError(`This calendar holds more than ${MOST_EVENTS} events.`);
    const cancelled = textOf(calendar, 'method').toUpperCase() === 'CANCEL';
    const [from, to] = [Date.parse(range.from) - DAY, Date.parse(plusDays(range.to, 1)) + DAY];
    const zoneOf = zonesOf(calendar, to + DAY, following);
    const tell = (event: Component, error: unknown) => {
      if (!(error instanceof EventFault)) throw error;
      faults.push(`Line ${error.line}: “${titleOf(event)}” was left out: ${error.message}`);
    };
    // Without a name of its own each event stands alone.
    for (const series of grouped(events, (e) => textOf(e, 'uid') || `line ${e.line}`)) {
      const [first] = series;
      if (!first) continue;
      const reader: Reader = { floating: floatingFor(first), zoneOf, range, from, to, follower: following };
      try {
        const isOver = (e: Component) => cancelled || textOf(e, 'status').toUpperCase() === 'CANCELLED';
        const masters = series.filter((e) => property(e, 'recurrence-id') === null);
        const changed = series
          .filter((e) => !masters.includes(e))
          .map((event) => {
            const p = property(event, 'recurrence-id') as Property;
            const { range: further } = p.parameters;
            if (further !== undefined)
              throw new EventFault(p.line, `RECURRENCE-ID says RANGE=${String(further)}, which is not followed.`);
            return { event, instead: timed(reader, p) };
          });
        const instances = grouped(changed, ({ instead }) =>
          instead.timed ? String(instead.zone.at(instead.wall)) : dayOf(instead.wall),
        ).flatMap((versions) => {
          const last = newest(versions.map((v) => v.event));
          return versions.filter((v) => last.includes(v.event));
        });
        const whole = masters.length > 0 ? newest(masters) : [];
        if (whole.length > 0 && whole.every(isOver)) continue;
        const read = [
          ...whole
            .filter((e) => !isOver(e))
            .map((e) =>
              eventOf(
                reader,
                e,
                instances.map((i) => i.instead),
              ),
            ),
          ...instances.filter((i) => !isOver(i.event)).map((i) => eventOf(reader, i.event, [])),
        ];
        found.push(...read);
      } catch (error) {
        tell(first, error);
      }
    }
  }
  if (count === 0) throw new RangeError('This calendar holds no events.');
  const away = found.filter((e) => e.times.length === 0).length;
  const [many, them] = away === 1 ? ['One event lies', 'it was'] : [`${away} events lie`, 'they were'];
  return {
    events: found.filter((e) => e.times.length > 0),
    faults: [
      ...faults.slice(0, MOST_FAULTS),
      ...(faults.length > MOST_FAULTS ? [`${faults.length - MOST_FAULTS} more events were left out.`] : []),
      ...(away > 0 ? [`${many} outside ${range.from} to ${range.to}; ${them} left out.`] : []),
    ],
  };
}

/** Says which events recur beyond the days asked for, so that nobody takes them for over; nothing where none does. */
export function goingOn(events: readonly CalendarEvent[], { to }: DayRange): string[] {
  const titles = new Set(events.filter((e) => e.goesOn).map((e) => `“${e.title}”`));
  const some = [...titles].slice(0, 5).join(', ');
  if (titles.size === 0) return [];
  return [
    titles.size <= 5
      ? `${some} ${titles.size === 1 ? 'goes' : 'go'} on after ${to}; taken until then.`
      : `${some} and ${titles.size - 5} more go on after ${to}; taken until then.`,
  ];
}
