import { noteAnswer } from './expectedwait';
import type { FloorPerson, WaitingVisit } from './floor';
import { remove, withdraw } from './leaving';
import { endOffer, refresh, reserve } from './offers';
import { countShare } from './order';
import { cohortOf, joinLine, rosterOf } from './roster';
import type { Router } from './router';
import { touchPerson } from './touched';
import { NO_OFFERS } from './visit';

/** Somebody accepts what is offered to them; an offer that is over already is passed over. */
export function accept(router: Router, person: FloorPerson, visit: WaitingVisit, legId: string, now: number): void {
  const { pending } = person;
  if (!pending) return;
  visit.offers = visit.offers.length === 1 ? NO_OFFERS : visit.offers.filter((o) => o.offerId !== pending.offerId);
  person.pending = null;
  router.acts.push({ do: 'offer-over', offerId: pending.offerId, visit, personId: person.id, how: 'accepted' });
  if (visit.kind !== 'message') noteAnswer(router, visit, now - pending.madeAt);
  take(router, person, visit, pending.groupId, legId, false, now);
}

/** The visit is over and a leg begins; whoever else was asked is free again, which is not counted against them. */
export function take(
  router: Router,
  person: FloorPerson,
  visit: WaitingVisit,
  groupId: string | null,
  legId: string,
  byHand: boolean,
  now: number,
): void {
  person.open.set(legId, {
    channel: visit.load,
    kind: visit.kind,
    cost: person.load[visit.load].cost,
    visitId: visit.id,
    queueId: visit.queue.id,
    groupId,
    acceptedAt: now,
  });
  person.lastContactAt = now;
  person.today++;
  const weight =
    visit.groups.reduce<number | undefined>(
      (w, id) => w ?? router.floor.groups.get(id)?.members.get(person.id),
      undefined,
    ) ?? 1;
  countShare(router, visit, person.id, weight);
  remove(router, visit, now, 'taken');
  for (const other of visit.offers) withdraw(router, other.personId, visit, 'taken', now);
  refresh(router, person, now);
  router.acts.push(
    { do: 'took', visit, personId: person.id, legId, groupId, byHand },
    { do: 'ended', visit, how: 'accepted', onward: null },
  );
  touchPerson(router, person);
}

/** An offer is declined, missed or withdrawn; whoever declined or missed is not asked again while others are able. */
export function turnDown(
  router: Router,
  person: FloorPerson,
  visit: WaitingVisit,
  how: 'declined' | 'missed' | 'withdrawn',
  now: number,
): void {
  if (how !== 'withdrawn') visit.refused = new Map(visit.refused).set(person.id, now);
  endOffer(router, person, visit, how, now);
  joinLine(router, visit, now);
  router.touched.visits.add(visit);
  touchPerson(router, person);
}

/** Somebody takes a contact by hand, when they could take it at all; they may be full, since they chose to. */
export function claim(router: Router, visitId: string, personId: string, legId: string, now: number): void {
  const visit = router.floor.waiting.get(visitId);
  const person = router.floor.people.get(personId);
  if (!visit || !person || visit.offers.length > 0 || visit.dials.size > 0) return;
  const group = rosterOf(router, cohortOf(router, visit, now)).of[person.index]?.group ?? null;
  reserve(router, person, group, now);
  take(router, person, visit, group?.id ?? null, legId, true, now);
}
