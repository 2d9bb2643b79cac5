import type { DutyState } from '../people/duty';
import type { Floor, FloorPerson, WaitingVisit } from './floor';
import { explain, runPass, type Decision } from './pass';
import type { Trail } from './trail';

/**
 * The router: each function takes the floor, one thing that happened at an instant (floor ms), changes the floor and says
 * what was decided. The live floor and a generated day both call these, with their own clock and ids.
 */
export type Engine = { readonly floor: Floor; readonly newOfferId: () => string };

/** An offer the driver must make: ask the person, and come back with `answerOffer`. */
export type OfferMade = { readonly offerId: string; readonly visit: WaitingVisit; readonly person: FloorPerson; readonly trail: Trail };

function pass(engine: Engine, visits: readonly WaitingVisit[], people: readonly FloorPerson[], now: number): OfferMade[] {
  const made: OfferMade[] = [];
  runPass(engine.floor, visits, people, now, ({ visit, person, trail }: Decision) => {
    const offerId = engine.newOfferId();
    // The offer reserves its load from here on.
    person.pending = { offerId, visitId: visit.id, channel: visit.channel, cost: person.load[visit.channel].cost };
    visit.offeredTo = person.id;
    made.push({ offerId, visit, person, trail });
  });
  return made;
}

/** People who could be asked for this visit at all: anybody with a duty row for it. */
const everybody = (engine: Engine) => [...engine.floor.people.values()];

/** The waiting visits this person's duty profile has a row for. */
const within = (engine: Engine, person: FloorPerson): WaitingVisit[] =>
  [...engine.floor.waiting.values()].filter((v) => v.offeredTo === null && person.profile.rows.some((r) => r.queueId === v.queue.id && r.channel === v.channel));

/** A contact enters a queue. Without an offer, `nobody` is the trail of why. */
export function beginVisit(engine: Engine, visit: WaitingVisit, now: number): { offers: OfferMade[]; nobody: Trail | null } {
  engine.floor.waiting.set(visit.id, visit);
  const offers = pass(engine, [visit], everybody(engine), now);
  return { offers, nobody: offers.length === 0 ? explain(engine.floor, visit, now) : null };
}

/** A person's room, skills, profile or state changed for the better or worse: ask on their behalf. */
export function personChanged(engine: Engine, personId: string, now: number): OfferMade[] {
  const person = engine.floor.people.get(personId);
  return person ? pass(engine, within(engine, person), [person], now) : [];
}

/** Somebody goes ready, away or off. Coming on duty counts as just having had a contact, so that newcomers do not jump the line. */
export function setDuty(engine: Engine, personId: string, duty: DutyState, now: number): OfferMade[] {
  const person = engine.floor.people.get(personId);
  if (!person) return [];
  if (person.duty === 'off' && duty === 'ready') person.lastContactAt = now;
  person.duty = duty;
  return personChanged(engine, personId, now);
}

/** Time alone may have changed a visit's answer (a delay passed, a refusal aged). */
export function visitDue(engine: Engine, visitId: string, now: number): OfferMade[] {
  const visit = engine.floor.waiting.get(visitId);
  return visit ? pass(engine, [visit], everybody(engine), now) : [];
}

/** Everything at once: after a restart, or when settings changed for many. */
export const allDue = (engine: Engine, now: number): OfferMade[] => pass(engine, [...engine.floor.waiting.values()], everybody(engine), now);

/** The person takes the offer: the visit is over, a leg begins and holds the load that the offer reserved. */
export function acceptOffer(engine: Engine, personId: string, legId: string, now: number): WaitingVisit | null {
  const person = engine.floor.people.get(personId);
  if (!person?.pending) return null;
  const visit = engine.floor.waiting.get(person.pending.visitId) ?? null;
  person.open.set(legId, { channel: person.pending.channel, cost: person.pending.cost });
  person.lastContactAt = now;
  engine.floor.waiting.delete(person.pending.visitId);
  person.pending = null;
  return visit;
}

/**
 * The person passes on the offer, or misses it (then the driver also sets them away). The visit keeps both its instants
 * and is offered on; a withdrawn offer leaves no mark on the person.
 */
export function turnDownOffer(engine: Engine, personId: string, how: 'declined' | 'missed' | 'withdrawn', now: number): OfferMade[] {
  const person = engine.floor.people.get(personId);
  if (!person?.pending) return [];
  const visit = engine.floor.waiting.get(person.pending.visitId);
  person.pending = null;
  if (how === 'missed') person.duty = 'away';
  if (visit) {
    visit.offeredTo = null;
    if (how !== 'withdrawn') visit.refused.set(personId, now);
  }
  const onwards = visit ? visitDue(engine, visit.id, now) : [];
  return [...onwards, ...personChanged(engine, personId, now)];
}

/** The customer leaves or is moved on before anybody took them. A pending offer falls away. */
export function endVisit(engine: Engine, visitId: string, now: number): OfferMade[] {
  const visit = engine.floor.waiting.get(visitId);
  if (!visit) return [];
  engine.floor.waiting.delete(visitId);
  const person = visit.offeredTo ? engine.floor.people.get(visit.offeredTo) : undefined;
  if (!person) return [];
  person.pending = null;
  return personChanged(engine, person.id, now);
}

/** A leg is over, wrap-up included: its load is free again. Somebody leaving when empty goes off duty with their last one. */
export function endLeg(engine: Engine, personId: string, legId: string, now: number): OfferMade[] {
  const person = engine.floor.people.get(personId);
  if (!person) return [];
  person.open.delete(legId);
  return personChanged(engine, personId, now);
}
