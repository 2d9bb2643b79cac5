'use client';

import { useState } from 'react';
import { DUTY_DEFAULTS } from '@/core/people/duty';
import { DEFAULT_LOAD } from '@/core/people/load';
import type { DutyView } from '@/services/people/dutyview';
import { Button } from '../../kit/button';
import { ListPanel, TwoLines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel } from '../../kit/panel';
import { StopNav } from '../../lane/stopnav';
import { AwayReasons } from '../awayreasons';
import { Board, draftOf } from './board';
import type { DutyDraft as Draft } from './dutydraft';

const EMPTY: Draft = { id: null, revision: 0, name: '', rows: [], load: DEFAULT_LOAD, ...DUTY_DEFAULTS };

/** Duty profiles: who takes what in which order, and how much at once; changed on a board and applied in one press. */
export function DutyPage({ initial, chosen, reasons }: { initial: DutyView; chosen: string | null; reasons: boolean }) {
  const { data, refetch } = useLive<DutyView>('/api/read/duty', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(() => {
    const p = view.profiles.find((x) => x.id === chosen) ?? view.profiles[0];
    return p ? draftOf(p) : null;
  });
  const [listing, setListing] = useState(reasons);
  const kept = view.profiles.find((p) => p.id === draft?.id);
  const changed = draft !== null && (!kept || JSON.stringify(draftOf(kept)) !== JSON.stringify(draft));
  const leave = (next: Draft) => {
    if (!changed || window.confirm('The changes to this profile are not applied yet. Leave them?')) setDraft(next);
  };
  const reload = (id: string | null) =>
    void refetch().then((r) => {
      const p = r.data?.profiles.find((x) => x.id === id) ?? r.data?.profiles[0];
      setDraft(p ? draftOf(p) : null);
    });
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)] gap-3 px-4 pt-2 pb-4">
        <ListPanel
          title="Duty profiles"
          className="max-h-full min-h-0 !self-stretch overflow-y-auto"
          things={view.profiles}
          openId={draft?.id}
          onOpen={(p) => leave(draftOf(p))}
          line={(p) => (
            <TwoLines name={p.name}>
              {p.people} {p.people === 1 ? 'person' : 'people'} · {p.onDuty} on duty
              {p.forNow > 0 && ` · ${p.forNow} for now`}
            </TwoLines>
          )}
          foot={
            <>
              {view.mayChange && <Button onClick={() => leave(EMPTY)}>New profile</Button>}
              <Button kind="quiet" onClick={() => setListing(true)}>
                Away reasons
              </Button>
            </>
          }
        />
        {draft ? (
          <Board
            key={draft.id ?? 'new'}
            view={view}
            kept={kept}
            draft={draft}
            changed={changed}
            onDraft={setDraft}
            onSaved={reload}
            onPeople={() => void refetch()}
          />
        ) : (
          <Panel>
            <Empty title="No duty profile yet">
              A duty profile says which queues its people take, and how much at once.
            </Empty>
          </Panel>
        )}
      </div>
      {listing && (
        <AwayReasons
          view={view}
          onClose={() => setListing(false)}
          onSaved={() => {
            setListing(false);
            void refetch();
          }}
        />
      )}
    </main>
  );
}
