import type { FloorGroup, FloorPerson } from './floor';
import type { Router } from './router';

/** A person can take more or less than before; a contact held for them has to be looked at as well. */
export function touchPerson(router: Router, person: FloorPerson): void {
  router.touched.people.add(person);
  if (router.heldFor.size > 0)
    for (const visit of router.heldFor.get(person.id) ?? []) router.touched.visits.add(visit);
}

/** A partner desk can take more or less than before: who may be sent there is looked at again. */
export const touchPartner = (router: Router, partnerId: string): void => {
  for (const visit of router.floor.waiting.values())
    if (visit.partners.includes(partnerId)) router.touched.visits.add(visit);
};

/** A group has room again: all its members may be asked again. */
export function touchGroup(router: Router, group: FloorGroup): void {
  for (const id of group.members.keys()) {
    const person = router.floor.people.get(id);
    if (person) touchPerson(router, person);
  }
}
