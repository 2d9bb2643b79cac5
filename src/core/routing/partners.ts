import { ASK_AGAIN_SECONDS } from './able';
import { noteLeft } from './expectedwait';
import type { Dial, Floor, FloorNumber, FloorPartner, PartnerCallNow, PartnerFacts, WaitingVisit } from './floor';
import { ended, givenBack, NO_USES, reached, taken, type Uses } from './limits';
import { leaveLine } from './roster';
import type { Router } from './router';

/** Rank and weight of a number for a queue; a number that does not name the queue stands first with weight 1. */
const placeOf = (number: FloorNumber, queueId: string) => number.perQueue.get(queueId) ?? { rank: 1, weight: 1 };

/** Looks anew at the limits of an outside number, or of a desk as a whole. */
export function refreshOutside(thing: FloorNumber | FloorPartner, now: number): void {
  const { kinds, changesAt } = reached(thing, thing.uses, now);
  thing.reached = kinds;
  thing.changesAt = changesAt;
}

/** Changes what is used of a number or a desk, and looks at its limits anew. */
function use(thing: FloorNumber | FloorPartner, uses: Uses, now: number): void {
  thing.uses = uses;
  refreshOutside(thing, now);
}

/** Whether a desk, and one of its numbers, may be dialled as far as hours and limits go. */
export const takesCalls = (partner: FloorPartner): boolean =>
  partner.reached.length === 0 && partner.numbers.some((n) => n.reached.length === 0);

/** Takes over desks and numbers as settings have them now; what they have used so far goes on. */
export function setPartners(floor: Floor, now: number, partners: readonly PartnerFacts[]): void {
  const known = new Map([...floor.partners.values()].flatMap((p) => p.numbers.map((n) => [n.id, n] as const)));
  const fresh = { reached: [], changesAt: null, timerAt: null };
  const next = partners.map((p) => ({
    ...p,
    ...fresh,
    uses: floor.partners.get(p.id)?.uses ?? NO_USES,
    numbers: p.numbers.map((n) => ({
      ...n,
      ...fresh,
      uses: known.get(n.id)?.uses ?? NO_USES,
      share: known.get(n.id)?.share ?? 0,
    })),
  }));
  floor.partners.clear();
  for (const p of next) {
    floor.partners.set(p.id, p);
    for (const thing of [p, ...p.numbers]) refreshOutside(thing, now);
  }
}

/** Finds a partner desk's number by the number's id. */
export function numberOf(router: Router, numberId: string): { partner: FloorPartner; number: FloorNumber } | null {
  for (const partner of router.floor.partners.values()) {
    const number = partner.numbers.find((n) => n.id === numberId);
    if (number) return { partner, number };
  }
  return null;
}

/**
 * The numbers that may be dialled for a visit now, of the earliest-added partner desk that has any, the first to dial
 * first.
 */
export function dialable(
  router: Router,
  visit: WaitingVisit,
  now: number,
): { partner: FloorPartner; numbers: FloorNumber[] } | null {
  for (const id of visit.partners) {
    const partner = router.floor.partners.get(id);
    if (!partner || !takesCalls(partner)) continue;
    const numbers = partner.numbers
      .filter((n) => n.reached.length === 0 && (visit.refused.get(n.id) ?? -Infinity) + ASK_AGAIN_SECONDS * 1000 <= now)
      .sort(
        (a, b) =>
          placeOf(a, visit.queue.id).rank - placeOf(b, visit.queue.id).rank ||
          a.share - b.share ||
          (a.id < b.id ? -1 : 1),
      );
    if (numbers.length > 0) return { partner, numbers };
  }
  return null;
}

/** Dials outside for a visit that nobody here can take: one number, or all of them at once. Only calls go outside. */
export function dialOut(router: Router, visit: WaitingVisit, now: number): void {
  // A call that we promised is ours to make.
  if (visit.partners.length === 0 || visit.channel !== 'voice' || visit.kind !== 'live' || !router.lineOf.has(visit))
    return;
  const found = dialable(router, visit, now);
  if (!found) return;
  const { partner, numbers } = found;
  leaveLine(router, visit);
  noteLeft(router, visit, now, 'taken');
  // Rung at once or one by one, it is one contact that the desk takes.
  use(partner, taken(partner.uses, partner.zone, now), now);
  for (const number of partner.way === 'all-at-once' ? numbers : numbers.slice(0, 1)) {
    const callId = router.options.newId('call');
    use(number, taken(number.uses, number.zone, now), now);
    visit.dials = new Map(visit.dials).set(callId, {
      callId,
      partnerId: partner.id,
      numberId: number.id,
      startedAt: now,
    });
    router.acts.push({
      do: 'dial',
      visit,
      callId,
      partnerId: partner.id,
      numberId: number.id,
      address: number.address,
      ringUntil: now + partner.ringSeconds * 1000,
    });
  }
}

function without(map: WaitingVisit['dials'], key: string): WaitingVisit['dials'] {
  return new Map([...map].filter(([k]) => k !== key));
}

function giveBackNumber(router: Router, visit: WaitingVisit, dial: Dial, now: number): FloorPartner | null {
  visit.dials = without(visit.dials, dial.callId);
  const found = numberOf(router, dial.numberId);
  if (!found) return null;
  use(found.number, givenBack(found.number.uses, dial.startedAt), now);
  return found.partner;
}

/**
 * A number did not answer, or was not needed any more: what dialling it reserved is free again, with the last one the
 * desk's as well.
 */
export function giveBackDial(router: Router, visit: WaitingVisit, dial: Dial, now: number): void {
  const partner = giveBackNumber(router, visit, dial, now);
  if (partner && visit.dials.size === 0) use(partner, givenBack(partner.uses, dial.startedAt), now);
}

/** The first number to answer has the contact; the rest stop, which is not counted against them. */
export function partnerAnswers(router: Router, visit: WaitingVisit, dial: Dial, now: number): void {
  visit.dials = without(visit.dials, dial.callId);
  for (const other of [...visit.dials.values()]) {
    giveBackNumber(router, visit, other, now);
    router.acts.push({
      do: 'call-over',
      visitId: visit.id,
      contactId: visit.contactId,
      callId: other.callId,
      how: 'not-needed',
      counted: false,
    });
  }
  const found = numberOf(router, dial.numberId);
  router.learned.add('numbers');
  if (found) found.number.share += 1 / placeOf(found.number, visit.queue.id).weight;
  router.floor.partnerCalls.set(dial.callId, {
    ...dial,
    answeredAt: now,
    queueId: visit.queue.id,
    visitId: visit.id,
    contactId: visit.contactId,
  });
}

/**
 * An outside call is over. It counts towards caps only when it lasted long enough. Gives the partner desk and whether
 * it counted.
 */
export function partnerDone(
  router: Router,
  callId: string,
  now: number,
): { partner: FloorPartner; counted: boolean; call: PartnerCallNow } | null {
  const call = router.floor.partnerCalls.get(callId);
  const found = call && numberOf(router, call.numberId);
  if (!call || !found) return null;
  router.floor.partnerCalls.delete(callId);
  const counted = now - call.answeredAt >= found.partner.countsFromSeconds * 1000;
  for (const thing of [found.number, found.partner])
    use(thing, counted ? ended(thing.uses) : givenBack(thing.uses, call.startedAt), now);
  return { partner: found.partner, counted, call };
}
