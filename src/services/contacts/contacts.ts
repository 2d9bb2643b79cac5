import { isText } from '../../core/channels';
import { customerAt, customersAsOne, writeCustomer } from '../../data/customers';
import type { Db } from '../../data/database';
import type { Closed, Turned } from '../../core/contact/closed';
import type { Met } from '../../core/contact/events';
import type { WhenClosed } from '../../core/doors/doorway';
import { type Door, readDoor } from '../../data/doors';
import { type Page, writePage } from '../../data/pages';
import { openLegsOf } from '../../data/legs';
import { oneNumber } from '../customers/identified';
import type { Programs } from '../bots/programs';
import { doorOpenNow, zoneOfHours } from '../doors/opennow';
import { bind } from '../ground/bind';
import type { Host, Tx } from '../ground/host';
import type { Dispatcher } from './dispatcher';
import { elsewhereThan, type Meeting, versionFor } from './doorbots';

/** Contacts from their first moment on: how they come in, and all else as events of theirs. */
export type Contacts = ReturnType<typeof createContacts>;

/** What the functions of this file are given first. */
export type ContactsDeps = {
  readonly host: Host;
  readonly programs: Programs;
  readonly happen: Dispatcher['happen'];
};
/** `vouched`: the channel stands in for the address being theirs. */
export type Arriving = {
  readonly address: string;
  readonly vouched: boolean;
  readonly name: string | null;
  readonly language: string | null;
  /** The page they write from, where their channel says so. */
  readonly page?: Page | null;
};

/**
 * Whether the door is open; where it is not, what is said at it, and at other doors it leads to, and what follows. And
 * whoever is met there.
 */
function comeIn(
  host: Host,
  tx: Tx,
  door: Door,
): { readonly open: boolean; readonly closed: Turned | null; readonly meets: Met; readonly bot: Meeting | null } {
  const said: Closed[] = [];
  const been = new Set<string>();
  let at: Door = door;
  for (;;) {
    const opening = doorOpenNow(host, at);
    if (opening.open)
      return {
        open: said.length === 0,
        closed: said.length === 0 ? null : { said, then: { does: 'in' } },
        meets: at.meets.by === 'first-words' ? { by: 'first-words', doorId: at.id } : at.meets,
        bot: at.meets.by === 'bot' || (at.meets.by === 'first-words' && !isText(door.channel)) ? at : null,
      };
    been.add(at.id);
    said.push({
      wording: at.closedWording,
      languages: at.languages,
      opensAt: opening.opensAt,
      zone: zoneOfHours(host, at.hoursId),
      reason: opening.byHand?.reason ?? {},
    });
    const then: WhenClosed = at.whenClosed;
    const next = then.does !== 'door' || been.has(then.doorId) ? undefined : readDoor(tx.db, then.doorId);
    if (!next)
      return {
        open: false,
        closed: { said, then: then.does === 'door' ? { does: 'end' } : then },
        meets: { by: 'bot' },
        bot: then.does === 'bot' ? { id: at.id, botId: then.botId, trial: null } : null,
      };
    at = next;
  }
}

const languageAt = (door: Door, wanted: string | null): string =>
  wanted !== null && door.languages.includes(wanted) ? wanted : (door.languages[0] ?? 'en');
/** The language that a customer likes, as somebody noted it under any of their addresses. */
const likedBy = (db: Db, customerId: string): string | null =>
  customersAsOne(db, customerId).find((c) => c.language !== null)?.language ?? null;

/** A contact comes in at a door. A name that is known is not changed by what comes from outside. */
export function arrive(deps: ContactsDeps, tx: Tx, door: Door, from: Arriving): { contactId: string } {
  const { host, happen } = deps;
  const known = customerAt(tx.db, door.channel, from.address, from.vouched);
  const customer = {
    id: known?.id ?? tx.ids('customer'),
    channel: door.channel,
    address: from.address,
    name: known?.name ?? from.name,
    vouched: from.vouched,
  };
  if (!known || customer.name !== known.name) writeCustomer(tx.db, customer);
  oneNumber(tx, customer);
  const contactId = tx.ids('contact');
  const { open, closed, meets, bot } = comeIn(host, tx, door);
  const met = bot && versionFor(deps, bot, from.address);
  tx.emit({
    type: 'contact.started',
    contactId,
    doorId: door.id,
    channel: door.channel,
    customerId: customer.id,
    language: languageAt(door, from.language ?? (known?.vouched ? likedBy(tx.db, known.id) : null)),
    botId: met?.botId ?? null,
    botVersion: met?.version ?? null,
    open,
  });
  if (from.page) writePage(tx.db, contactId, from.page);
  happen(tx, contactId, {
    type: 'begins',
    closed,
    meets,
    // A door whose bot was never published still leads somewhere.
    elsewhere: elsewhereThan(host, (bot ?? door).botId),
  });
  return { contactId };
}

/** What somebody who is switched off had open goes back to its queue at the place it had, or is closed. */
export function letGo({ happen }: ContactsDeps, tx: Tx, personId: string, how: 'return' | 'end'): void {
  for (const leg of openLegsOf(tx.db, personId)) happen(tx, leg.contactId, { type: 'person-gone', legId: leg.id, how });
}

export const createContacts = (deps: ContactsDeps) => ({
  happen: deps.happen,
  ...bind(deps, { versionFor, arrive, letGo }),
});
