'use client';

import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { ListPanel } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { RetiredList } from '../removing/retiredlist';
import { firstOpen, listed, nameIn, useGathered } from '../drafts/usegathered';
import { type Draft, draftOf, GROUP_SHAPE, GroupForm } from './groupform';
import { OwnLimits } from './ownlimits';

/** Groups of people asked together, and limits of single people. */
export function GroupsPage({ initial, chosen }: { initial: GroupsView; chosen: string | null }) {
  const { data, refetch } = useLive<GroupsView>(
    '/api/read/groups',
    ['settings.changed', 'offer.made', 'offer.ended', 'leg.ended', 'person.duty'],
    initial,
  );
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'group',
    act: 'save-group',
    things: view.groups.map(draftOf),
    shape: GROUP_SHAPE,
    first: firstOpen(view.groups, chosen),
    refetch,
    nameOf: nameIn(view.people, view.teams, view.skills, view.hours),
  });
  const { draft } = gathered;
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
                    gathered.begin({
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
            {...listed(gathered)}
            className="!self-stretch"
            foot={<RetiredList kind="group" onBack={(id) => void gathered.settled(id)} />}
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
            gathered={gathered}
            draft={draft}
            kept={view.groups.find((g) => g.id === draft.id)}
            view={view}
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
