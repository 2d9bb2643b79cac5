'use client';

import { Link } from '../kit/link';
import type { HoursView } from '@/services/doors/hours';
import { Button } from '../kit/button';
import { ListPanel, TwoLines } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { firstOpen, listed, useGathered } from '../drafts/usegathered';
import { type Draft, draftOf, HOURS_SHAPE } from './hoursdraft';
import { HoursForm } from './hoursform';
import { openingWords } from './hoursopening';

/** Opening hours: the week, dated days, the year at a glance, calendars in and out. What uses them follows at once. */
export function HoursPage({ initial, chosen }: { initial: HoursView; chosen: string | null }) {
  const { data, refetch } = useLive<HoursView>('/api/read/hours', ['settings.changed'], initial);
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'hours',
    act: 'save-hours',
    things: view.hours.map(draftOf),
    shape: HOURS_SHAPE,
    first: firstOpen(view.hours, chosen),
    refetch,
    nameOf: (id) => id,
  });
  const { draft } = gathered;
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[260px_minmax(0,1fr)]">
      <ListPanel
        title="Opening hours"
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
                  weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '17:00' })),
                  exceptions: [],
                })
              }
            >
              New
            </Button>
          )
        }
        things={view.hours}
        {...listed(gathered)}
        line={(h) => (
          <TwoLines name={h.name}>
            <span className={h.opening.open ? 'text-moss' : 'text-brass-ink'}>{openingWords(h)}</span>
          </TwoLines>
        )}
        foot={
          <Link href="/doors" className="text-small text-plum underline">
            Back to the doors
          </Link>
        }
      />
      {draft ? (
        <HoursForm
          key={draft.id ?? 'new'}
          gathered={gathered}
          draft={draft}
          kept={view.hours.find((h) => h.id === draft.id)}
          view={view}
          onRead={() => void refetch()}
        />
      ) : (
        <Panel>
          <Empty title="No hours yet">Doors, queues, groups and outside numbers share hours by name.</Empty>
        </Panel>
      )}
    </main>
  );
}
