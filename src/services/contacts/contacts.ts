import { hash32 } from '../../core/chance';
import { readBot } from '../../data/bots';
import { customerAt, writeCustomer } from '../../data/customers';
import type { Closed, Turned } from '../../core/contact/closed';
import type { WhenClosed } from '../../core/doors/doorway';
import { type Door, readDoor } from '../../data/doors';
import { openLegsOf } from '../../data/legs';
import { readQueues } from '../../data/queuesettings';
import type { Programs } from '../bots/programs';
import { doorOpenNow, zoneOfHours } from '../doors/opennow';
import { bind } from '../ground/bind';
import type { Host, Tx } from '../ground/host';
import type { Dispatcher } from './dispatcher';

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
};

const botOfDoor = ({ host }: Pick<ContactsDeps, 'host'>, door: Pick<Door, 'botId'>) =>
  host.remembered(`bot ${door.botId}`, (db) => readBot(db, door.botId));

/**
 * The version of a door's bot that a customer meets: the live one, or for some the one on trial. The same customer
 * always meets the same.
 */
export function versionFor(
  { host, programs }: ContactsDeps,
  door: Meeting,
  address: string,
): { botId: string; version: number } | null {
  const bot = botOfDoor({ host }, door);
  if (!bot || bot.liveVersion === null) return null;
  const tried =
    door.trial !== null &&
    hash32(`${door.id}|${address}`) % 100 < door.trial.percent &&
    programs.of(bot.id, door.trial.version) !== null;
  return { botId: bot.id, version: tried && door.trial ? door.trial.version : bot.liveVersion };
}

type Meeting = Pick<Door, 'id' | 'botId' | 'trial'>;

/**
 * Whether the door is open; where it is not, what is said at it, and at other doors it leads to, and what follows; and
 * whose bot is met (null for none).
 */
function comeIn(
  { host }: Pick<ContactsDeps, 'host'>,
  tx: Tx,
  door: Door,
): { readonly open: boolean; readonly closed: Turned | null; readonly met: Meeting | null } {
  const said: Closed[] = [];
  const been = new Set<string>();
  let at: Door = door;
  for (;;) {
    const opening = doorOpenNow(host, at);
    if (opening.open)
      return {
        open: said.length === 0,
        closed: said.length === 0 ? null : { said, then: { does: 'bot', botId: at.botId } },
        met: at,
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
    if (then.does !== 'door')
      return {
        open: false,
        closed: { said, then },
        met: then.does === 'bot' ? { id: at.id, botId: then.botId, trial: null } : null,
      };
    const next = been.has(then.doorId) ? undefined : readDoor(tx.db, then.doorId);
    if (!next) return { open: false, closed: { said, then: { does: 'end' } }, met: null };
    at = next;
  }
}

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
  const contactId = tx.ids('contact');
  const { open, closed, met } = comeIn(deps, tx, door);
  const meets = met && versionFor(deps, met, from.address);
  tx.emit({
    type: 'contact.started',
    contactId,
    doorId: door.id,
    channel: door.channel,
    customerId: customer.id,
    language:
      from.language !== null && door.languages.includes(from.language) ? from.language : (door.languages[0] ?? 'en'),
    botId: meets?.botId ?? null,
    botVersion: meets?.version ?? null,
    open,
  });
  happen(tx, contactId, {
    type: 'begins',
    closed,
    // A door whose bot was never published still leads somewhere.
    elsewhere:
      botOfDoor(deps, met ?? door)?.draft.fallbackQueueId ?? host.remembered('queues', readQueues)[0]?.id ?? null,
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
