import { stands } from '../../core/contact/promised';
import { hasBotState } from '../../data/askings';
import { callbackOf } from '../../data/callbacks';
import type { Contact } from '../../data/contacts';
import { customersAsOne, nameAmong, readCustomer } from '../../data/customers';
import type { Db } from '../../data/database';
import { legsOf } from '../../data/legs';
import { openPartnerCallOf } from '../../data/routermemory';
import { visitsOf } from '../../data/visits';

/** Where a contact is on its way. `after` is over, but for what its bot asks at the end. */
export type ContactState = 'with-bot' | 'waiting' | 'talking' | 'after' | 'ended';

export function contactState(db: Db, contact: Contact): ContactState {
  if (contact.endedAt !== null) return hasBotState(db, contact.id) ? 'after' : 'ended';
  if (legsOf(db, contact.id).some((l) => l.talkEndedAt === null)) return 'talking';
  if (visitsOf(db, contact.id).some((v) => v.endedAt === null)) return 'waiting';
  if (openPartnerCallOf(db, contact.id)) return 'talking';
  return stands(callbackOf(db, contact.id) ?? null) ? 'waiting' : 'with-bot';
}

/** What whoever came is called: as they are known by any address, else the one they came by. */
export function customerName(db: Db, contact: Contact): string {
  const all = customersAsOne(db, contact.customerId);
  return nameAmong(all) ?? all.find((c) => c.id === contact.customerId)?.address ?? 'Unknown';
}

/** Whether the channel stands in for who the customer is. */
export const isVouched = (db: Db, contact: Contact): boolean => readCustomer(db, contact.customerId)?.vouched ?? false;
