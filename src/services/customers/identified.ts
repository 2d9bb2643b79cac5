import type { Channel } from '../../core/channels';
import { readContact } from '../../data/contacts';
import { type Customer, customerAt, readCustomer } from '../../data/customers';
import { dropHint, membersOf, wereTied, writeHint } from '../../data/customerties';
import { isProvenNumber } from '../contacts/givennumbers';
import type { Tx } from '../ground/host';

/** Channels on which people are known by a telephone number. */
const BY_NUMBER = ['voice', 'sms', 'messaging'] as const satisfies readonly Channel[];
const NUMBER = /^\+\d{6,15}$/;

/**
 * Whoever comes by a telephone number that the channel stands in for is one with whoever has it on the others, unless
 * somebody parted them.
 */
export function oneNumber(tx: Tx, own: Pick<Customer, 'id' | 'channel' | 'address' | 'vouched'>): void {
  if (!own.vouched || !NUMBER.test(own.address)) return;
  for (const channel of BY_NUMBER) {
    const other = channel === own.channel ? undefined : customerAt(tx.db, channel, own.address, true);
    if (!other || membersOf(tx.db, own.id).includes(other.id) || wereTied(tx.db, own.id, other.id)) continue;
    tx.emit({
      type: 'customer.joined',
      tieId: tx.ids('tie'),
      customerId: own.id,
      otherId: other.id,
      how: 'same-number',
      byPersonId: null,
      inContactId: null,
    });
  }
}

/**
 * A bot knows somebody by an address that they gave. Where they have shown that it is theirs, they are one with whoever has
 * it from now on; else that is kept as what they said, for whoever deals with them to look at.
 */
export function cameToBe(
  tx: Tx,
  contactId: string,
  { customerId: otherId, address }: { readonly customerId: string; readonly address: string },
): void {
  const own = readContact(tx.db, contactId)?.customerId;
  if (own === undefined || membersOf(tx.db, own).includes(otherId) || !readCustomer(tx.db, otherId)) return;
  if (!isProvenNumber(tx.db, contactId, address)) return writeHint(tx.db, contactId, otherId);
  dropHint(tx.db, contactId);
  tx.emit({
    type: 'customer.joined',
    tieId: tx.ids('tie'),
    customerId: own,
    otherId,
    how: 'identified',
    byPersonId: null,
    inContactId: contactId,
  });
}
