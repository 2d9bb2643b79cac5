import type { Act, LeftHow } from './acts';
import { noteStanding } from './decision';
import { noteLeft } from './expectedwait';
import type { WaitingVisit } from './floor';
import { endOffer } from './offers';
import { giveBackDial } from './partners';
import type { Onward } from './queue';
import { leaveLine } from './roster';
import type { Router, Touched } from './router';
import { touchGroup, touchPartner, touchPerson } from './touched';

/** A visit is over without a person having taken it. Whoever was being asked is free again. */
export function finish(
  router: Router,
  visit: WaitingVisit,
  how: LeftHow,
  to: Onward | null,
  now: number,
  touched: Touched,
  acts: Act[],
): void {
  if (router.options.trails) acts.push({ do: 'trail', decision: noteStanding(router, 'end', visit, now) });
  remove(router, visit, now, how === 'gave-up' ? 'gave-up' : 'otherwise', acts);
  for (const { personId } of visit.offers) withdraw(router, personId, visit, 'withdrawn', now, touched, acts);
  for (const dial of [...visit.dials.values()]) {
    giveBackDial(router, visit, dial, now);
    acts.push({
      do: 'call-over',
      visitId: visit.id,
      contactId: visit.contactId,
      callId: dial.callId,
      how: 'not-needed',
      counted: false,
    });
    touchPartner(router, dial.partnerId, touched);
  }
  touched.visits.delete(visit);
  acts.push({ do: 'ended', visit, how, onward: to });
}

/** Takes back what somebody was offered, since it was taken elsewhere or is over; a limit reached by the offer may have room again. */
export function withdraw(
  router: Router,
  personId: string,
  visit: WaitingVisit,
  how: 'withdrawn' | 'taken',
  now: number,
  touched: Touched,
  acts: Act[],
): void {
  const person = router.floor.people.get(personId);
  if (!person?.pending) return;
  const was =
    person.pending.groupId === null ? 0 : (router.floor.groups.get(person.pending.groupId)?.reached.length ?? 0);
  const group = endOffer(router, person, visit, how, now, acts);
  if (group && was > 0 && group.reached.length === 0) touchGroup(router, group, touched);
  touchPerson(router, person, touched);
}

/** Takes a visit out of the line and its indexes, and stops its timer. */
export function remove(
  router: Router,
  visit: WaitingVisit,
  now: number,
  how: 'gave-up' | 'taken' | 'otherwise',
  acts: Act[],
): void {
  leaveLine(router, visit);
  noteLeft(router, visit, now, how);
  router.floor.waiting.delete(visit.id);
  if (visit.familiarId !== null) {
    const held = router.heldFor.get(visit.familiarId);
    held?.delete(visit);
    if (held?.size === 0) router.heldFor.delete(visit.familiarId);
  }
  if (visit.timerAt !== null) acts.push({ do: 'timer', timer: { kind: 'visit', id: visit.id }, at: null });
  visit.timerAt = null;
}
