'use client';

import { useState } from 'react';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Check } from '../kit/field';
import type { Change } from './usecustomer';

/** Erasing cannot be taken back: everybody who goes is named first. */
export function EraseDialog({
  customer,
  onChange,
  onClose,
}: {
  customer: CustomerView;
  onChange: Change;
  onClose: () => void;
}) {
  const [sure, setSure] = useState(false);
  const [busy, setBusy] = useState(false);
  const { knownBy, goingOn } = customer;
  return (
    <Dialog
      open
      onClose={onClose}
      title="Erase this customer"
      description="Their names, addresses, words, fields and notes are gone for good, from History, phrases and tests taken from their words as well. Figures stay as they are. It cannot be taken back."
    >
      <p className="text-small font-semibold">
        {knownBy.length === 1 ? 'This goes:' : `All ${knownBy.length} of these go, as they are one customer:`}
      </p>
      <ul className="my-1">
        {knownBy.map((k) => (
          <li key={k.id} className="flex items-center gap-2 py-0.5 text-small">
            <ChannelMark channel={k.channel} size={14} />
            {k.address}
            {k.name !== null && <span className="text-ink-2">as {k.name}</span>}
          </li>
        ))}
      </ul>
      {goingOn ? (
        <p role="alert" className="text-small text-clay">
          They have a contact open, or a call promised. End that first.
        </p>
      ) : (
        <Check
          label="They asked for it, or it is due. I know that it cannot be taken back."
          checked={sure}
          onChange={(e) => setSure(e.target.checked)}
        />
      )}
      <div className="mt-3 flex gap-2">
        <Button
          kind="danger"
          disabled={!sure || goingOn || busy}
          onClick={() => {
            setBusy(true);
            void onChange(
              'erase-customer',
              { customerId: customer.id, joined: knownBy.length },
              'They are erased. What they said goes within moments.',
            ).then((done) => {
              setBusy(false);
              if (done) onClose();
            });
          }}
        >
          Erase {knownBy.length === 1 ? 'them' : `all ${knownBy.length}`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
