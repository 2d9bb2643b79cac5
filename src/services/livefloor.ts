import { MISSED, profileIdAt, type DutyState } from '../core/people/duty';
import { isText } from '../core/channels';
import type { OwnLevel } from '../core/people/levels';
import { withOverrides } from '../core/people/load';
import { nextChange } from '../core/routing/able';
import { acceptOffer, allDue, beginVisit, endLeg, endVisit, personChanged, setDuty, turnDownOffer, visitDue, type Engine, type OfferMade } from '../core/routing/engine';
import { emptyFloor, type FloorPerson, type WaitingVisit } from '../core/routing/floor';
import { mergeNeeds, type Need } from '../core/routing/needs';
import { lastCustomerWord, legsOf, offersOf, openLegs, openOffers, openVisits, readContact, readLeg, readVisit, writeDecision } from '../data/contacts';
import { ownLevelsOf, readOwnLevels, readPeople, readPerson, setActive, writeForNow, type Person } from '../data/people';
import { dutyProfileOf, levelsNow, nextChangeOf } from './peoplebook';
import { announce } from './change';
import { queueAsOf, settingsVersion } from '../data/settings';
import { clearTimer, setTimer } from '../data/timers';
import type { Host, Tx } from './host';

/** Real ms without a beat from the Desk after which somebody counts as out of reach. */
export const PRESENCE_MS = 45_000;

/**
 * Drives the router over the database: every function runs inside a transaction, lets the core decide, and writes what it
 * decided as events, trails and timers. Nothing here is truth: `load` makes it all again from the tables.
 */
export type LiveFloor = ReturnType<typeof createLiveFloor>;

export function createLiveFloor(host: Host) {
  const engine: Engine = { floor: emptyFloor(), newOfferId: () => host.ids('offer') };
  const { floor } = engine;
  /** Last beat of each Desk, real ms. Kept in memory on purpose: after a restart everybody gets their 45 s anew. */
  const beats = new Map<string, number>();
  /** What of each person's duty profile the router itself does not look at. */
  const manners = new Map<string, { acceptSeconds: number; autoAccept: boolean; restSeconds: number | null }>();
  const mannersOf = (personId: string) => manners.get(personId) ?? { acceptSeconds: 20, autoAccept: false, restSeconds: null };

  function floorPerson(person: Person, own: ReadonlyMap<string, OwnLevel>): FloorPerson {
    const at = host.clocks.floor();
    const profile = dutyProfileOf(host, profileIdAt(person, at));
    const levels = levelsNow(host, person, at, own);
    const there = floor.people.get(person.id);
    if (profile) manners.set(person.id, profile);
    return {
      id: person.id, duty: person.active ? person.duty : 'off', reachable: there?.reachable ?? true,
      profile: { rows: profile?.rows ?? [] }, load: withOverrides(profile?.load ?? NOTHING, person.most),
      levels: new Map([...levels].map(([skill, effective]) => [skill, effective.level])),
      open: there?.open ?? new Map(), pending: there?.pending ?? null, lastContactAt: person.lastContactAt,
    };
  }

  /** Reads the whole floor from the tables. */
  function load(): void {
    floor.people.clear();
    floor.waiting.clear();
    const own = readOwnLevels(host.db);
    for (const person of readPeople(host.db)) floor.people.set(person.id, floorPerson(person, own.get(person.id) ?? new Map()));
    for (const visit of openVisits(host.db)) {
      const queue = queueAsOf(host.db, visit.queueId, visit.settingsVersion);
      if (!queue) continue;
      const refused = new Map(offersOf(host.db, visit.id).filter((o) => o.endedHow === 'declined' || o.endedHow === 'missed').map((o) => [o.personId, o.endedAt ?? 0]));
      const { id, contactId, channel, settingsVersion: version, needs, priority, placedAt, enteredAt, entry } = visit;
      floor.waiting.set(id, { id, contactId, channel, queue, settingsVersion: version, needs, priority, placedAt, enteredAt, entry, refused, offeredTo: null });
    }
    for (const offer of openOffers(host.db)) {
      const visit = floor.waiting.get(offer.visitId);
      const person = floor.people.get(offer.personId);
      if (!visit || !person) continue;
      visit.offeredTo = person.id;
      person.pending = { offerId: offer.id, visitId: visit.id, channel: visit.channel, cost: person.load[visit.channel].cost };
    }
    for (const leg of openLegs(host.db)) {
      const person = floor.people.get(leg.personId);
      const contact = readContact(host.db, leg.contactId);
      if (!person || !contact) continue;
      const held = { channel: contact.channel, cost: person.load[contact.channel].cost };
      const rests = isText(contact.channel) && leg.talkEndedAt === null && restsAt(leg) <= host.clocks.floor();
      person.open.set(leg.id, rests ? { ...held, resting: true } : held);
    }
    const now = host.clocks.real();
    for (const person of floor.people.values()) if (!beats.has(person.id)) beats.set(person.id, now);
  }
  load();
  host.onUndone(load);

  /** Picks up after a stop: pending offers are withdrawn without blame, then everybody is asked again. */
  function resume(): void {
    host.transact((tx) => {
      for (const offer of openOffers(tx.db)) {
        const visit = readVisit(tx.db, offer.visitId);
        if (visit) tx.emit({ type: 'offer.ended', contactId: visit.contactId, visitId: visit.id, offerId: offer.id, personId: offer.personId, how: 'withdrawn' });
        clearTimer(tx.db, 'offer-expires', offer.id);
      }
      load();
      make(tx, allDue(engine, tx.floorAt));
      for (const visit of floor.waiting.values()) watch(tx, visit);
    });
  }

  /** Writes offers the core decided on: event, trail and the timer after which they count as missed. */
  function make(tx: Tx, offers: readonly OfferMade[]): void {
    for (const { offerId, visit, person, trail } of offers) {
      const acceptBy = tx.realAt + mannersOf(person.id).acceptSeconds * 1000;
      tx.emit({ type: 'offer.made', contactId: visit.contactId, visitId: visit.id, offerId, personId: person.id, acceptBy });
      writeDecision(tx.db, visit.id, trail);
      setTimer(tx.db, 'offer-expires', offerId, 'real', acceptBy);
      clearTimer(tx.db, 'visit-due', visit.id);
    }
    // Whoever takes offers without being asked has them at once; what then still fits is asked for in turn.
    for (const { offerId, person } of offers) if (person.pending?.offerId === offerId && mannersOf(person.id).autoAccept) accept(tx, person.id);
  }

  /** Sets the timer for the next instant at which time alone may change a waiting visit's answer. */
  function watch(tx: Tx, visit: WaitingVisit | undefined): void {
    if (!visit || visit.offeredTo !== null) return;
    const next = nextChange(floor, visit, tx.floorAt);
    if (next === null) clearTimer(tx.db, 'visit-due', visit.id);
    else setTimer(tx.db, 'visit-due', visit.id, 'floor', next);
  }

  function endOffer(tx: Tx, person: FloorPerson, how: 'accepted' | 'declined' | 'missed' | 'withdrawn'): WaitingVisit | null {
    const { pending } = person;
    const visit = pending && floor.waiting.get(pending.visitId);
    if (!pending || !visit) return null;
    tx.emit({ type: 'offer.ended', contactId: visit.contactId, visitId: visit.id, offerId: pending.offerId, personId: person.id, how });
    clearTimer(tx.db, 'offer-expires', pending.offerId);
    return visit;
  }

  /** When a text conversation begins to rest (floor ms): so long after the customer's last word, or after it began. */
  function restsAt(leg: { personId: string; contactId: string; acceptedAt: number }): number {
    const { restSeconds } = mannersOf(leg.personId);
    return restSeconds === null ? Infinity : Math.max(leg.acceptedAt, lastCustomerWord(host.db, leg.contactId) ?? 0) + restSeconds * 1000;
  }
  function watchRest(tx: Tx, leg: { id: string; personId: string; contactId: string; acceptedAt: number }): void {
    const at = restsAt(leg);
    if (at === Infinity) clearTimer(tx.db, 'leg-rests', leg.id);
    else setTimer(tx.db, 'leg-rests', leg.id, 'floor', Math.max(at, tx.floorAt + 1));
  }

  /** The person takes what is offered to them; gives the new leg's id, or null when nothing is offered any more. */
  function accept(tx: Tx, personId: string): string | null {
    const person = floor.people.get(personId);
    const visit = person && endOffer(tx, person, 'accepted');
    if (!visit) return null;
    const legId = tx.ids('leg');
    tx.emit({ type: 'visit.ended', contactId: visit.contactId, visitId: visit.id, how: 'accepted' });
    tx.emit({ type: 'leg.began', contactId: visit.contactId, visitId: visit.id, legId, personId });
    acceptOffer(engine, personId, legId, tx.floorAt);
    if (isText(visit.channel)) watchRest(tx, { id: legId, personId, contactId: visit.contactId, acceptedAt: tx.floorAt });
    // Room may be left for another contact: the offer no longer bars it.
    make(tx, personChanged(engine, personId, tx.floorAt));
    return legId;
  }

  /** Sets the instant at which time alone changes what somebody can take: another profile ends, or a skill does. */
  function watchPerson(tx: Tx, person: Person, own: ReadonlyMap<string, OwnLevel>): void {
    const at = nextChangeOf(host, person, tx.floorAt, own);
    if (at === null) clearTimer(tx.db, 'person-changes', person.id);
    else setTimer(tx.db, 'person-changes', person.id, 'floor', at);
  }

  return {
    engine, load, resume, accept,

    /** A contact enters a queue under the settings in force now. `handOver` needs add to the queue's. */
    enter(tx: Tx, visit: { contactId: string; queueId: string; placedAt: number; handOver: readonly Need[]; priority: number; because: string }): string {
      const version = host.remembered('version', settingsVersion);
      const queue = host.remembered(`queue ${visit.queueId}`, (db) => queueAsOf(db, visit.queueId, version));
      const contact = readContact(tx.db, visit.contactId);
      if (!queue || !contact) throw new Error(`cannot enter queue ${visit.queueId} with contact ${visit.contactId}`);
      const needs = mergeNeeds(queue.needs, visit.handOver);
      const visitId = tx.ids('visit');
      const event = tx.emit({
        type: 'visit.began', contactId: contact.id, visitId, queueId: queue.id, channel: contact.channel, settingsVersion: version,
        placedAt: visit.placedAt, needs, priority: visit.priority, goalSeconds: queue.goal.seconds, because: visit.because,
      });
      const waiting: WaitingVisit = {
        id: visitId, contactId: contact.id, channel: contact.channel, queue, settingsVersion: version, needs, priority: visit.priority,
        placedAt: visit.placedAt, enteredAt: tx.floorAt, entry: event.seq, refused: new Map(), offeredTo: null,
      };
      const { offers, nobody } = beginVisit(engine, waiting, tx.floorAt);
      make(tx, offers);
      if (nobody) writeDecision(tx.db, visitId, nobody);
      watch(tx, waiting);
      return visitId;
    },

    /** The visit ends without a person: the customer left, or it was closed. */
    leave(tx: Tx, visitId: string, how: 'gave-up' | 'closed-by-us'): void {
      const visit = floor.waiting.get(visitId);
      if (!visit) return;
      const person = visit.offeredTo ? floor.people.get(visit.offeredTo) : undefined;
      if (person) endOffer(tx, person, 'withdrawn');
      tx.emit({ type: 'visit.ended', contactId: visit.contactId, visitId, how });
      clearTimer(tx.db, 'visit-due', visitId);
      make(tx, endVisit(engine, visitId, tx.floorAt));
    },

    /** The person passes on an offer, or misses it and is set away. */
    turnDown(tx: Tx, personId: string, how: 'declined' | 'missed'): boolean {
      const person = floor.people.get(personId);
      const visit = person && endOffer(tx, person, how);
      if (!visit) return false;
      if (how === 'missed') tx.emit({ type: 'person.duty', personId, duty: 'away', reason: MISSED });
      make(tx, turnDownOffer(engine, personId, how, tx.floorAt));
      watch(tx, floor.waiting.get(visit.id));
      return true;
    },

    /** A leg is over, wrap-up included. Somebody who leaves when empty goes off duty with their last contact. */
    finishLeg(tx: Tx, personId: string, legId: string): void {
      const person = floor.people.get(personId);
      clearTimer(tx.db, 'leg-rests', legId);
      make(tx, endLeg(engine, personId, legId, tx.floorAt));
      if (person?.duty === 'away-when-empty' && person.open.size === 0) {
        person.duty = 'off';
        tx.emit({ type: 'person.duty', personId, duty: 'off', reason: null });
        if (readPerson(tx.db, personId)?.leaving) {
          setActive(tx.db, personId, false);
          announce(tx, 'person', personId);
        }
      }
    },

    /** The customer of an open text conversation wrote: it wakes, even over the limit, and its rest is counted anew. */
    customerSpoke(tx: Tx, contactId: string): void {
      for (const leg of legsOf(tx.db, contactId)) {
        const person = floor.people.get(leg.personId);
        const held = person?.open.get(leg.id);
        if (!person || !held || leg.talkEndedAt !== null || !isText(held.channel)) continue;
        person.open.set(leg.id, { channel: held.channel, cost: held.cost });
        watchRest(tx, leg);
      }
    },
    /** A text conversation whose customer has gone quiet holds no load until they write again. */
    legRests(tx: Tx, legId: string): void {
      const leg = readLeg(tx.db, legId);
      const person = leg && floor.people.get(leg.personId);
      const held = person?.open.get(legId);
      if (!leg || !person || !held || leg.talkEndedAt !== null) return;
      person.open.set(legId, { ...held, resting: true });
      make(tx, personChanged(engine, person.id, tx.floorAt));
    },
    /** Time alone changed what somebody can take: another profile for now ended, or a skill did. */
    personDue(tx: Tx, personId: string): void {
      const person = readPerson(tx.db, personId);
      if (!person) return;
      if (person.forNow && person.forNow.until <= tx.floorAt) writeForNow(tx.db, personId, null);
      announce(tx, 'person', personId);
      this.refreshPeople(tx, [personId]);
    },

    setDuty(tx: Tx, personId: string, duty: DutyState, reason: string | null): void {
      const person = floor.people.get(personId);
      if (!person || (person.duty === duty && duty !== 'away')) return;
      const state: DutyState = duty === 'away-when-empty' && person.open.size === 0 && !person.pending ? 'off' : duty;
      if (state !== 'ready' && person.pending) {
        // Going off while being asked is an answer: it is passed on without being counted as missed.
        const visit = endOffer(tx, person, 'declined');
        person.duty = state;
        tx.emit({ type: 'person.duty', personId, duty: state, reason });
        make(tx, turnDownOffer(engine, personId, 'declined', tx.floorAt));
        if (visit) watch(tx, floor.waiting.get(visit.id));
        return;
      }
      tx.emit({ type: 'person.duty', personId, duty: state, reason });
      make(tx, setDuty(engine, personId, state, tx.floorAt));
    },

    /** People's skills, channels or profiles changed: what they can take is read anew and asked at once. */
    refreshPeople(tx: Tx, personIds: readonly string[]): void {
      for (const id of personIds) {
        const person = readPerson(tx.db, id);
        if (person) {
          const own = ownLevelsOf(tx.db, id);
          floor.people.set(id, floorPerson(person, own));
          watchPerson(tx, person, own);
        } else floor.people.delete(id);
      }
      for (const id of personIds) if (floor.people.get(id)?.duty === 'ready') make(tx, personChanged(engine, id, tx.floorAt));
      for (const visit of floor.waiting.values()) watch(tx, visit);
    },

    visitDue(tx: Tx, visitId: string): void {
      make(tx, visitDue(engine, visitId, tx.floorAt));
      watch(tx, floor.waiting.get(visitId));
    },

    /** A Desk is there. Somebody who was out of reach can be asked again at once. */
    beat(personId: string): void {
      beats.set(personId, host.clocks.real());
      const person = floor.people.get(personId);
      if (!person || person.reachable) return;
      host.transact((tx) => {
        person.reachable = true;
        tx.emit({ type: 'person.reach', personId, reachable: true });
        make(tx, personChanged(engine, personId, tx.floorAt));
      });
    },

    /** Finds Desks gone silent for 45 s: nothing more is offered there, and a pending offer is missed. People on stand-in telephones need no beat. */
    checkPresence(needsBeat: (personId: string) => boolean): void {
      const late = host.clocks.real() - PRESENCE_MS;
      for (const person of floor.people.values()) {
        if (person.duty === 'off' || !person.reachable || (beats.get(person.id) ?? 0) >= late || !needsBeat(person.id)) continue;
        host.transact((tx) => {
          person.reachable = false;
          tx.emit({ type: 'person.reach', personId: person.id, reachable: false });
        });
      }
    },
  };
}

const NOTHING = { voice: { cost: 100, most: 0 }, chat: { cost: 25, most: 0 }, messaging: { cost: 20, most: 0 }, sms: { cost: 10, most: 0 } };
