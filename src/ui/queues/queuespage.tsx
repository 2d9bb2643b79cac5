'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { QueuesView } from '@/services/queues/queuesview';
import { Button } from '../kit/button';
import { ChannelMarks } from '../kit/channelmark';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { draftOf, NEW_QUEUE, type QueueDraft } from './draft';
import { QueueEditor } from './queueeditor';

/** Queues and their settings. Changes are gathered, counted and applied in one press, from the next visit on. */
export function QueuesPage({ initial, chosen }: { initial: QueuesView; chosen: string | null }) {
  const { data, refetch } = useLive<QueuesView>(
    '/api/read/queues',
    ['settings.changed', 'visit.began', 'visit.ended', 'person.duty'],
    initial,
  );
  const view = data ?? initial;
  const first = view.queues.find((q) => q.id === chosen) ?? view.queues[0];
  const [openId, setOpenId] = useState<string | null>(first?.id ?? null);
  /** What is being changed, by queue: going to another queue and back loses nothing. A new one stands under `''`. */
  const [drafts, setDrafts] = useState<Readonly<Record<string, QueueDraft>>>({});
  const kept = view.queues.find((q) => q.id === openId);
  const draft = openId === null ? null : (drafts[openId] ?? (kept ? draftOf(kept) : null));
  const setDraft = (next: QueueDraft) => {
    setOpenId(next.id ?? '');
    setDrafts((all) => ({ ...all, [next.id ?? '']: next }));
  };
  const reread = async (id: string) => {
    await refetch();
    setDrafts((all) => Object.fromEntries(Object.entries(all).filter(([of]) => of !== id && of !== '')));
    setOpenId(id);
  };
  const isChanged = (id: string) => {
    const mine = drafts[id];
    const there = view.queues.find((q) => q.id === id);
    return mine !== undefined && there !== undefined && JSON.stringify(mine) !== JSON.stringify(draftOf(there));
  };
  return (
    <>
      <StopNav stop="Queues" />
      <main className="grid gap-3 p-4 pt-2.5 md:grid-cols-[252px_minmax(0,1fr)]">
        <Panel className="self-start p-2" label="Queues">
          <div className="flex items-center px-2 py-1.5">
            <h2 className="text-panel">Queues</h2>
            {view.mayChange && (
              <Button small className="ml-auto" onClick={() => setDraft(NEW_QUEUE)}>
                New
              </Button>
            )}
          </div>
          <ul>
            {view.queues.map((q) => (
              <li key={q.id}>
                <button
                  type="button"
                  aria-pressed={draft?.id === q.id}
                  onClick={() => setOpenId(q.id)}
                  className={clsx(
                    'flex w-full items-center gap-1.5 rounded-control border-l-3 px-2 py-1.5 text-left',
                    draft?.id === q.id ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk',
                  )}
                >
                  <span className="flex-1 truncate">{q.name}</span>
                  {isChanged(q.id) && (
                    <span
                      className="size-2 rounded-full bg-brass-2"
                      role="img"
                      aria-label="changed, not applied"
                      title="changed, not applied"
                    />
                  )}
                  <ChannelMarks channels={q.channels} size={14} />
                  <span className="w-6 text-right font-semibold" title="waiting now">
                    {q.waiting}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </Panel>
        {draft ? (
          <QueueEditor
            key={draft.id ?? 'new'}
            draft={draft}
            kept={kept ? draftOf(kept) : null}
            view={view}
            onChange={setDraft}
            onReread={reread}
          />
        ) : (
          <Panel>
            <Empty title="No queue yet">Contacts wait in queues until somebody who can take them is free.</Empty>
          </Panel>
        )}
      </main>
    </>
  );
}
