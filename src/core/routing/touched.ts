import type { FloorGroup, FloorPerson } from './floor';
import { release } from './offers';
import type { Router, Touched } from './router';

/** A person can take more or less than before; a contact held for them has to be looked at as well. */
export function touchPerson(router: Router, person: FloorPerson, touched: Touched): void {
  touched.people.add(person);
  if (router.heldFor.size > 0) for (const visit of router.heldFor.get(person.id) ?? []) touched.visits.add(visit);
}

/** A partner desk can take more or less than before: who may be sent there is looked at again. */
export const touchPartner = (router: Router, partnerId: string, touched: Touched): void => {
  for (const visit of router.floor.waiting.values()) if (visit.partners.includes(partnerId)) touched.visits.add(visit);
};

/** A group has room again: all its members may be asked again. */
export function touchGroup(router: Router, group: FloorGroup, touched: Touched): void {
  for (const id of group.members.keys()) {
    const person = router.floor.people.get(id);
    if (person) touchPerson(router, person, touched);
  }
}

/** Gives back what somebody used of a group's limits, and looks at its members again once a reached limit has room. */
export function freeGroup(
  router: Router,
  person: FloorPerson,
  groupId: string | null,
  how: Parameters<typeof release>[3],
  now: number,
  touched: Touched,
): void {
  const was = groupId === null ? 0 : (router.floor.groups.get(groupId)?.reached.length ?? 0);
  const group = release(router, person, groupId, how, now);
  if (group && was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
}
