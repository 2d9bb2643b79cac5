'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { OutsideMessage } from '@/services/workspace/mailbox';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Pill, SidePanel } from '../kit/panel';

const MEDIUM = { mail: 'mail', text: 'text', call: 'spoken' } as const;
const LINK = /(https?:\/\/\S+|\/(?:invitation|password)\/\S+)/g;

/**
 * The stand-in for the world outside: every mail, text and spoken code that would have left, to be read as its
 * receiver would.
 */
export function MailboxPage({ initial, zone }: { initial: readonly OutsideMessage[]; zone: string }) {
  const { data } = useLive<readonly OutsideMessage[]>('/api/read/mailbox', ['settings.changed'], initial);
  const messages = data ?? initial;
  const [id, setId] = useState<number | null>(null);
  const open = messages.find((m) => m.id === id) ?? messages[0];
  return (
    <main className="grid h-[calc(100vh-64px)] min-h-[480px] grid-cols-[360px_minmax(0,1fr)] gap-3 p-4">
      <SidePanel label="Messages">
        <h1 className="px-1 text-panel">Stand-in mailbox</h1>
        <p className="px-1 text-small text-ink-2">Nothing leaves this machine. This is what would have been sent.</p>
        {messages.length === 0 ? (
          <Empty title="Nothing was sent">Invitations and codes appear here.</Empty>
        ) : (
          <ul className="mt-2">
            {messages.map((m) => (
              <li key={m.id}>
                <button
                  type="button"
                  aria-current={m.id === open?.id ? 'true' : undefined}
                  onClick={() => setId(m.id)}
                  className={clsx(
                    'w-full rounded-control px-2 py-1.5 text-left text-small',
                    m.id === open?.id ? 'bg-chosen' : 'hover:bg-sunk',
                  )}
                >
                  <span className="flex items-center gap-2">
                    <span className="min-w-0 flex-1 truncate font-medium">{m.address}</span>
                    <Pill>{MEDIUM[m.medium]}</Pill>
                  </span>
                  <span className="block truncate text-ink-2">{m.subject || m.body}</span>
                </button>
              </li>
            ))}
          </ul>
        )}
      </SidePanel>
      <SidePanel label="The message">
        {open && (
          <article>
            <p className="text-small text-ink-2">
              {asDayTime(open.realAt, zone)} · to {open.address}
            </p>
            <h2 className="mt-1 text-title">
              {open.subject || (open.medium === 'call' ? 'Spoken to the number' : 'Text message')}
            </h2>
            <p className="mt-3 break-words whitespace-pre-line">
              {open.body.split(LINK).map((part, i) =>
                i % 2 === 1 ? (
                  <a key={i} href={part} rel="noreferrer" className="text-plum underline">
                    {part}
                  </a>
                ) : (
                  part
                ),
              )}
            </p>
          </article>
        )}
      </SidePanel>
    </main>
  );
}
