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
import { firstOpen, listed, nameIn, useGathered } from '../../drafts/usegathered';
import { DUTY_SHAPE, type DutyDraft as Draft } from './dutydraft';

const EMPTY: Draft = { id: null, revision: 0, name: '', rows: [], load: DEFAULT_LOAD, ...DUTY_DEFAULTS };

/** Duty profiles: who takes what in which order, and how much at once; changed on a board and applied in one press. */
export function DutyPage({ initial, chosen, reasons }: { initial: DutyView; chosen: string | null; reasons: boolean }) {
  const { data, refetch } = useLive<DutyView>('/api/read/duty', ['settings.changed'], initial);
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'duty-profile',
    act: 'save-profile',
    things: view.profiles.map(draftOf),
    shape: DUTY_SHAPE,
    first: firstOpen(view.profiles, chosen),
    refetch,
    nameOf: nameIn(view.queues),
  });
  const { draft } = gathered;
  const [listing, setListing] = useState(reasons);
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)] gap-3 px-4 pt-2 pb-4">
        <ListPanel
          title="Duty profiles"
          className="max-h-full min-h-0 !self-stretch overflow-y-auto"
          things={view.profiles}
          {...listed(gathered)}
          line={(p) => (
            <TwoLines name={p.name}>
              {p.people} {p.people === 1 ? 'person' : 'people'} · {p.onDuty} on duty
              {p.forNow > 0 && ` · ${p.forNow} for now`}
            </TwoLines>
          )}
          foot={
            <>
              {view.mayChange && <Button onClick={() => gathered.begin(EMPTY)}>New profile</Button>}
              <Button kind="quiet" onClick={() => setListing(true)}>
                Away reasons
              </Button>
            </>
          }
        />
        {draft ? (
          <Board
            key={draft.id ?? 'new'}
            gathered={gathered}
            view={view}
            kept={view.profiles.find((p) => p.id === draft.id)}
            draft={draft}
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
