'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
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
          <Panel className="p-2" label="Groups">
            <div className="flex items-center px-2 py-1.5">
              <h1 className="text-panel">Groups</h1>
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
              )}
            </div>
            {view.groups.length === 0 && (
              <p className="px-2 pb-2 text-small text-ink-2">People asked together once a queue’s clock adds them.</p>
            )}
            <ul>
              {view.groups.map((g) => (
                <li key={g.id}>
                  <button
                    type="button"
                    aria-pressed={draft?.id === g.id}
                    onClick={() => setDraft(draftOf(g))}
                    className={clsx(
                      'flex w-full items-center gap-2 rounded-control border-l-3 px-2 py-1.5 text-left',
                      draft?.id === g.id ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk',
                    )}
                  >
                    <span className="flex-1 truncate">{g.name}</span>
                    {g.use.reached.length > 0 && <Pill tone="bad">full</Pill>}
                    <span className="text-small text-ink-2">
                      {g.onDuty} of {g.memberIds.length} on
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </Panel>
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
