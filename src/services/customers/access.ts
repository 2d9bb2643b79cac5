import { joinedWith } from '../../core/customers/joining';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { type Contact, readContact } from '../../data/contacts';
import { contactIdsOf } from '../../data/erasing';
import { type Customer, customersAsOne } from '../../data/customers';
import { membersOf, tiesAround } from '../../data/customerties';
import type { Db } from '../../data/database';
import { legsOf, openLegsOf } from '../../data/legs';
import { visitsOf } from '../../data/visits';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';

/** Whether somebody has an open contact with a customer, or with whom they are one. */
export function dealsWith(db: Db, personId: string, customerId: string): boolean {
  const all = new Set(membersOf(db, customerId));
  return openLegsOf(db, personId).some((leg) => all.has(readContact(db, leg.contactId)?.customerId ?? ''));
}

/** The same for reading what was said: nobody opens somebody's past by joining them with whom they deal with. */
function readsOf(db: Db, personId: string, customerId: string): boolean {
  const ties = tiesAround(db, customerId).filter((t) => t.byPersonId !== personId);
  const all = new Set(joinedWith(customerId, ties));
  return openLegsOf(db, personId).some((leg) => all.has(readContact(db, leg.contactId)?.customerId ?? ''));
}

/** A customer and whom they are one with; the one who stands for all first. Throws `not-found` where there is none. */
export function customerHere(db: Db, customerId: string): Customer[] {
  const all = customersAsOne(db, customerId);
  if (all.length === 0) throw new LaneError('not-found', 'There is no such customer.');
  return all;
}

/** Whether the actor may read what was said in a contact of a customer. */
export function mayReadWords(host: Pick<Host, 'db'>, actor: Actor, contact: Contact): boolean {
  if (holds(actor, 'desk.work') && readsOf(host.db, actor.personId, contact.customerId)) return true;
  if (!holds(actor, 'conversations.view')) return false;
  const { queues, people } = sightOf(host, actor);
  return (
    queues === null ||
    visitsOf(host.db, contact.id).some((v) => queues.has(v.queueId)) ||
    legsOf(host.db, contact.id).some((l) => people?.has(l.personId))
  );
}

/** Of how many of a customer's contacts it is looked at whether they came to somebody's teams. */
const LOOKED_AT = 200;

/**
 * Throws `not-allowed` unless the actor may change what is known of a customer: whoever deals with them at the moment may,
 * and whoever holds the right where one of their contacts came to the actor's teams.
 */
export function mustDealWith(host: Pick<Host, 'db'>, actor: Actor, customerId: string): void {
  if (holds(actor, 'desk.work') && dealsWith(host.db, actor.personId, customerId)) return;
  if (!holds(actor, 'customers.change'))
    throw new LaneError('not-allowed', 'Only whoever has their contact open at the Desk may do this.');
  if (actor.teams === 'all') return;
  const { queues, people } = sightOf(host, actor);
  const theirs = membersOf(host.db, customerId)
    .flatMap((id) => contactIdsOf(host.db, id))
    .slice(-LOOKED_AT)
    .some(
      (id) =>
        visitsOf(host.db, id).some((v) => queues?.has(v.queueId)) ||
        legsOf(host.db, id).some((l) => people?.has(l.personId)),
    );
  if (!theirs) throw new LaneError('not-allowed', 'No contact of this customer ever came to your teams.');
}

/** The same as an answer. */
export function mayDealWith(host: Pick<Host, 'db'>, actor: Actor, customerId: string): boolean {
  try {
    mustDealWith(host, actor, customerId);
    return true;
  } catch (error) {
    if (error instanceof LaneError) return false;
    throw error;
  }
}
