'use client';

import { useState } from 'react';
import { CHANNEL_NAMES } from '@/core/channels';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';
import { Unproven } from '../kit/unproven';
import { JoinDialog } from './joindialog';
import type { Change } from './usecustomer';

const TIED_WORDS: Readonly<Partial<Record<CustomerView['ties'][number]['how'], string>>> = {
  'same-number': 'One number on two channels',
  identified: 'shown to a bot',
};

/** The addresses by which a customer is known, what joins them, and ways to join one more or to part them again. */
export function KnownBy({
  customer,
  contactId = null,
  zone,
  onChange,
}: {
  customer: CustomerView;
  /** The contact in which it comes out, where there is one. */ contactId?: string | null;
  zone: string;
  onChange: Change;
}) {
  const [joining, setJoining] = useState(false);
  const { knownBy, ties } = customer;
  const address = (id: string) => knownBy.find((k) => k.id === id)?.address ?? 'another';
  const name = customer.name ?? knownBy[0]?.address ?? 'this customer';
  return (
    <>
      <ul>
        {knownBy.map((k) => (
          <li key={k.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
            <ChannelMark channel={k.channel} size={14} />
            <span className="min-w-0 flex-1 truncate" title={`${CHANNEL_NAMES[k.channel].name}: ${k.address}`}>
              {k.address}
              {k.name !== null && k.name !== customer.name && <span className="text-ink-2"> as {k.name}</span>}
            </span>
            <Unproven vouched={k.vouched} />
          </li>
        ))}
      </ul>
      {ties.map((t) => (
        <p key={t.id} className="flex items-center gap-2 py-1 text-tiny text-ink-2">
          <span className="min-w-0 flex-1">
            {t.how !== 'same-number' && `${address(t.between[0])} and ${address(t.between[1])}: `}
            {TIED_WORDS[t.how] ?? `joined by ${t.by ?? 'somebody'}`}, {asDayTime(t.at, zone)}
          </span>
          {customer.mayChange && (
            <Button
              small
              kind="quiet"
              aria-label={`Part ${address(t.between[0])} and ${address(t.between[1])}`}
              onClick={() => void onChange('part-customers', { tieId: t.id }, 'They are two customers again.')}
            >
              Part
            </Button>
          )}
        </p>
      ))}
      {customer.mayChange && !customer.erased && (
        <Button small className="mt-1.5" onClick={() => setJoining(true)}>
          Join with…
        </Button>
      )}
      {joining && (
        <JoinDialog
          name={name}
          known={[customer.id, ...knownBy.map((k) => k.id)]}
          onClose={() => setJoining(false)}
          onChoose={(other) => {
            setJoining(false);
            void onChange(
              'join-customers',
              { customerId: customer.id, otherId: other.id, contactId },
              `${name} and ${other.name ?? other.address} are one customer now.`,
            );
          }}
        />
      )}
    </>
  );
}
