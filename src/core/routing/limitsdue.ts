import type { RouterTimer } from './acts';
import { refresh, refreshGroup } from './offers';
import { refreshOutside } from './partners';
import type { Router } from './router';
import { touchPartner, touchPerson } from './touched';

/**
 * Hours opened or closed, or a calendar hour, day or month began: all that is otherwise by now is looked at together.
 */
export function limitsDue(router: Router, now: number): void {
  const passed = (at: number | null): boolean => at !== null && at <= now;
  for (const group of router.floor.groups.values()) if (passed(group.changesAt)) refreshGroup(router, group, now);
  for (const partner of router.floor.partners.values())
    for (const thing of [partner, ...partner.numbers]) {
      if (!passed(thing.changesAt)) continue;
      refreshOutside(thing, now);
      if (thing.reached.length === 0) touchPartner(router, partner.id);
    }
  for (const person of router.limited) {
    if (!passed(person.changesAt)) continue;
    refresh(router, person, now);
    touchPerson(router, person);
  }
}

/** When a limit that is reached, or opening hours, will be otherwise by time alone. */
export function remindOfLimits(router: Router): void {
  if (router.floor.groups.size === 0 && router.floor.partners.size === 0 && router.limited.size === 0) return;
  let next = Infinity;
  const due = (
    kind: RouterTimer['kind'],
    thing: { readonly id: string; changesAt: number | null; timerAt: number | null },
  ): void => {
    if (thing.changesAt !== null) next = Math.min(next, thing.changesAt);
    if (thing.changesAt === thing.timerAt) return;
    thing.timerAt = thing.changesAt;
    router.acts.push({ do: 'timer', timer: { kind, id: thing.id }, at: thing.changesAt });
  };
  for (const group of router.floor.groups.values()) due('group', group);
  for (const partner of router.floor.partners.values()) {
    due('partner', partner);
    for (const number of partner.numbers) due('number', number);
  }
  for (const person of router.limited) due('person', person);
  router.limitsDue = next;
}
