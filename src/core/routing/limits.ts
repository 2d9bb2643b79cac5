import { openAt, periodAt, type WeekPattern } from '../hours/weekly';

/**
 * How much somebody, a group or an outside number may take; null is without limit. Hours, days and months are
 * calendar ones of its zone.
 */
export type Limits = {
  readonly atOnce: number | null;
  readonly perHour: number | null;
  readonly perDay: number | null;
  readonly perMonth: number | null;
};
export const NO_LIMITS: Limits = { atOnce: null, perHour: null, perDay: null, perMonth: null };
/**
 * The kinds of limit, in the order they are checked; the number is the bit by which the router notes that one is
 * reached.
 */
export const LIMIT_KINDS = ['hours', 'atOnce', 'perHour', 'perDay', 'perMonth'] as const;
export type LimitKind = (typeof LIMIT_KINDS)[number];

/** What has limits, with its opening hours (null is always open). */
export type Limited = { readonly zone: string; readonly hours: WeekPattern | null; readonly limits: Limits };

type Counted = { readonly start: number; readonly end: number; readonly count: number };
/**
 * Contacts held now (offers pending included) and taken in the calendar hour, day and month; the last three may be of
 * a period that is over.
 */
export type Uses = { readonly open: number; readonly hour: Counted; readonly day: Counted; readonly month: Counted };
const NEVER: Counted = { start: 0, end: 0, count: 0 };
export const NO_USES: Uses = { open: 0, hour: NEVER, day: NEVER, month: NEVER };

const counted = (c: Counted, zone: string, unit: 'hour' | 'day' | 'month', at: number, by: number): Counted =>
  at < c.end && at >= c.start
    ? { ...c, count: Math.max(0, c.count + by) }
    : { ...periodAt(at, zone, unit), count: Math.max(0, by) };

/**
 * One more offer made (it reserves), or one less: `startedAt` is when the one given back was taken, since a period
 * may have ended meanwhile.
 */
export function taken(uses: Uses, zone: string, at: number): Uses {
  return {
    open: uses.open + 1,
    hour: counted(uses.hour, zone, 'hour', at, 1),
    day: counted(uses.day, zone, 'day', at, 1),
    month: counted(uses.month, zone, 'month', at, 1),
  };
}
export function givenBack(uses: Uses, startedAt: number): Uses {
  const less = (c: Counted): Counted =>
    startedAt >= c.start && startedAt < c.end ? { ...c, count: Math.max(0, c.count - 1) } : c;
  return { open: Math.max(0, uses.open - 1), hour: less(uses.hour), day: less(uses.day), month: less(uses.month) };
}
/** A contact is over: its place is free again, what was counted stays. */
export const ended = (uses: Uses): Uses => ({ ...uses, open: Math.max(0, uses.open - 1) });

/** How often it was used in the current hour, day or month. */
export const usedIn = (counted: Counted, at: number): number => (at < counted.end ? counted.count : 0);

/** The limits that are reached now, and the next instant at which that may change by time alone (null for never). */
export function reached(thing: Limited, uses: Uses, at: number): { kinds: LimitKind[]; changesAt: number | null } {
  const kinds: LimitKind[] = [];
  let changesAt = Infinity;
  if (thing.hours) {
    const opening = openAt(thing.hours, at);
    if (!opening.open) kinds.push('hours');
    changesAt = (opening.open ? opening.until : opening.opensAt) ?? Infinity;
  }
  const { atOnce, perHour, perDay, perMonth } = thing.limits;
  if (atOnce !== null && uses.open >= atOnce) kinds.push('atOnce');
  for (const [kind, most, c] of [
    ['perHour', perHour, uses.hour],
    ['perDay', perDay, uses.day],
    ['perMonth', perMonth, uses.month],
  ] as const) {
    if (most === null || usedIn(c, at) < most) continue;
    kinds.push(kind);
    // A limit of none at all does not pass with time.
    if (most > 0) changesAt = Math.min(changesAt, c.end);
  }
  return { kinds, changesAt: changesAt === Infinity ? null : changesAt };
}
