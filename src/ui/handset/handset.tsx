'use client';

import { useCallback, useEffect, useState } from 'react';
import { sentence } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Empty, Panel, Pill } from '../kit/panel';
import { Begin } from './begin';
import { type Conversation, type Door, type Held, listDoors } from './channelclient';
import { Talk } from './talk';

/** The simulated customer: rings, chats, messages or texts, over the public interface only. */
export function Handset() {
  const [doors, setDoors] = useState<readonly Door[] | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [door, setDoor] = useState<Door | null>(null);
  const [held, setHeld] = useState<{ held: Held; first: Conversation } | null>(null);
  const load = useCallback(() => {
    listDoors().then(
      (d) => {
        setDoors(d);
        setFault(null);
      },
      (e: unknown) => setFault(sentence(e)),
    );
  }, []);
  useEffect(load, [load]);
  return (
    <main className="flex min-h-screen justify-center bg-paper p-3 sm:p-6">
      <Panel
        className="flex h-[calc(100vh-24px)] w-full max-w-[400px] flex-col overflow-hidden sm:h-[min(780px,calc(100vh-48px))]"
        label="Handset"
      >
        <header className="flex items-center gap-2 bg-strip px-4 py-2.5 text-on-strip">
          <img src="/mark.svg" alt="" width={20} height={20} />
          <h1 className="text-[15px]">Handset</h1>
          <span className="text-tiny text-strip-2">a made-up customer’s telephone</span>
        </header>
        {fault && (
          <div role="alert" className="bg-clay-wash px-4 py-2 text-small text-clay">
            {fault}{' '}
            <button type="button" className="underline" onClick={load}>
              Try again
            </button>
          </div>
        )}
        {held && door ? (
          <Talk
            door={door}
            held={held.held}
            first={held.first}
            onClose={() => {
              setHeld(null);
              setDoor(null);
              load();
            }}
          />
        ) : door ? (
          <Begin door={door} onBack={() => setDoor(null)} onBegun={(h, first) => setHeld({ held: h, first })} />
        ) : doors === null ? (
          <p className="p-6 text-center text-ink-2">Looking for doors…</p>
        ) : doors.length === 0 ? (
          <Empty title="No door is set up">A lead adds doors in the console.</Empty>
        ) : (
          <ul className="flex-1 overflow-y-auto p-2">
            {doors.map((d) => (
              <li key={d.id}>
                <button
                  type="button"
                  onClick={() => setDoor(d)}
                  className="flex w-full items-center gap-3 rounded-control px-3 py-2.5 text-left hover:bg-sunk"
                >
                  <ChannelMark channel={d.channel} size={26} />
                  <span className="min-w-0 flex-1">
                    <span className="block truncate font-display font-semibold">{d.name}</span>
                    <span className="block truncate text-small text-ink-2">{d.address}</span>
                  </span>
                  <Pill tone={d.open ? 'good' : 'warn'}>{d.open ? 'open' : 'closed'}</Pill>
                </button>
              </li>
            ))}
          </ul>
        )}
      </Panel>
    </main>
  );
}
