import type { Decision } from './decision';
import { noteLeft } from './expectedwait';
import { type FloorGroup, type FloorPerson, settle, type WaitingVisit } from './floor';
import { ended, givenBack, reached, taken } from './limits';
import type { Member } from './members';
import { leaveLine } from './roster';
import type { Router } from './router';
import { touchGroup } from './touched';

/** Looks anew at what a person holds; call it after every change to them. */
export function refresh(router: Router, person: FloorPerson, now: number): void {
  const bits = settle(person, now);
  if (person.limited) router.limited.add(person);
  if (person.index >= router.bits.length) {
    const larger = new Uint32Array(router.bits.length * 2);
    larger.set(router.bits);
    router.bits = larger;
  }
  if (router.bits[person.index] === bits) return;
  router.bits[person.index] = bits;
  router.snapshot = null;
}

/** Looks anew at a group's limits; once it has room again, its members may be asked again. */
export function refreshGroup(router: Router, group: FloorGroup, now: number): void {
  const wasReached = group.reached.length > 0;
  const { kinds, changesAt } = reached(group, group.uses, now);
  group.reached = kinds;
  group.changesAt = changesAt;
  if (wasReached && kinds.length === 0) touchGroup(router, group);
}

/** Offers a visit to somebody: from here on it reserves load, count and the caps of the group that made them asked. */
export function makeOffer(
  router: Router,
  visit: WaitingVisit,
  { person, group }: Member,
  now: number,
  decision: Decision | null,
): void {
  const offerId = router.options.newId('offer');
  const { cost } = person.load[visit.load];
  leaveLine(router, visit);
  noteLeft(router, visit, now, 'taken');
  person.pending = {
    offerId,
    visitId: visit.id,
    channel: visit.load,
    cost,
    groupId: group?.id ?? null,
    madeAt: now,
  };
  visit.offers = [...visit.offers, { offerId, personId: person.id }];
  if (visit.queue.offering.way === 'ring-all') router.ringing.add(visit);
  reserve(router, person, group, now);
  router.acts.push({ do: 'offer', offerId, visit, person, groupId: group?.id ?? null, decision });
}

export function reserve(router: Router, person: FloorPerson, group: FloorGroup | null, now: number): void {
  if (group) {
    group.uses = taken(group.uses, group.zone, now);
    refreshGroup(router, group, now);
  }
  if (person.limited) person.uses = taken(person.uses, person.limited.zone, now);
  refresh(router, person, now);
  if (router.heldFor.size > 0) noLongerHeld(router, person, group);
}

/**
 * A contact is held only for somebody who fails on load alone: asked for another, or beyond a limit, they are not
 * waited for any more.
 */
function noLongerHeld(router: Router, person: FloorPerson, group: FloorGroup | null): void {
  const { visits } = router.touched;
  for (const visit of router.heldFor.get(person.id) ?? []) visits.add(visit);
  if (group && group.reached.length > 0)
    for (const id of group.members.keys()) for (const visit of router.heldFor.get(id) ?? []) visits.add(visit);
}

/** Frees what an offer reserved, or what a leg held; a leg stays counted in the caps. */
export function release(
  router: Router,
  person: FloorPerson,
  groupId: string | null,
  how: { readonly givenBackFrom: number } | 'ended',
  now: number,
): void {
  const group = groupId === null ? undefined : router.floor.groups.get(groupId);
  const uses = (u: FloorPerson['uses']) => (how === 'ended' ? ended(u) : givenBack(u, how.givenBackFrom));
  if (group) {
    group.uses = uses(group.uses);
    refreshGroup(router, group, now);
  }
  if (person.limited) person.uses = uses(person.uses);
  refresh(router, person, now);
}

/**
 * Takes back the offer that a person has of a visit; the visit stands in line again once nobody else is being asked.
 */
export function endOffer(
  router: Router,
  person: FloorPerson,
  visit: WaitingVisit,
  how: 'declined' | 'missed' | 'withdrawn' | 'taken',
  now: number,
): void {
  const { pending } = person;
  if (!pending) return;
  person.pending = null;
  visit.offers = visit.offers.filter((o) => o.offerId !== pending.offerId);
  router.acts.push({ do: 'offer-over', offerId: pending.offerId, visit, personId: person.id, how });
  release(router, person, pending.groupId, { givenBackFrom: pending.madeAt }, now);
}
