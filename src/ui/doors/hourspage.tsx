'use client';

import { Link } from '../kit/link';
import { useState } from 'react';
import type { HoursView } from '@/services/doors/hours';
import { Button } from '../kit/button';
import { ListPanel, TwoLines } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { type Draft, draftOf } from './hoursdraft';
import { HoursForm } from './hoursform';
import { openingWords } from './hoursopening';

/** Opening hours: the week, dated days, the year at a glance, calendars in and out. What uses them follows at once. */
export function HoursPage({ initial }: { initial: HoursView }) {
  const { data, refetch } = useLive<HoursView>('/api/read/hours', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(view.hours[0] ? draftOf(view.hours[0]) : null);
  const kept = view.hours.find((h) => h.id === draft?.id);
  const reread = async (id: string | null) => {
    const h = (await refetch()).data?.hours.find((x) => x.id === id);
    setDraft(h ? draftOf(h) : null);
  };
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[260px_minmax(0,1fr)]">
      <ListPanel
        title="Opening hours"
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
        openId={draft?.id}
        onOpen={(h) => setDraft(draftOf(h))}
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
          draft={draft}
          kept={kept}
          view={view}
          onChange={setDraft}
          onReread={reread}
        />
      ) : (
        <Panel>
          <Empty title="No hours yet">Doors, queues, groups and outside numbers share hours by name.</Empty>
        </Panel>
      )}
    </main>
  );
}
