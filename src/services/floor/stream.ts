import { contactOf, personOf, type EventType, type LaneEvent } from '../../core/events';
import { holds } from '../../core/people/rights';
import { eventsAfter, lastSeq } from '../../data/events';
import type { Actor } from '../ground/actor';
import type { Services } from '..';
import type { Host } from '../ground/host';

/** Whether a reading may go on, and when to look again. */
export type Holds = {
  /** Gives whether what allowed it still stands. */
  readonly still: () => boolean;
  /** Calls back whenever it may have ended, until what is given back is called. */
  readonly watch: (look: () => void) => () => void;
};
/** A customer's side is held by its token, which does not end. */
export const FOR_GOOD: Holds = { still: () => true, watch: () => () => undefined };

/** What a signed-in reading hangs on: the session, and what its person may do. A changed role begins it anew. */
export function holdsWhileSignedIn({ sessions }: Services, token: string | undefined, actor: Actor): Holds {
  const standing = ({ roleId, rights, teams }: Actor) => JSON.stringify([roleId, rights, teams]);
  const began = standing(actor);
  return {
    still: () => {
      const now = sessions.actor(token);
      return now !== null && now.personId === actor.personId && standing(now) === began;
    },
    watch: sessions.watch,
  };
}

/** What one reader gets of an event, or null for nothing. */
export type StreamSource = (event: LaneEvent) => object | null;
/** A pointer to what changed; readers fetch what they may see of it. */
export type Notice = {
  readonly seq: number;
  readonly type: EventType;
  readonly contactId: string | null;
  readonly personId: string | null;
};

/** Where the log stands, and what a reader at `after` has missed: null when that is too much, or makes no sense. */
export function eventsAfterLimited(
  host: Host,
  after: number | null,
  most: number,
): { newest: number; missed: LaneEvent[] | null } {
  const newest = lastSeq(host.db);
  if (after === null) return { newest, missed: [] };
  if (!Number.isInteger(after) || after < 0 || after > newest || newest - after > most) return { newest, missed: null };
  return { newest, missed: eventsAfter(host.db, after, most) };
}

/**
 * What a signed-in person hears: those who may see the floor hear of everything, others of themselves and their
 * contacts.
 */
export const noticesFor =
  (services: Services, actor: Actor): StreamSource =>
  (event) => {
    const contactId = contactOf(event);
    const personId = personOf(event);
    const mine =
      personId === actor.personId ||
      event.type === 'settings.changed' ||
      (contactId !== null && services.desk.concerns(actor.personId, contactId));
    // Contacts that are taken by hand come and go on the list of whoever could take them.
    const listed =
      (event.type === 'visit.began' || event.type === 'visit.ended') &&
      services.floor.router.floor.queues.size > 0 &&
      [...services.floor.router.floor.queues.values()].some((q) => q.settings.offering.way === 'claim');
    if (!mine && !listed && !holds(actor, 'floor.view')) return null;
    // Whoever sees some teams only hears that something happened, not to whom: what they may see of it they read.
    const named = mine || (actor.teams === 'all' && holds(actor, 'floor.view'));
    const notice: Notice = {
      seq: event.seq,
      type: event.type,
      contactId: named ? contactId : null,
      personId: named ? personId : null,
    };
    return notice;
  };

const FOR_CUSTOMERS: readonly EventType[] = [
  'message.written',
  'visit.began',
  'visit.staged',
  'callback.changed',
  'partner.answered',
  'leg.began',
  'leg.line',
  'leg.wrapping',
  'contact.ended',
];
/** What the customer's side of one contact hears. */
export const noticesForContact =
  (contactId: string): StreamSource =>
  (event) =>
    contactOf(event) === contactId && FOR_CUSTOMERS.includes(event.type) ? { seq: event.seq, type: event.type } : null;
