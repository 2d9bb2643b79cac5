'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { type Draft, draftOf, NEW_NUMBER, PartnerForm } from './partnerform';

/** Outside desks that take calls under caps and hours. */
export function PartnersPage({ initial }: { initial: GroupsView }) {
  const { data, refetch } = useLive<GroupsView>(
    '/api/read/groups',
    ['settings.changed', 'partner.dialled', 'partner.answered', 'partner.ended'],
    initial,
  );
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(view.partners[0] ? draftOf(view.partners[0]) : null);
  const kept = view.partners.find((p) => p.id === draft?.id);
  const reread = async (id: string | null) => {
    const p = (await refetch()).data?.partners.find((x) => x.id === id);
    setDraft(p ? draftOf(p) : null);
  };
  return (
    <>
      <StopNav stop="Queues" />
      <main className="grid gap-3 p-4 pt-2.5 lg:grid-cols-[300px_minmax(0,1fr)]">
        <Panel className="self-start p-2" label="Partner desks">
          <div className="flex items-center px-2 py-1.5">
            <h1 className="text-panel">Partner desks</h1>
            {view.mayChange && (
              <Button
                small
                className="ml-auto"
                onClick={() =>
                  setDraft({
                    id: null,
                    revision: 0,
                    name: '',
                    zone: view.zone,
                    way: 'one-by-one',
                    ringSeconds: 25,
                    countsFromSeconds: 10,
                    numbers: [NEW_NUMBER],
                  })
                }
              >
                New
              </Button>
            )}
          </div>
          {view.partners.length === 0 && (
            <p className="px-2 pb-2 text-small text-ink-2">
              Outside numbers that take calls when a queue’s clock adds them.
            </p>
          )}
          <ul>
            {view.partners.map((p) => (
              <li key={p.id}>
                <button
                  type="button"
                  aria-pressed={draft?.id === p.id}
                  onClick={() => setDraft(draftOf(p))}
                  className={clsx(
                    'flex w-full items-center gap-2 rounded-control border-l-3 px-2 py-1.5 text-left',
                    draft?.id === p.id ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk',
                  )}
                >
                  <span className="flex-1 truncate">{p.name}</span>
                  <span className="text-small text-ink-2">
                    {p.numbers.reduce((n, x) => n + x.use.open, 0)} on the line
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </Panel>
        {draft ? (
          <PartnerForm
            key={draft.id ?? 'new'}
            draft={draft}
            kept={kept}
            view={view}
            onChange={setDraft}
            onReread={reread}
          />
        ) : (
          <Panel>
            <Empty title="No partner desk yet">
              Calls that nobody here can take may go to outside numbers, under caps and hours.
            </Empty>
          </Panel>
        )}
      </main>
    </>
  );
}
