import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { readContact } from '../../data/contacts';
import {
  blockedBy,
  blocksOf,
  cameBlocked,
  dropBlock,
  dropCustomerNote,
  readCustomer,
  readCustomerNote,
  setCustomer,
  writeBlock,
  writeCustomerNote,
} from '../../data/customers';
import { dropHint, hintOf, membersOf, readTie } from '../../data/customerties';
import { erasureOf } from '../../data/erasing';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold, mustHoldOne } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { customerHere, dealsWith, mustDealWith } from './access';

const CHANGES = ['customers.change', 'desk.work'] as const;
type Deps = { readonly host: Host };

const joinSchema = exactly(
  object({
    customerId: id('The customer'),
    otherId: id('The other customer'),
    /** The contact in which it came out. */ contactId: string().max(80).nullable().defined('The contact is missing'),
  }),
);
const partSchema = exactly(object({ tieId: id('What joins them') }));
const hintSchema = exactly(object({ contactId: id('The contact') }));
const setSchema = exactly(
  object({
    customerId: id('The customer'),
    name: string().max(80, 'The name may have at most 80 characters').nullable().defined('The name is missing'),
    language: string().max(35).nullable().defined('The language is missing'),
  }),
);
const noteSchema = exactly(object({ customerId: id('The customer'), words: requiredText(2000, 'The note') }));
const dropSchema = exactly(object({ id: id('The note') }));
const askSchema = exactly(object({ customerId: id('The customer'), why: requiredText(300, 'The reason') }));
const decideSchema = exactly(
  object({ customerId: id('The customer'), blocked: boolean().required('Whether they are blocked is missing') }),
);

/** Throws `not-now` where a customer was erased: nothing is noted of them any more. */
function notErased({ host }: Deps, customerId: string): void {
  if (erasureOf(host.db, customerId)) throw new LaneError('not-now', 'This customer was erased.');
}

/** Two customers are one from now on, with all whom they are one with. */
export function joinCustomers(deps: Deps, actor: Actor, input: unknown): { tieId: string | null } {
  mustHoldOne(actor, CHANGES);
  const { host } = deps;
  const asked = parse(joinSchema, input);
  customerHere(host.db, asked.customerId);
  customerHere(host.db, asked.otherId);
  // Whoever deals with one of the two sees that they are the same.
  if (!dealsWith(host.db, actor.personId, asked.otherId)) mustDealWith(host, actor, asked.customerId);
  notErased(deps, asked.customerId);
  notErased(deps, asked.otherId);
  return host.transact((tx) => {
    if (asked.contactId !== null && hintOf(tx.db, asked.contactId) !== null) dropHint(tx.db, asked.contactId);
    if (membersOf(tx.db, asked.customerId).includes(asked.otherId)) return { tieId: null };
    const tieId = tx.ids('tie');
    tx.emit({
      type: 'customer.joined',
      tieId,
      customerId: asked.customerId,
      otherId: asked.otherId,
      how: 'by-hand',
      byPersonId: actor.personId,
      inContactId: asked.contactId,
    });
    return { tieId };
  });
}

/** What joined two is taken back: each has again what it had, and what came since by its own address. */
export function partCustomers({ host }: Deps, actor: Actor, input: unknown): { tieId: string } {
  mustHoldOne(actor, CHANGES);
  const { tieId } = parse(partSchema, input);
  const tie = readTie(host.db, tieId);
  if (!tie) throw new LaneError('not-now', 'They are not joined by this any more.');
  mustDealWith(host, actor, tie.customerId);
  return host.transact((tx) => {
    tx.emit({ type: 'customer.parted', tieId, byPersonId: actor.personId });
    return { tieId };
  });
}

/** Who somebody said they are is not who they are. */
export function notThem({ host }: Deps, actor: Actor, input: unknown): { contactId: string } {
  mustHoldOne(actor, CHANGES);
  const { contactId } = parse(hintSchema, input);
  const contact = readContact(host.db, contactId);
  if (!contact || hintOf(host.db, contactId) === null)
    throw new LaneError('not-now', 'Somebody has dealt with this already.');
  mustDealWith(host, actor, contact.customerId);
  return host.transact((tx) => {
    dropHint(tx.db, contactId);
    return { contactId };
  });
}

/** What a customer is called, and spoken to in. Null says that it is not known. */
export function nameCustomer(deps: Deps, actor: Actor, input: unknown): { customerId: string } {
  mustHoldOne(actor, CHANGES);
  const { host } = deps;
  const { customerId, name, language } = parse(setSchema, input);
  customerHere(host.db, customerId);
  mustDealWith(host, actor, customerId);
  notErased(deps, customerId);
  if (language !== null && !(readWorkspace(host.db)?.languages ?? []).includes(language))
    throw new LaneError('not-valid', 'The workspace does not speak this language.', [
      { where: 'language', what: 'is not one of the workspace’s' },
    ]);
  return host.transact((tx) => {
    setCustomer(tx.db, customerId, { name: name?.trim() || null, language }, tx.floorAt);
    return { customerId };
  });
}

/** Notes something about a customer, for whoever deals with them next. */
export function noteOnCustomer(deps: Deps, actor: Actor, input: unknown): { id: string } {
  mustHoldOne(actor, CHANGES);
  const { host } = deps;
  const { customerId, words } = parse(noteSchema, input);
  customerHere(host.db, customerId);
  mustDealWith(host, actor, customerId);
  notErased(deps, customerId);
  return host.transact((tx) => {
    const noteId = tx.ids('note');
    writeCustomerNote(tx.db, { id: noteId, customerId, personId: actor.personId, words, at: tx.floorAt });
    return { id: noteId };
  });
}

/** Takes a note away: one's own, or whosever it is with the right to change customers. */
export function dropNoteOnCustomer({ host }: Deps, actor: Actor, input: unknown): { id: string } {
  mustHoldOne(actor, CHANGES);
  const note = readCustomerNote(host.db, parse(dropSchema, input).id);
  if (!note) throw new LaneError('not-now', 'This note is not there any more.');
  if (note.personId !== actor.personId) mustHold(actor, 'customers.change');
  return host.transact((tx) => {
    dropCustomerNote(tx.db, note.id);
    return { id: note.id };
  });
}

/** Asks that a customer be blocked, with the reason; somebody with the right decides. */
export function askToBlock(deps: Deps, actor: Actor, input: unknown): { customerId: string } {
  mustHoldOne(actor, CHANGES);
  const { host } = deps;
  const { customerId, why } = parse(askSchema, input);
  const all = customerHere(host.db, customerId);
  mustDealWith(host, actor, customerId);
  notErased(deps, customerId);
  if (
    blocksOf(
      host.db,
      all.map((c) => c.id),
    ).length > 0
  )
    throw new LaneError('not-now', 'Somebody has asked for this already, or they are blocked.');
  return host.transact((tx) => {
    const asked = { customerId: all[0]?.id ?? customerId, why, askedBy: actor.personId, askedAt: tx.floorAt };
    writeBlock(tx.db, { ...asked, decidedBy: null, decidedAt: null });
    return { customerId: asked.customerId };
  });
}

/** Decides whether a customer is blocked, or lets them in again. Whoever is blocked begins no contact any more. */
export function decideBlock({ host }: Deps, actor: Actor, input: unknown): { customerId: string } {
  mustHold(actor, 'customers.change');
  const { customerId, blocked } = parse(decideSchema, input);
  const all = customerHere(host.db, customerId);
  mustDealWith(host, actor, customerId);
  const asked = blocksOf(
    host.db,
    all.map((c) => c.id),
  );
  if (asked.length === 0) throw new LaneError('not-now', 'Nobody asks for this any more.');
  return host.transact((tx) => {
    for (const one of asked)
      if (blocked) writeBlock(tx.db, { ...one, decidedBy: actor.personId, decidedAt: tx.floorAt });
      else dropBlock(tx.db, one.customerId);
    return { customerId };
  });
}

/**
 * Throws `not-allowed` where whoever comes is blocked, and notes that they came. Nothing else happens: no contact begins.
 */
export function turnAway({ host }: Deps, customerId: string): void {
  const block = blockedBy(host.db, customerId);
  if (!block || !readCustomer(host.db, customerId)) return;
  host.transact((tx) => cameBlocked(tx.db, block.customerId, tx.floorAt));
  throw new LaneError('not-allowed', 'No contact is taken from this address.');
}

export const createCustomers = (deps: Deps) =>
  bind(deps, {
    join: joinCustomers,
    part: partCustomers,
    notThem,
    set: nameCustomer,
    note: noteOnCustomer,
    dropNote: dropNoteOnCustomer,
    askToBlock,
    decideBlock,
    turnAway,
  });
