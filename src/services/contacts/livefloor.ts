import type { DutyState } from '../../core/people/duty';
import type { OwnLevel } from '../../core/people/levels';
import type { RouterTimer } from '../../core/routing/acts';
import type { Router } from '../../core/routing/router';
import { readLeg } from '../../data/legs';
import { type Person, readPerson, writeForNow } from '../../data/people';
import { ownLevelsOf } from '../../data/skills';
import { clearTimer, setTimer } from '../../data/timers';
import { openOffers } from '../../data/visits';
import { announce } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { nextChangeOf } from '../people/peoplebook';
import type { Dispatcher } from './dispatcher';
import { groupFacts, memberChanges, partnerFacts, personFacts } from './floorsettings';
import type { RouterHere } from './routerhere';
import { refreshQueues } from './settingsofrouter';

/** Real ms without a beat from the Desk after which somebody counts as out of reach. */
export const PRESENCE_MS = 45_000;

/**
 * What people and settings do to the floor. Every function that takes a transaction runs within it; the router decides
 * and the dispatcher carries out.
 */
export type LiveFloor = ReturnType<typeof createLiveFloor>;

export function createLiveFloor(host: Host, here: RouterHere, { advances, accept }: Dispatcher) {
  /** Last beat of each Desk, real ms. Kept in memory on purpose: after a restart everybody gets their 45 s anew. */
  const beats = new Map<string, number>();
  const startedAt = host.times.real();
  const people = () => here.router.floor.people;

  /** Sets the instant at which time alone changes what somebody can take: another profile ends, or a skill does. */
  function watchPerson(tx: Tx, person: Person, own: ReadonlyMap<string, OwnLevel>): void {
    const at = nextChangeOf(host, person, tx.floorAt, own);
    if (at === null) clearTimer(tx.db, 'person-changes', person.id);
    else setTimer(tx.db, 'person-changes', person.id, 'floor', at);
  }

  /** Whose settings have changed in the change under way, or in one that was undone: reading them anew is harmless. */
  const changed = new Set<string>();
  function readPeopleAnew(tx: Tx): void {
    const read = [...changed].map((id) => {
      const person = readPerson(tx.db, id);
      if (!person) return { id, person, facts: null };
      const own = ownLevelsOf(tx.db, id);
      watchPerson(tx, person, own);
      if (!person.active && people().get(id)?.duty !== 'off') advances(tx, { type: 'duty', personId: id, duty: 'off' });
      const facts = {
        ...personFacts(host, person, own),
        duty: person.active ? person.duty : ('off' as const),
        reachable: true,
        lastContactAt: person.lastContactAt,
        today: 0,
      };
      return { id, person, facts };
    });
    changed.clear();
    advances(tx, {
      type: 'people',
      people: read.flatMap((r) => r.facts ?? []),
      gone: read.flatMap((r) => (r.facts ? [] : [r.id])),
    });
    const changes = memberChanges(
      host,
      here.router.floor.groups,
      read.map((r) => ({ ...r, levels: r.facts?.levels ?? new Map<string, number>() })),
    );
    if (changes.length > 0) advances(tx, { type: 'members', changes });
  }
  const readQueuesAnew = (tx: Tx): void => refreshQueues(host, here, (event) => advances(tx, event));

  return {
    get router(): Router {
      return here.router;
    },
    run: advances,
    accept,
    remember: here.remember,

    /**
     * Picks up after a stop: offers whose time ran out meanwhile are withdrawn without blame, then everybody is asked
     * again.
     */
    resume(): void {
      host.transact((tx) => {
        here.load();
        advances(tx, { type: 'groups', groups: groupFacts(host, people()) });
        advances(tx, { type: 'partners', partners: partnerFacts(host) });
        for (const offer of openOffers(tx.db))
          if (offer.acceptBy <= tx.realAt)
            advances(tx, { type: 'turn-down', offerId: offer.id, personId: offer.personId, how: 'withdrawn' });
      });
    },
    /** After what was due in the meantime has run: asks for everybody who waits. */
    askAnew: (): void => host.transact((tx) => void advances(tx, { type: 'anew' })),

    /** The person passes on an offer, or misses it and is set away. */
    turnDown(tx: Tx, personId: string, how: 'declined' | 'missed'): boolean {
      const pending = people().get(personId)?.pending;
      if (!pending) return false;
      advances(tx, { type: 'turn-down', offerId: pending.offerId, personId, how });
      return true;
    },

    /** A text conversation whose customer has gone quiet holds no load until they write again. */
    legRests(tx: Tx, legId: string): void {
      const leg = readLeg(tx.db, legId);
      if (leg && leg.endedAt === null && leg.talkEndedAt === null)
        advances(tx, { type: 'rest', personId: leg.personId, legId, resting: true });
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
      const person = people().get(personId);
      if (!person || (person.duty === duty && duty !== 'away')) return;
      const state: DutyState = duty === 'away-when-empty' && person.open.size === 0 && !person.pending ? 'off' : duty;
      tx.emit({ type: 'person.duty', personId, duty: state, reason });
      advances(tx, { type: 'duty', personId, duty: state });
    },

    /**
     * People's skills, channels or profiles changed: at the end of the change what they can take is read anew and asked
     * for.
     */
    refreshPeople(tx: Tx, personIds: readonly string[]): void {
      for (const id of personIds) changed.add(id);
      tx.atEnd(readPeopleAnew);
    },
    refreshSettings: (tx: Tx): void => tx.atEnd(readQueuesAnew),

    /** Something of a visit, a group's, a person's or a number's is due by time alone. */
    due: (tx: Tx, kind: RouterTimer['kind'], id: string): void =>
      void advances(tx, { type: 'due', timer: { kind, id } }),

    /** A Desk is there. Somebody who was out of reach can be asked again at once. */
    beat(personId: string): void {
      beats.set(personId, host.times.real());
      const person = people().get(personId);
      if (!person || person.reachable) return;
      host.transact((tx) => {
        tx.emit({ type: 'person.reach', personId, reachable: true });
        advances(tx, { type: 'reach', personId, reachable: true });
      });
    },

    /**
     * Finds Desks gone silent for 45 s: nothing more is offered there, and a pending offer is missed. People on
     * stand-in telephones need no beat.
     */
    checkPresence(needsBeat: (personId: string) => boolean): void {
      const late = host.times.real() - PRESENCE_MS;
      for (const person of people().values()) {
        if (person.duty === 'off' || !person.reachable || !needsBeat(person.id)) continue;
        if ((beats.get(person.id) ?? startedAt) >= late) continue;
        host.transact((tx) => {
          tx.emit({ type: 'person.reach', personId: person.id, reachable: false });
          advances(tx, { type: 'reach', personId: person.id, reachable: false });
        });
      }
    },
  };
}
