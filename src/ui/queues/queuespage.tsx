'use client';

import type { QueuesView } from '@/services/queues/queuesview';
import { Button } from '../kit/button';
import { ChannelMarks } from '../kit/channelmark';
import { ListPanel } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { RetiredList } from '../removing/retiredlist';
import { firstOpen, listed, nameIn, useGathered } from '../drafts/usegathered';
import { draftOf, NEW_QUEUE, QUEUE_SHAPE, type QueueDraft } from './draft';
import { QueueEditor } from './queueeditor';

/** Queues and their settings. Changes are gathered, counted and applied in one press, from the next visit on. */
export function QueuesPage({ initial, chosen }: { initial: QueuesView; chosen: string | null }) {
  const { data, refetch } = useLive<QueuesView>(
    '/api/read/queues',
    ['settings.changed', 'visit.began', 'visit.ended', 'person.duty'],
    initial,
  );
  const view = data ?? initial;
  const gathered = useGathered<QueueDraft>({
    kind: 'queue',
    act: 'save-queue',
    things: view.queues.map(draftOf),
    shape: QUEUE_SHAPE,
    first: firstOpen(view.queues, chosen),
    refetch,
    nameOf: nameIn(view.skills, view.groups, view.partners, view.queues, view.hours),
  });
  const { draft } = gathered;
  return (
    <>
      <StopNav stop="Queues" />
      <main className="grid gap-3 p-4 pt-2.5 md:grid-cols-[252px_minmax(0,1fr)]">
        <ListPanel
          title="Queues"
          tools={
            view.mayChange && (
              <Button small onClick={() => gathered.begin(NEW_QUEUE)}>
                New
              </Button>
            )
          }
          things={view.queues}
          {...listed(gathered)}
          foot={<RetiredList kind="queue" onBack={(id) => void gathered.settled(id)} />}
          line={(q) => (
            <>
              <span className="min-w-0 flex-1 truncate">{q.name}</span>
              <ChannelMarks channels={q.channels} size={14} />
              <span className="w-6 text-right font-semibold" title="waiting now">
                {q.waiting}
              </span>
            </>
          )}
        />
        {draft ? (
          <QueueEditor
            key={draft.id ?? 'new'}
            gathered={gathered}
            draft={draft}
            view={view}
            onRead={() => void refetch()}
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
