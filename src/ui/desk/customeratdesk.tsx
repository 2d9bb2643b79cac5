'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { DeskContact } from '@/services/contacts/deskcontact';
import { Block } from '../customers/block';
import { KnownBy } from '../customers/knownby';
import { NameDialog } from '../customers/namedialog';
import { Notes } from '../customers/notes';
import { Timeline } from '../customers/timeline';
import { useCustomer } from '../customers/usecustomer';
import { Button } from '../kit/button';

/** Contacts read at first, and with each press of more. */
const SHOWN = 8;

/** Who the customer of an open contact is: what came before, over all channels, and what is known of them. */
export function CustomerAtDesk({
  contact,
  zone,
  onChanged,
}: {
  contact: DeskContact;
  zone: string;
  onChanged: () => void;
}) {
  const [shown, setShown] = useState(SHOWN);
  const [naming, setNaming] = useState(false);
  const { customer, error, change: carryOut } = useCustomer(contact.customerId, shown);
  const change: typeof carryOut = async (...what) => {
    const done = await carryOut(...what);
    onChanged();
    return done;
  };
  const { maybe } = contact;
  return (
    <>
      {maybe && (
        <div role="status" className="mt-3 rounded-control bg-brass-wash p-2 text-small text-brass-ink">
          They said that they are <b>{maybe.name}</b>, which nobody has proven.
          <span className="mt-1 flex gap-2">
            <Button
              small
              onClick={() =>
                void change(
                  'join-customers',
                  { customerId: contact.customerId, otherId: maybe.id, contactId: contact.contactId },
                  'They are one customer now.',
                )
              }
            >
              They are
            </Button>
            <Button small kind="quiet" onClick={() => void change('not-them', { contactId: contact.contactId })}>
              Not them
            </Button>
          </span>
        </div>
      )}
      <h3 className="mt-4">Before, on any channel</h3>
      {!customer ? (
        <p className="text-small text-ink-2" role={error ? 'alert' : 'status'}>
          {error ? 'It cannot be read just now.' : 'Reading…'}
        </p>
      ) : (
        <>
          <Timeline
            customer={customer}
            zone={zone}
            without={contact.contactId}
            compact
            onMore={() => setShown(shown + SHOWN)}
          />
          <h3 className="mt-4 flex items-center gap-2">
            Customer
            {customer.language !== null && (
              <span className="font-body text-small font-normal text-ink-2">
                likes {languageName(customer.language)}
              </span>
            )}
            {customer.mayChange && (
              <Button small kind="quiet" className="ml-auto" onClick={() => setNaming(true)}>
                Name and language…
              </Button>
            )}
          </h3>
          <KnownBy customer={customer} contactId={contact.contactId} zone={zone} onChange={change} />
          <h3 className="mt-4">Notes</h3>
          <Notes customer={customer} zone={zone} onChange={change} />
          <div className="mt-3">
            <Block customer={customer} zone={zone} onChange={change} />
          </div>
          {naming && <NameDialog customer={customer} onChange={change} onClose={() => setNaming(false)} />}
        </>
      )}
    </>
  );
}
