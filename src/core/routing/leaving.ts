import type { LeftHow } from './acts';
import { noteLeft } from './expectedwait';
import type { WaitingVisit } from './floor';
import { endOffer } from './offers';
import type { Onward } from './onward';
import { giveBackDial } from './partners';
import { leaveLine } from './roster';
import type { Router } from './router';
import { noteStanding } from './standing';
import { touchPartner, touchPerson } from './touched';

/** A visit is over without a person having taken it. Whoever was being asked is free again. */
export function finish(router: Router, visit: WaitingVisit, how: LeftHow, to: Onward | null, now: number): void {
  if (router.options.trails) router.acts.push({ do: 'trail', decision: noteStanding(router, 'end', visit, now) });
  remove(router, visit, now, how === 'gave-up' ? 'gave-up' : 'otherwise');
  for (const { personId } of visit.offers) withdraw(router, personId, visit, 'withdrawn', now);
  for (const dial of [...visit.dials.values()]) {
    giveBackDial(router, visit, dial, now);
    router.acts.push({
      do: 'call-over',
      visitId: visit.id,
      contactId: visit.contactId,
      callId: dial.callId,
      how: 'not-needed',
      counted: false,
    });
    touchPartner(router, dial.partnerId);
  }
  router.touched.visits.delete(visit);
  router.acts.push({ do: 'ended', visit, how, onward: to });
}

/** Takes back what somebody was offered, since it was taken elsewhere or is over. */
export function withdraw(
  router: Router,
  personId: string,
  visit: WaitingVisit,
  how: 'withdrawn' | 'taken',
  now: number,
): void {
  const person = router.floor.people.get(personId);
  if (!person?.pending) return;
  endOffer(router, person, visit, how, now);
  touchPerson(router, person);
}

/** Takes a visit out of the line and its indexes, and stops its timer. */
export function remove(router: Router, visit: WaitingVisit, now: number, how: 'gave-up' | 'taken' | 'otherwise'): void {
  leaveLine(router, visit);
  noteLeft(router, visit, now, how);
  router.floor.waiting.delete(visit.id);
  if (visit.familiarId !== null) {
    const held = router.heldFor.get(visit.familiarId);
    held?.delete(visit);
    if (held?.size === 0) router.heldFor.delete(visit.familiarId);
  }
  if (visit.timerAt !== null) router.acts.push({ do: 'timer', timer: { kind: 'visit', id: visit.id }, at: null });
  visit.timerAt = null;
}
