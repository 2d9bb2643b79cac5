'use client';

import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { ListPanel } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { RetiredList } from '../removing/retiredlist';
import { firstOpen, listed, nameIn, useGathered } from '../drafts/usegathered';
import { type Draft, draftOf, NEW_NUMBER, PARTNER_SHAPE, PartnerForm } from './partnerform';

/** Outside desks that take calls under caps and hours. */
export function PartnersPage({ initial, chosen }: { initial: GroupsView; chosen: string | null }) {
  const { data, refetch } = useLive<GroupsView>(
    '/api/read/groups',
    ['settings.changed', 'partner.dialled', 'partner.answered', 'partner.ended'],
    initial,
  );
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'partner',
    act: 'save-partner',
    things: view.partners.map(draftOf),
    shape: PARTNER_SHAPE,
    first: firstOpen(view.partners, chosen),
    refetch,
    nameOf: nameIn(view.queues, view.hours),
  });
  const { draft } = gathered;
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
                  gathered.begin({
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
          {...listed(gathered)}
          foot={<RetiredList kind="partner" onBack={(id) => void gathered.settled(id)} />}
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
            gathered={gathered}
            draft={draft}
            kept={view.partners.find((p) => p.id === draft.id)}
            view={view}
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
