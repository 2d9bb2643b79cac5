'use client';

import { useState } from 'react';
import type { SetDetail } from '@/services/people/teamsview';
import { FormFoot } from '../../kit/editform';
import { Field, Input } from '../../kit/field';
import { Picks, Ticks } from '../../kit/picks';
import { LevelGrid } from './levelgrid';
import { type FormProps, useThing } from './thing';

export function SetForm({ view, set: kept, onDone }: FormProps & { set: SetDetail | null }) {
  const [draft, setDraft] = useState<SetDetail>(
    kept ?? { id: '', name: '', levels: {}, teamIds: [], personIds: [], revision: 0 },
  );
  const { busy, faults, save, remove, conflict } = useThing(
    'skill-set',
    'save-skill-set',
    kept?.id ?? null,
    view,
    (v) => v.sets.find((s) => s.id === kept?.id),
    onDone,
  );
  const off = !view.mayChange;
  const set = (change: Partial<SetDetail>) => setDraft({ ...draft, ...change });
  const submit = async () => {
    const done = await save(
      {
        id: kept?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        levels: draft.levels,
        teamIds: draft.teamIds,
        personIds: draft.personIds,
      },
      `${draft.name} saved; it counts from the next contact on.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <h1 className="text-title">{kept?.name ?? 'New skill set'}</h1>
      <div className="mt-3 max-w-xs">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input {...p} required disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />
          )}
        </Field>
      </div>
      <h2 className="mt-4 text-panel">Gives</h2>
      <LevelGrid view={view} levels={draft.levels} off={off} onLevels={(levels) => set({ levels })} />
      <h2 className="mt-4 text-panel">To teams</h2>
      <Ticks of={view.teams} ticked={draft.teamIds} onTicked={(teamIds) => set({ teamIds })} disabled={off} />
      <h2 className="mt-4 mb-1 text-panel">To people</h2>
      <Picks
        label="Give it to a person"
        of={view.people}
        picked={draft.personIds}
        onPicked={(personIds) => set({ personIds })}
        disabled={off}
        takeOut={(name) => `Take it from ${name}`}
      />
      <FormFoot mayChange={view.mayChange} isNew={!kept} busy={busy} onRemove={() => void remove()} />
    </form>
  );
}
