import { isDay } from '../../hours/dates';
import { instantAt } from '../../hours/weekly';
import { type Component, EventFault, properties, property, textOf } from './lines';
import { follow, type Follower, ruleOf, type Wall } from './recurrence';

/** A clock on the wall: the instant (UTC ms) at which it shows a time. One that it leaves out is told as by the clock before; of one that comes twice the first counts (RFC 5545 §3.3.5). */
export type Zone = { readonly name: string; readonly at: (wall: Wall) => number };

export const UTC: Zone = { name: 'UTC', at: (wall) => wall };
const MINUTE = 60_000;

/** A zone by its IANA name; null for none. */
export function zoneNamed(name: string): Zone | null {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
  } catch {
    return null;
  }
  return {
    name,
    at: (wall) => {
      const text = new Date(wall).toISOString();
      return instantAt(name, text.slice(0, 10), text.slice(11, 16)) + (wall % MINUTE);
    },
  };
}

/** A time as it is written in a calendar: a day, or a day with a time, in UTC where `utc` says so. */
export type Written = { readonly wall: Wall; readonly timed: boolean; readonly utc: boolean };

/** Reads `YYYY-MM-DD` or `YYYY-MM-DDTHH:MM:SS[Z]`, as ical.js gives them; null for what no calendar or clock shows. */
export function writtenTime(value: unknown): Written | null {
  const [, date = '', hour, minute, second, utc] =
    /^(\d{4}-\d{2}-\d{2})(?:T(\d{2}):(\d{2}):(\d{2})(Z?))?$/.exec(String(value)) ?? [];
  if (!isDay(date) || date < '1900-01-01' || date > '2200-12-31') return null;
  const day = Date.parse(`${date}T00:00:00Z`);
  if (hour === undefined) return { wall: day, timed: false, utc: false };
  const [h, m, s] = [Number(hour), Number(minute), Number(second)];
  if (h > 23 || m > 59 || s > 60) return null;
  // A leap second is not told apart from the one before it.
  return { wall: day + ((h * 60 + m) * 60 + Math.min(s, 59)) * 1000, timed: true, utc: utc === 'Z' };
}

const OFFSET = /^([+-])(\d{2}):(\d{2})(?::(\d{2}))?$/;
function offsetOf(component: Component, name: string): number {
  const said = property(component, name);
  const [, sign, h = '', m = '', s = '0'] = OFFSET.exec(String(said?.values[0] ?? '')) ?? [];
  if (sign === undefined) throw new EventFault(said?.line ?? component.line, `its zone has no ${name.toUpperCase()}.`);
  return (sign === '-' ? -1 : 1) * ((Number(h) * 60 + Number(m)) * 60 + Number(s)) * 1000;
}

/** A change of clocks: from this wall time of the clock before, the offsets from UTC before and after it, ms. */
type Change = { readonly wall: Wall; readonly from: number; readonly to: number };

/** A zone as a file describes it (VTIMEZONE), followed to `last`. Throws EventFault where it cannot be. */
function describedZone(component: Component, name: string, last: Wall, follower: Follower): Zone {
  const changes: Change[] = [];
  for (const part of component.inside.filter((c) => c.name === 'standard' || c.name === 'daylight')) {
    const [from, to] = [offsetOf(part, 'tzoffsetfrom'), offsetOf(part, 'tzoffsetto')];
    const begins = property(part, 'dtstart');
    const written = writtenBefore(begins?.values[0]);
    if (!begins || !written) throw new EventFault(begins?.line ?? part.line, 'its zone does not say since when.');
    const walls = new Set([written.wall]);
    for (const rule of properties(part, 'rrule')) {
      const read = ruleOf(rule.values[0], written.wall, rule.line);
      const until = read.until === null ? null : writtenBefore(read.until);
      for (const wall of follow(
        read,
        written.wall,
        // Said in UTC; the clock before the change shows it.
        until === null ? Infinity : until.wall + (until.utc ? from : 0),
        last,
        follower,
      ))
        walls.add(wall);
    }
    for (const date of properties(part, 'rdate'))
      for (const value of date.values) {
        const more = writtenBefore(value);
        if (!more) throw new EventFault(date.line, 'its zone changes on a day that there is not.');
        walls.add(more.wall);
      }
    for (const wall of walls) changes.push({ wall, from, to });
  }
  const [first, ...later] = changes.sort((a, b) => a.wall - b.wall);
  if (!first) throw new EventFault(component.line, 'its zone says nothing of its clock.');
  return {
    name,
    at: (wall) => {
      let offset = wall < first.wall ? first.from : first.to;
      for (const { wall: from, from: before, to } of later) {
        // Times that the change leaves out are still by the clock before.
        if (wall < from + Math.max(0, to - before)) break;
        offset = to;
      }
      return wall - offset;
    },
  };
}
/** Zones often begin in 1601 or 1883: long before anything else in a calendar. */
function writtenBefore(value: unknown): Written | null {
  const text = String(value);
  const year = Number(text.slice(0, 4));
  return /^\d{4}-/.test(text) && year >= 1000 && year < 1900 ? writtenTime(`1900${text.slice(4)}`) : writtenTime(text);
}

/** The zones of a file by their TZID, each read where it is first asked for. */
export function zonesOf(calendar: Component, last: Wall, follower: Follower): (tzid: string, line: number) => Zone {
  const described = new Map(
    calendar.inside.filter((c) => c.name === 'vtimezone').map((c) => [textOf(c, 'tzid'), c] as const),
  );
  const known = new Map<string, Zone>();
  return (tzid, line) => {
    const there = known.get(tzid);
    if (there) return there;
    const own = described.get(tzid);
    // Some put the place they have it from before its name.
    const zone = own
      ? describedZone(own, tzid, last, follower)
      : (zoneNamed(tzid) ?? zoneNamed(/[A-Za-z_]+\/[A-Za-z_+-]+$/.exec(tzid)?.[0] ?? ''));
    if (!zone) throw new EventFault(line, `its zone ${tzid} is neither described in the file nor known by that name.`);
    known.set(tzid, zone);
    return zone;
  };
}
