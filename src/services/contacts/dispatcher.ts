import type { ContactAct } from '../../core/contact/acts';
import type { ContactEvent } from '../../core/contact/events';
import { step } from '../../core/contact/machine';
import { LaneError } from '../../core/errors';
import type { Act, RouterEvent } from '../../core/routing/acts';
import { advance } from '../../core/routing/advance';
import { forgetTrailPeople } from '../../data/trails';
import { writeBotState } from '../../data/askings';
import { readContact } from '../../data/contacts';
import type { Tx } from '../ground/host';
import { type AsksDeps, sendAsk } from './asks';
import { carryOutForContact } from './contactacts';
import { StoredContact, StoredWorld, UnreadablePlace } from './contactnow';
import type { Hands, Happening } from './happening';
import { hear, type HearsDeps } from './hears';
import { carryOutForRouter } from './routeracts';

/**
 * The one place where something happens to a contact or to the floor. The contact's own function and the router's each
 * say what is to be done; this carries it out in the transaction given, hands what concerns the other to the other, and
 * leaves what goes outside for when it is kept.
 */
export type Dispatcher = ReturnType<typeof createDispatcher>;

/** What tells the router of settings: when such a change is undone, they are read anew as well. */
const SETTINGS_EVENTS: ReadonlySet<RouterEvent['type']> = new Set([
  'people',
  'groups',
  'members',
  'queues',
  'partners',
]);

/** What the dispatcher is given. */
export type DispatcherDeps = Omit<Hands, keyof Happening | 'forgetTrailPeople'>;

export function createDispatcher(deps: DispatcherDeps) {
  const { host, here, programs, outside } = deps;
  const asks: AsksDeps = { host, programs, outside, happen };
  const hears: HearsDeps = { host, hearing: deps.hearing, happen };
  const hands: Hands = {
    ...deps,
    happen,
    advances,
    sendAsk: (id: number) => sendAsk(asks, id),
    hear: (contactId, number, heard) => hear(hears, contactId, number, heard),
    forgetTrailPeople: () => forgetTrailPeople(host.db),
  };

  /**
   * Something happens to a contact. Throws `not-found` where there is no such contact, and what the contact's step
   * refuses.
   */
  function happen(tx: Tx, contactId: string, event: ContactEvent): void {
    const row = readContact(tx.db, contactId);
    if (!row) throw new LaneError('not-found', 'There is no contact with this id.');
    let acts: readonly ContactAct[];
    try {
      acts = step(new StoredContact(deps, row), new StoredWorld(deps, row), event);
    } catch (error) {
      if (!(error instanceof UnreadablePlace)) throw error;
      // The contact goes to people, and so does what happens now. Nothing has been carried out yet.
      host.fault(error);
      writeBotState(tx.db, contactId, null);
      happen(tx, contactId, { type: 'bot-gone', because: error.message });
      return happen(tx, contactId, event);
    }
    for (const act of acts) carryOutForContact(hands, tx, contactId, act);
  }

  /** Something happens to the floor. */
  function advances(tx: Tx, event: RouterEvent): readonly Act[] {
    tx.ifUndone(SETTINGS_EVENTS.has(event.type) ? here.load : here.reload);
    const acts = advance(here.router, tx.floorAt, event);
    for (const act of acts) carryOutForRouter(hands, tx, act);
    if (!host.bulk) here.remember(tx);
    // Whoever takes offers without being asked has them at once; what then still fits is asked for in turn.
    for (const act of acts)
      if (act.do === 'offer' && act.person.pending?.offerId === act.offerId && here.mannersOf(act.person.id).autoAccept)
        accept(tx, act.person.id);
    return acts;
  }

  /** The person takes what is offered to them; gives the new leg's id, or null when nothing is offered any more. */
  function accept(tx: Tx, personId: string): string | null {
    const pending = here.router.floor.people.get(personId)?.pending;
    if (!pending) return null;
    const legId = tx.ids('leg');
    advances(tx, { type: 'accept', offerId: pending.offerId, personId, legId });
    return legId;
  }

  return { happen, advances, accept, asks, hears };
}
