import type { Channel } from '../channels';
import { misfit } from '../people/load';
import { heldBy, rowKey, type Floor, type FloorGroup, type FloorPerson, type WaitingVisit } from './floor';
import { reached, type LimitKind } from './limits';
import { unmetNeed, type MergedNeed } from './needs';

/**
 * Why somebody cannot take a contact now: the first check that fails, in this order. `at` is when that may change by
 * itself (floor ms).
 */
export type Unable =
  | { readonly why: 'off-duty' }
  | { readonly why: 'away' }
  | { readonly why: 'unreachable' }
  | { readonly why: 'not-in-duty' }
  | { readonly why: 'not-yet'; readonly at: number }
  | { readonly why: 'limit'; readonly groupId: string | null; readonly kind: LimitKind; readonly at: number | null }
  | { readonly why: 'skill'; readonly need: MergedNeed }
  | { readonly why: 'channel-off' | 'channel-most' | 'load' }
  | { readonly why: 'offer-pending' }
  | { readonly why: 'refused'; readonly at: number }
  | { readonly why: 'held'; readonly personId: string; readonly at: number };

/** Seconds after a refusal before the same person may be asked again, when nobody else is able. */
export const ASK_AGAIN_SECONDS = 30;
/** The band in which members of a group are asked who have no row of their own. */
export const GROUP_BAND = 5;

/** How somebody comes to be asked: by their own row (`group` null) or by the earliest-added group they are in. */
export type Asked = { readonly band: number; readonly group: FloorGroup | null; readonly weight: number };

/**
 * Whether a queue's contact that came so long ago asks this person, and how; else why not, `inMs` being when it will.
 */
export function askedBy(
  person: FloorPerson,
  queueId: string,
  channel: Channel,
  groups: readonly FloorGroup[],
  elapsedMs: number,
): Asked | { readonly why: 'not-in-duty' } | { readonly why: 'not-yet'; readonly inMs: number } {
  const row = person.rows.get(rowKey(queueId, channel));
  const group = groups.find((g) => g.members.has(person.id));
  const weight = group?.members.get(person.id) ?? 1;
  if (row) {
    const inMs = row.delaySeconds * 1000;
    return inMs <= elapsedMs ? { band: row.band, group: null, weight } : { why: 'not-yet', inMs };
  }
  return group ? { band: GROUP_BAND, group, weight } : { why: 'not-in-duty' };
}

/** The groups that a visit has been opened to, in the order they were added. */
export const groupsOf = (floor: Pick<Floor, 'groups'>, ids: readonly string[]): FloorGroup[] =>
  ids.flatMap((id) => floor.groups.get(id) ?? []);

/**
 * Able(person, visit, now) but for refusals and holding, which depend on the others (`ableFor`): on duty and
 * reachable, asked at this time, limits, needs met, fits the load, no offer pending. Null means able. This is the
 * rule itself, in plain words; the router's index (`roster.ts`) must always agree with it.
 */
export function unable(
  floor: Pick<Floor, 'groups'>,
  person: FloorPerson,
  visit: WaitingVisit,
  now: number,
): Unable | null {
  if (person.duty === 'off') return { why: 'off-duty' };
  if (person.duty !== 'ready') return { why: 'away' };
  if (!person.reachable) return { why: 'unreachable' };
  const asked = askedBy(person, visit.queue.id, visit.channel, groupsOf(floor, visit.groups), now - visit.enteredAt);
  if ('why' in asked) return asked.why === 'not-yet' ? { why: 'not-yet', at: visit.enteredAt + asked.inMs } : asked;
  const { group } = asked;
  if (group) {
    const { kinds, changesAt } = reached(group, group.uses, now);
    if (kinds[0]) return { why: 'limit', groupId: group.id, kind: kinds[0], at: changesAt };
  }
  if (person.limited) {
    const { kinds, changesAt } = reached(person.limited, person.uses, now);
    const own = kinds.find((k) => !group?.instead.includes(k));
    if (own) return { why: 'limit', groupId: null, kind: own, at: changesAt };
  }
  const need = unmetNeed(visit.needs, person.levels);
  if (need) return { why: 'skill', need };
  const full = misfit(person.load, heldBy(person), visit.load);
  // A pending offer is only the reason when the contact would fit beside it.
  if (full) return { why: full };
  return person.pending ? { why: 'offer-pending' } : null;
}

export type Ability = { readonly able: FloorPerson[]; readonly unable: Map<string, Unable> };
const FULL_REASONS: readonly Unable['why'][] = ['channel-most', 'load', 'offer-pending'];

/**
 * Who can take a visit now, and for everybody else the first failing check. Somebody who has refused it is passed
 * over while anyone who has not is able, and after that may be asked again 30 s on. While a familiar person is on
 * duty and only full, the contact is held for them for a time.
 */
export function ableFor(floor: Pick<Floor, 'groups' | 'people'>, visit: WaitingVisit, now: number): Ability {
  const fresh: FloorPerson[] = [];
  const refusers: FloorPerson[] = [];
  const reasons = new Map<string, Unable>();
  for (const person of floor.people.values()) {
    const reason = unable(floor, person, visit, now);
    if (reason) reasons.set(person.id, reason);
    else if (visit.refused.has(person.id)) refusers.push(person);
    else fresh.push(person);
  }
  for (const person of refusers) {
    const again = (visit.refused.get(person.id) ?? 0) + ASK_AGAIN_SECONDS * 1000;
    if (fresh.length > 0 || again > now) reasons.set(person.id, { why: 'refused', at: again });
  }
  const able = fresh.length > 0 ? fresh : refusers.filter((p) => !reasons.has(p.id));
  const until = heldUntil(visit);
  // Whoever passed on it is not waited for.
  if (until === null || until <= now || visit.familiarId === null || visit.refused.has(visit.familiarId))
    return { able, unable: reasons };
  const familiar = reasons.get(visit.familiarId);
  if (!familiar || !FULL_REASONS.includes(familiar.why)) return { able, unable: reasons };
  for (const person of able) reasons.set(person.id, { why: 'held', personId: visit.familiarId, at: until });
  return { able: [], unable: reasons };
}

/** How long somebody asked for by name is waited for in a queue without a rule of its own, seconds. */
const ASKED_FOR_SECONDS = 90;

/** Until when a visit may be held for its familiar person (floor ms); null when it has none. */
export const heldUntil = (visit: WaitingVisit): number | null =>
  visit.familiarId === null ? null : visit.enteredAt + (visit.queue.familiar?.holdSeconds ?? ASKED_FOR_SECONDS) * 1000;

/**
 * Whether everybody asked so far who is there at all is full: nobody who has not refused it has room, an offer
 * pending or not.
 */
export function everybodyFull(floor: Pick<Floor, 'groups' | 'people'>, visit: WaitingVisit, now: number): boolean {
  for (const person of floor.people.values()) {
    const reason = unable(floor, person, visit, now);
    if ((reason === null || reason.why === 'offer-pending') && !visit.refused.has(person.id)) return false;
  }
  return true;
}
