import { ableFor, askedBy, groupsOf, unable } from '../../src/core/routing/able';
import { BITS, type FloorPerson, type WaitingVisit } from '../../src/core/routing/floor';
import { reached } from '../../src/core/routing/limits';
import type { Member } from '../../src/core/routing/members';
import { distance, levelSum } from '../../src/core/routing/needs';
import { makeOffer } from '../../src/core/routing/offers';
import { personPrefers, prefers } from '../../src/core/routing/order';
import type { Decide, Router } from '../../src/core/routing/router';

/** Whether somebody may be asked for this visit at all now. */
export const open = (visit: WaitingVisit): boolean =>
  visit.offers.length === 0 &&
  visit.dials.size === 0 &&
  visit.choosingUntil === null &&
  visit.queue.offering.way !== 'claim';

export function memberFor(router: Router, person: FloorPerson, visit: WaitingVisit, now: number): Member {
  const asked = askedBy(
    person,
    visit.queue.id,
    visit.channel,
    groupsOf(router.floor, visit.groups),
    now - visit.enteredAt,
  );
  if ('why' in asked) throw new Error('not asked');
  const { shortfall, surplus } = distance(visit.needs, person.levels);
  return {
    person,
    ...asked,
    levelSum: levelSum(visit.needs, person.levels),
    closeness: shortfall * 1000 + surplus,
    mask: BITS.off,
  };
}

/**
 * The plain way to decide, straight from the rules: in every round look at every waiting contact and every person,
 * let each contact in turn propose to whoever it likes best of those who have not turned it away, until nothing
 * changes; commit in entry order. Slow, and with no index that could be out of date.
 */
export const plainDecide: Decide = (router, now) => {
  for (;;) {
    const waiting = [...router.floor.waiting.values()].filter(open);
    const wishes = new Map(
      waiting.map((v) => [
        v,
        ableFor(router.floor, v, now)
          .able.map((p) => memberFor(router, p, v, now))
          .sort((a, b) => prefers(router, v, a, b)),
      ]),
    );
    const holder = new Map<FloorPerson, WaitingVisit>();
    const turnedAway = new Map<WaitingVisit, number>(waiting.map((v) => [v, 0]));
    for (let changed = true; changed;) {
      changed = false;
      for (const visit of waiting) {
        if ([...holder.values()].includes(visit)) continue;
        const next = wishes.get(visit)?.[turnedAway.get(visit) ?? 0];
        if (!next) continue;
        changed = true;
        turnedAway.set(visit, (turnedAway.get(visit) ?? 0) + 1);
        const held = holder.get(next.person);
        if (!held || personPrefers(next.person, visit, held) < 0) holder.set(next.person, visit);
      }
    }
    if (holder.size === 0) return;
    for (const [person, visit] of [...holder].sort((a, b) => a[1].entry - b[1].entry)) {
      const member = memberFor(router, person, visit, now);
      if (member.group && reached(member.group, member.group.uses, now).kinds.length > 0) continue;
      makeOffer(router, visit, member, now, null);
    }
  }
};

/** The first check that fails, as the rule says it. */
export const why = (router: Router, person: FloorPerson, visit: WaitingVisit, now: number): string | null =>
  unable(router.floor, person, visit, now)?.why ?? null;
