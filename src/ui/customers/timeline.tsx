'use client';

import { useState } from 'react';
import { CONTACT_END_WORDS } from '@/core/measures/facts';
import type { CustomerView, LineOfTime, WordsOfContact } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty, Pill } from '../kit/panel';
import { useHolds } from '../lane/viewer';
import { WhatItCameTo } from '../review/keptsummary';
import { Transcript } from '../review/transcript';

const STATES: Readonly<Record<LineOfTime['state'], string>> = {
  'with-bot': 'with the bot',
  waiting: 'waiting',
  talking: 'with a person',
  after: 'asked something after it',
  ended: 'ended',
};

/** All contacts of a customer over all channels, open ones first; each opens in place. */
export function Timeline({
  customer,
  zone,
  without,
  compact = false,
  onMore,
}: {
  customer: CustomerView;
  zone: string;
  /** A contact that is looked at already. */ without?: string;
  compact?: boolean;
  onMore: () => void;
}) {
  const contacts = customer.contacts.filter((c) => c.contactId !== without);
  if (contacts.length === 0)
    return compact ? (
      <p className="text-small text-ink-2">Their first contact.</p>
    ) : (
      <Empty title="No contact yet">What they write or say, on any channel, is here from their first contact on.</Empty>
    );
  return (
    <>
      <ol aria-label="Contacts over all channels">
        {contacts.map((c) => (
          <Entry key={c.contactId} contact={c} zone={zone} compact={compact} />
        ))}
      </ol>
      {customer.more && (
        <Button small className="mt-2" onClick={onMore}>
          Older ones
        </Button>
      )}
    </>
  );
}

function Entry({ contact: c, zone, compact }: { contact: LineOfTime; zone: string; compact: boolean }) {
  const [open, setOpen] = useState(false);
  const holds = useHolds();
  const whom = [...c.queues, ...c.people].join(' · ');
  const became = c.endedAt === null ? STATES[c.state] : c.how === null ? 'ended' : CONTACT_END_WORDS[c.how];
  const line = (
    <>
      <ChannelMark channel={c.channel} size={14} />
      <span className="whitespace-nowrap text-ink-2 tabular-nums">{asDayTime(c.startedAt, zone)}</span>
      {!compact && <span className="min-w-0 truncate">{c.door}</span>}
      <span className="min-w-0 flex-1 truncate text-ink-2" title={whom}>
        {whom}
      </span>
      {c.endedAt === null ? <Pill tone="good">{became}</Pill> : <span className="text-ink-2">{became}</span>}
    </>
  );
  return (
    <li className="border-b border-rule py-1 text-small">
      {c.opens ? (
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="flex w-full items-center gap-2 rounded-control py-0.5 text-left hover:bg-sunk"
        >
          {line}
        </button>
      ) : (
        <span className="flex items-center gap-2 py-0.5" title="It never came to your teams">
          {line}
        </span>
      )}
      {open && (
        <div
          className="my-2 max-h-[50vh] overflow-y-auto rounded-control border border-rule p-3"
          tabIndex={0}
          role="region"
          aria-label="What was said then"
        >
          <Words contactId={c.contactId} zone={zone} />
          {holds('conversations.view') && (
            <Link
              href={`/contacts/${encodeURIComponent(c.contactId)}`}
              className="mt-2 inline-block text-small text-plum hover:underline"
            >
              Its trail
            </Link>
          )}
        </div>
      )}
    </li>
  );
}

function Words({ contactId, zone }: { contactId: string; zone: string }) {
  const { data, error } = useLive<WordsOfContact>(`/api/read/contact-words?contact=${encodeURIComponent(contactId)}`, [
    'message.written',
  ]);
  if (error && !data)
    return (
      <p role="alert" className="text-clay">
        It cannot be read: {error.message}
      </p>
    );
  if (!data) return <p role="status">Reading…</p>;
  return (
    <>
      <WhatItCameTo summary={data.summary} />
      {data.messages.length === 0 ? (
        <p className="text-ink-2">No words of it are kept.</p>
      ) : (
        <Transcript messages={data.messages} zone={zone} />
      )}
    </>
  );
}
