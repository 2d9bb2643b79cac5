'use client';

import { useState } from 'react';
import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { ListPanel } from '../kit/list';
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
        <ListPanel
          title="Partner desks"
          none="Outside numbers that take calls when a queue’s clock adds them."
          tools={
            view.mayChange && (
              <Button
                small
                onClick={() =>
                  setDraft({
                    id: null,
                    revision: 0,
                    name: '',
                    zone: view.zone,
                    hoursId: null,
                    limits: NO_LIMITS,
                    way: 'one-by-one',
                    ringSeconds: 25,
                    countsFromSeconds: 10,
                    numbers: [NEW_NUMBER],
                  })
                }
              >
                New
              </Button>
            )
          }
          things={view.partners}
          openId={draft?.id}
          onOpen={(p) => setDraft(draftOf(p))}
          line={(p) => (
            <>
              <span className="flex-1 truncate">{p.name}</span>
              <span className="text-small text-ink-2">{p.use.open} on the line</span>
            </>
          )}
        />
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
