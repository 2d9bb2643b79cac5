'use client';

import { useState } from 'react';
import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { ListPanel } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { type Draft, draftOf, GroupForm } from './groupform';
import { OwnLimits } from './ownlimits';

/** Groups of people asked together, and limits of single people. */
export function GroupsPage({ initial }: { initial: GroupsView }) {
  const { data, refetch } = useLive<GroupsView>(
    '/api/read/groups',
    ['settings.changed', 'offer.made', 'offer.ended', 'leg.ended', 'person.duty'],
    initial,
  );
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(view.groups[0] ? draftOf(view.groups[0]) : null);
  const kept = view.groups.find((g) => g.id === draft?.id);
  const reread = async (id: string | null) => {
    const after = (await refetch()).data;
    const g = after?.groups.find((x) => x.id === id);
    setDraft(g ? draftOf(g) : null);
  };
  return (
    <>
      <StopNav stop="Queues" />
      <main className="grid gap-3 p-4 pt-2.5 lg:grid-cols-[300px_minmax(0,1fr)]">
        <div className="flex flex-col gap-3 self-start">
          <ListPanel
            title="Groups"
            none="People asked together once a queue’s clock adds them."
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
                      instead: [],
                      who: [],
                      alsoIds: [],
                      exceptIds: [],
                      weights: {},
                    })
                  }
                >
                  New
                </Button>
              )
            }
            things={view.groups}
            openId={draft?.id}
            onOpen={(g) => setDraft(draftOf(g))}
            className="!self-stretch"
            line={(g) => (
              <>
                <span className="flex-1 truncate">{g.name}</span>
                {g.use.reached.length > 0 && <Pill tone="bad">full</Pill>}
                <span className="text-small text-ink-2">
                  {g.onDuty} of {g.memberIds.length} on
                </span>
              </>
            )}
          />
          <OwnLimits view={view} onDone={() => void refetch()} />
        </div>
        {draft ? (
          <GroupForm
            key={draft.id ?? 'new'}
            draft={draft}
            kept={kept}
            view={view}
            onChange={setDraft}
            onReread={reread}
          />
        ) : (
          <Panel>
            <Empty title="No group yet">
              A group is asked when a wait clock or an entry rule adds it, beside those whose duty profile has the
              queue.
            </Empty>
          </Panel>
        )}
      </main>
    </>
  );
}
