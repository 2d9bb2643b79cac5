import { dutyRow } from '../people/duty';
import { misfit } from '../people/load';
import { heldBy, type Floor, type FloorPerson, type WaitingVisit } from './floor';
import { unmetNeed, type Need } from './needs';

/** Why somebody cannot take a contact now: the first check that fails, in this order. */
export type Unable =
  | { readonly why: 'off-duty' }
  | { readonly why: 'away' }
  | { readonly why: 'unreachable' }
  | { readonly why: 'not-in-duty' }
  | { readonly why: 'not-yet'; readonly at: number }
  | { readonly why: 'skill'; readonly need: Need }
  | { readonly why: 'channel-off' | 'channel-most' | 'load' }
  | { readonly why: 'offer-pending' }
  | { readonly why: 'refused'; readonly at: number };

/** Seconds after a refusal before the same person may be asked again, when nobody else is able. */
export const ASK_AGAIN_SECONDS = 30;

/**
 * Able(person, visit, now) but for refusals, which depend on the others (`ableFor`): on duty and reachable,
 * asked at this time, needs met, fits the load, no offer pending. Null means able.
 * `at` on a reason is the instant (floor ms) at which it may change by itself.
 */
export function unable(person: FloorPerson, visit: WaitingVisit, now: number): Unable | null {
  if (person.duty === 'off') return { why: 'off-duty' };
  if (person.duty !== 'ready') return { why: 'away' };
  if (!person.reachable) return { why: 'unreachable' };
  const row = dutyRow(person.profile, visit.queue.id, visit.channel);
  if (!row) return { why: 'not-in-duty' };
  const askedAt = visit.enteredAt + row.delaySeconds * 1000;
  if (askedAt > now) return { why: 'not-yet', at: askedAt };
  const need = unmetNeed(visit.needs, person.levels);
  if (need) return { why: 'skill', need };
  const full = misfit(person.load, heldBy(person), visit.channel);
  // A pending offer is only the reason when the contact would fit beside it.
  if (full) return { why: full };
  return person.pending ? { why: 'offer-pending' } : null;
}

export type Ability = { readonly able: FloorPerson[]; readonly unable: Map<string, Unable> };

/**
 * Who of `people` can take a visit now, and for everybody else the first failing check. Somebody who has refused it
 * is passed over while anyone who has not is able, and after that may be asked again 30 s on.
 */
export function ableFor(floor: Floor, visit: WaitingVisit, now: number, people: Iterable<FloorPerson> = floor.people.values()): Ability {
  const fresh: FloorPerson[] = [];
  const refusers: FloorPerson[] = [];
  const reasons = new Map<string, Unable>();
  for (const person of people) {
    const reason = unable(person, visit, now);
    if (reason) reasons.set(person.id, reason);
    else if (visit.refused.has(person.id)) refusers.push(person);
    else fresh.push(person);
  }
  for (const person of refusers) {
    const again = (visit.refused.get(person.id) ?? 0) + ASK_AGAIN_SECONDS * 1000;
    if (fresh.length > 0 || again > now) reasons.set(person.id, { why: 'refused', at: again });
  }
  const able = fresh.length > 0 ? fresh : refusers.filter((p) => !reasons.has(p.id));
  return { able, unable: reasons };
}

/**
 * The next instant (floor ms) after `now` at which a waiting visit's answer may change by itself, or null: a delay of
 * somebody's duty profile passes (whether or not they are on duty yet), or a refusal is old enough to ask again.
 */
export function nextChange(floor: Floor, visit: WaitingVisit, now: number): number | null {
  let next = Infinity;
  for (const person of floor.people.values()) {
    const row = dutyRow(person.profile, visit.queue.id, visit.channel);
    const asked = row ? visit.enteredAt + row.delaySeconds * 1000 : 0;
    if (asked > now) next = Math.min(next, asked);
  }
  for (const refusedAt of visit.refused.values()) {
    const again = refusedAt + ASK_AGAIN_SECONDS * 1000;
    if (again > now) next = Math.min(next, again);
  }
  return next === Infinity ? null : next;
}
