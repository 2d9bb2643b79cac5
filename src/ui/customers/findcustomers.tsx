'use client';

import { useState } from 'react';
import { CHANNEL_NAMES } from '@/core/channels';
import { ChannelMark } from '../kit/channelmark';
import { Input } from '../kit/field';
import { Link } from '../kit/link';
import { Empty, Panel, PanelHead } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { StopNav } from '../lane/stopnav';
import { useHolds } from '../lane/viewer';
import { useFoundCustomers } from './usefound';

/** Customers found by name, address or a number in any spelling. */
export function FindCustomers() {
  const [text, setText] = useState('');
  const { found, looking } = useFoundCustomers(text);
  const holds = useHolds();
  return (
    <>
      {holds('review.view') && <StopNav stop="Review" />}
      <main className="p-4">
        <Panel label="Customers" className="mx-auto max-w-3xl">
          <PanelHead title="Customers" />
          <div className="p-4">
            <Input
              aria-label="Name, address or number"
              placeholder="Name, address or a number in any spelling"
              autoFocus
              maxLength={120}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            {text.trim().length < 2 ? (
              <Empty title="Look for somebody">
                By a part of their name or address, or some digits of their number. They open with all their contacts.
              </Empty>
            ) : found.length === 0 ? (
              looking ? (
                <p role="status" className="py-6 text-center text-ink-2">
                  Looking…
                </p>
              ) : (
                <Empty title="Nobody is known so">Fewer letters find more.</Empty>
              )
            ) : (
              <ul className="mt-2" aria-busy={looking}>
                {found.map((f) => (
                  <li key={f.id} className="border-b border-rule">
                    <Link
                      href={`/customers/${encodeURIComponent(f.id)}`}
                      className="flex items-center gap-2 px-2 py-1.5 hover:bg-sunk"
                    >
                      <ChannelMark channel={f.channel} size={15} />
                      <span className="min-w-0 flex-1 truncate font-medium">{f.name ?? f.address}</span>
                      <Unproven vouched={f.vouched} />
                      {f.name !== null && (
                        <span className="w-64 truncate text-small text-ink-2">
                          {CHANNEL_NAMES[f.channel].name} {f.address}
                        </span>
                      )}
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </div>
        </Panel>
      </main>
    </>
  );
}
