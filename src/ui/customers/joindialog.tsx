'use client';

import { useState } from 'react';
import type { FoundCustomer } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { Unproven } from '../kit/unproven';
import { useFoundCustomers } from './usefound';

/** Chooses whom somebody is one with: found by name, address or number. */
export function JoinDialog({
  name,
  known,
  onChoose,
  onClose,
}: {
  name: string;
  /** Those who are one with them already. */ known: readonly string[];
  onChoose: (other: FoundCustomer) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const { found, looking } = useFoundCustomers(text);
  const others = found.filter((f) => !known.includes(f.id));
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Who is ${name} too?`}
      description="They become one customer: their contacts stand in one line of time. It can be taken back, and nothing is lost."
    >
      <Field label="Name, address or number">
        {(p) => <Input {...p} autoFocus value={text} maxLength={120} onChange={(e) => setText(e.target.value)} />}
      </Field>
      <ul className="mt-2 max-h-72 overflow-y-auto" aria-busy={looking}>
        {others.map((f) => (
          <li key={f.id} className="flex items-center gap-2 border-b border-rule py-1">
            <ChannelMark channel={f.channel} size={15} />
            <span className="min-w-0 flex-1 truncate">
              {f.name ?? f.address}
              {f.name !== null && <span className="text-ink-2"> · {f.address}</span>}
            </span>
            <Unproven vouched={f.vouched} />
            <Button small aria-label={`Join with ${f.name ?? f.address}`} onClick={() => onChoose(f)}>
              Join
            </Button>
          </li>
        ))}
      </ul>
      {text.trim().length >= 2 && !looking && others.length === 0 && (
        <p className="mt-2 text-small text-ink-2">Nobody else is known so.</p>
      )}
    </Dialog>
  );
}
