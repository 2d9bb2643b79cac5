import { isText } from '../../core/channels';
import { type DutyState, profileIdAt } from '../../core/people/duty';
import type { OwnLevel } from '../../core/people/levels';
import type { Act, LeftHow, NewVisit, RouterEvent } from '../../core/routing/acts';
import { learnedSince } from '../../core/routing/memory';
import type { Need } from '../../core/routing/needs';
import { decide } from '../../core/routing/pass';
import { createRouter, type Router } from '../../core/routing/router';
import { advance } from '../../core/routing/advance';
import { readContact } from '../../data/contacts';
import { legsOf, readLeg } from '../../data/legs';
import { lastCustomerWord } from '../../data/messages';
import { type Person, readPerson, writeForNow } from '../../data/people';
import { lastDealtWith, writeRouterMemory } from '../../data/routermemory';
import { ownLevelsOf } from '../../data/skills';
import { clearTimer, setTimer } from '../../data/timers';
import { openOffers } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import { announce } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { dutyProfileOf, nextChangeOf } from '../people/peoplebook';
import { carryOutAct, type FloorHooks } from './carryout';
import { groupFacts, partnerFacts, personFacts, queueFacts } from './floorsettings';
import { loadFloor } from './floorload';

/** Real ms without a beat from the Desk after which somebody counts as out of reach. */
export const PRESENCE_MS = 45_000;

/**
 * Drives the router over the database: every function runs inside a transaction, lets the core decide, and writes
 * what it decided as events, trails and timers. Nothing here is truth: the router is made again from the tables by
 * `load`.
 */
export type LiveFloor = ReturnType<typeof createLiveFloor>;

export function createLiveFloor(host: Host) {
  let router = newRouter();
  /** Last beat of each Desk, real ms. Undoable in memory on purpose: after a restart everybody gets their 45 s anew. */
  const beats = new Map<string, number>();
  const hooks: FloorHooks = {
    perform: () => undefined,
    onward: () => undefined,
    taken: () => undefined,
    dial: () => undefined,
    callOver: () => undefined,
  };

  function newRouter(): Router {
    return createRouter({
      newId: (prefix) => host.ids(prefix),
      zone: readWorkspace(host.db)?.zone ?? 'UTC',
      trails: true,
      decide,
    });
  }
  /** What of each person's duty profile the router itself does not look at. */
  function mannersOf(personId: string): { acceptSeconds: number; autoAccept: boolean; restSeconds: number | null } {
    const person = host.remembered(`person ${personId}`, (db) => readPerson(db, personId));
    return (
      (person && dutyProfileOf(host, profileIdAt(person, host.times.floor()))) ?? {
        acceptSeconds: 20,
        autoAccept: false,
        restSeconds: null,
      }
    );
  }

  /** Reads the whole floor from the tables. */
  function load(): void {
    const before = router;
    router = newRouter();
    loadFloor(
      host,
      router,
      (leg) => restsAt(leg) <= host.times.floor(),
      (id) => before.floor.people.get(id)?.reachable ?? true,
    );
    const now = host.times.real();
    for (const id of router.floor.people.keys()) if (!beats.has(id)) beats.set(id, now);
  }
  load();
  host.onUndone(load);

  /** Lets something happen to the floor, and carries out what follows. */
  function run(tx: Tx, event: RouterEvent): readonly Act[] {
    const acts = advance(router, tx.floorAt, event);
    for (const act of acts) carryOutAct(tx, act, { hooks, mannersOf, watchRest });
    if (!host.bulk) remember(tx);
    // Whoever takes offers without being asked has them at once; what then still fits is asked for in turn.
    for (const act of acts)
      if (act.do === 'offer' && act.person.pending?.offerId === act.offerId && mannersOf(act.person.id).autoAccept)
        accept(tx, act.person.id);
    return acts;
  }

  const remember = (tx: Tx): void => {
    for (const { key, body } of learnedSince(router)) writeRouterMemory(tx.db, key, body);
  };

  /** When a text conversation begins to rest (floor ms): so long after the customer's last word, or after it began. */
  function restsAt(leg: { personId: string; contactId: string; acceptedAt: number }): number {
    const { restSeconds } = mannersOf(leg.personId);
    return restSeconds === null
      ? Infinity
      : Math.max(leg.acceptedAt, lastCustomerWord(host.db, leg.contactId) ?? 0) + restSeconds * 1000;
  }
  function watchRest(tx: Tx, leg: { id: string; personId: string; contactId: string; acceptedAt: number }): void {
    const at = restsAt(leg);
    if (at === Infinity) clearTimer(tx.db, 'leg-rests', leg.id);
    else setTimer(tx.db, 'leg-rests', leg.id, 'floor', Math.max(at, tx.floorAt + 1));
  }

  /** The person takes what is offered to them; gives the new leg's id, or null when nothing is offered any more. */
  function accept(tx: Tx, personId: string): string | null {
    const pending = router.floor.people.get(personId)?.pending;
    if (!pending) return null;
    const legId = tx.ids('leg');
    run(tx, { type: 'accept', offerId: pending.offerId, personId, legId });
    return legId;
  }

  /** Sets the instant at which time alone changes what somebody can take: another profile ends, or a skill does. */
  function watchPerson(tx: Tx, person: Person, own: ReadonlyMap<string, OwnLevel>): void {
    const at = nextChangeOf(host, person, tx.floorAt, own);
    if (at === null) clearTimer(tx.db, 'person-changes', person.id);
    else setTimer(tx.db, 'person-changes', person.id, 'floor', at);
  }
  function refreshGroups(tx: Tx): void {
    const groups = groupFacts(host, router.floor.people);
    const now = groups.map((g) => JSON.stringify([g.id, g.zone, g.hours, g.limits, g.instead, [...g.members]]));
    const before = [...router.floor.groups.values()].map((g) =>
      JSON.stringify([g.id, g.zone, g.hours, g.limits, g.instead, [...g.members]]),
    );
    if (now.join() !== before.join()) run(tx, { type: 'groups', groups });
  }

  return {
    hooks,
    run,
    load,
    accept,
    remember,
    get router(): Router {
      return router;
    },

    /**
     * Picks up after a stop: offers whose time ran out meanwhile are withdrawn without blame, then everybody is asked
     * again.
     */
    resume(): void {
      host.transact((tx) => {
        load();
        run(tx, { type: 'groups', groups: groupFacts(host, router.floor.people) });
        run(tx, { type: 'partners', partners: partnerFacts(host) });
        for (const offer of openOffers(tx.db))
          if (offer.acceptBy <= tx.realAt)
            run(tx, { type: 'turn-down', offerId: offer.id, personId: offer.personId, how: 'withdrawn' });
      });
    },
    /** After what was due in the meantime has run: asks for everybody who waits. */
    askAnew: (): void => host.transact((tx) => void run(tx, { type: 'anew' })),

    /**
     * A contact enters a queue under the settings in force now. `handOver` needs add to the queue's. Gives the
     * visit's id.
     */
    enter(
      tx: Tx,
      visit: {
        contactId: string;
        queueId: string;
        placedAt: number;
        handOver: readonly Need[];
        priority: number;
        because: string;
        callback?: boolean;
        personId?: string | null;
        opens?: NewVisit['opens'];
      },
    ): string {
      const contact = readContact(tx.db, visit.contactId);
      if (!router.floor.queues.has(visit.queueId)) this.refreshSettings(tx);
      const queue = router.floor.queues.get(visit.queueId);
      if (!queue || !contact) throw new Error(`cannot enter queue ${visit.queueId} with contact ${visit.contactId}`);
      const { familiar } = queue.settings;
      const familiarId = familiar
        ? lastDealtWith(tx.db, contact.customerId, tx.floorAt - familiar.days * 86_400_000)
        : null;
      const id = tx.ids('visit');
      // A promised call is a call, by whatever channel it was asked for.
      const channel = visit.callback && queue.settings.channels.includes('voice') ? 'voice' : contact.channel;
      run(tx, {
        type: 'enter',
        visit: {
          id,
          contactId: contact.id,
          queueId: visit.queueId,
          channel,
          placedAt: visit.placedAt,
          handOver: visit.handOver,
          priority: visit.priority,
          familiarId,
          callback: visit.callback ?? false,
          because: visit.because,
          passed: [],
          personId: visit.personId ?? null,
          opens: visit.opens ?? null,
        },
      });
      return id;
    },

    /** The visit ends without a person: the customer left, or it was closed. */
    leave: (tx: Tx, visitId: string, how: LeftHow): void => void run(tx, { type: 'leave', visitId, how }),

    /** The person passes on an offer, or misses it and is set away. */
    turnDown(tx: Tx, personId: string, how: 'declined' | 'missed'): boolean {
      const pending = router.floor.people.get(personId)?.pending;
      if (!pending) return false;
      run(tx, { type: 'turn-down', offerId: pending.offerId, personId, how });
      return true;
    },

    /** A leg is over, wrap-up included. Somebody who leaves when empty goes off duty with their last contact. */
    finishLeg(tx: Tx, personId: string, legId: string): void {
      clearTimer(tx.db, 'leg-rests', legId);
      run(tx, { type: 'leg-ended', personId, legId });
    },

    /** The customer of an open text conversation wrote: it wakes, even over the limit, and its rest is counted anew. */
    customerSpoke(tx: Tx, contactId: string): void {
      for (const leg of legsOf(tx.db, contactId)) {
        const held = router.floor.people.get(leg.personId)?.open.get(leg.id);
        if (!held || leg.talkEndedAt !== null || !isText(held.channel)) continue;
        if (held.resting) run(tx, { type: 'rest', personId: leg.personId, legId: leg.id, resting: false });
        watchRest(tx, leg);
      }
    },
    /** A text conversation whose customer has gone quiet holds no load until they write again. */
    legRests(tx: Tx, legId: string): void {
      const leg = readLeg(tx.db, legId);
      if (leg && leg.endedAt === null && leg.talkEndedAt === null)
        run(tx, { type: 'rest', personId: leg.personId, legId, resting: true });
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
      const person = router.floor.people.get(personId);
      if (!person || (person.duty === duty && duty !== 'away')) return;
      const state: DutyState = duty === 'away-when-empty' && person.open.size === 0 && !person.pending ? 'off' : duty;
      tx.emit({ type: 'person.duty', personId, duty: state, reason });
      run(tx, { type: 'duty', personId, duty: state });
    },

    /** People's skills, channels or profiles changed: what they can take is read anew and asked at once. */
    refreshPeople(tx: Tx, personIds: readonly string[]): void {
      const gone: string[] = [];
      const people = personIds.flatMap((id) => {
        const person = readPerson(tx.db, id);
        if (!person) {
          gone.push(id);
          return [];
        }
        const own = ownLevelsOf(tx.db, id);
        watchPerson(tx, person, own);
        if (!person.active && router.floor.people.get(id)?.duty !== 'off')
          run(tx, { type: 'duty', personId: id, duty: 'off' });
        return [
          {
            ...personFacts(host, person, own),
            duty: person.active ? person.duty : ('off' as const),
            reachable: true,
            lastContactAt: person.lastContactAt,
            today: 0,
          },
        ];
      });
      run(tx, { type: 'people', people, gone });
      refreshGroups(tx);
    },
    /**
     * Queues, hours, groups or partner desks changed: they count from the next decision on, queues from the next
     * visit on.
     */
    refreshSettings(tx: Tx): void {
      run(tx, { type: 'queues', queues: queueFacts(host, router.floor.queues) });
      refreshGroups(tx);
      run(tx, { type: 'partners', partners: partnerFacts(host) });
    },

    /** Something of a visit, a group's, a person's or a number's is due by time alone. */
    due: (tx: Tx, kind: 'visit' | 'group' | 'person' | 'number', id: string): void =>
      void run(tx, { type: 'due', timer: { kind, id } }),

    /** A Desk is there. Somebody who was out of reach can be asked again at once. */
    beat(personId: string): void {
      beats.set(personId, host.times.real());
      const person = router.floor.people.get(personId);
      if (!person || person.reachable) return;
      host.transact((tx) => {
        tx.emit({ type: 'person.reach', personId, reachable: true });
        run(tx, { type: 'reach', personId, reachable: true });
      });
    },

    /**
     * Finds Desks gone silent for 45 s: nothing more is offered there, and a pending offer is missed. People on
     * stand-in telephones need no beat.
     */
    checkPresence(needsBeat: (personId: string) => boolean): void {
      const late = host.times.real() - PRESENCE_MS;
      for (const person of router.floor.people.values()) {
        if (person.duty === 'off' || !person.reachable || (beats.get(person.id) ?? 0) >= late || !needsBeat(person.id))
          continue;
        host.transact((tx) => {
          tx.emit({ type: 'person.reach', personId: person.id, reachable: false });
          run(tx, { type: 'reach', personId: person.id, reachable: false });
        });
      }
    },
  };
}
