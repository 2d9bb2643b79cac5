import { readContact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import { dropHint, membersOf, writeHint } from '../../data/customerties';
import { isProvenNumber } from '../contacts/givennumbers';
import type { Tx } from '../ground/host';

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
