'use client';

import { useState } from 'react';
import type { SetDetail } from '@/services/people/teamsview';
import { Check, Field, Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { LevelGrid } from './levelgrid';
import { Foot, type FormProps, useThing } from './thing';

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
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {view.teams.map((t) => (
          <Check
            key={t.id}
            label={t.name}
            disabled={off}
            checked={draft.teamIds.includes(t.id)}
            onChange={(e) =>
              set({ teamIds: e.target.checked ? [...draft.teamIds, t.id] : draft.teamIds.filter((x) => x !== t.id) })
            }
          />
        ))}
      </div>
      <h2 className="mt-4 text-panel">To people</h2>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {draft.personIds.map((id) => (
          <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2.5 py-0.5 text-small">
            {view.people.find((p) => p.id === id)?.name ?? id}
            {!off && (
              <button
                type="button"
                aria-label={`Take it from ${view.people.find((p) => p.id === id)?.name ?? id}`}
                onClick={() => set({ personIds: draft.personIds.filter((x) => x !== id) })}
              >
                ×
              </button>
            )}
          </span>
        ))}
        {!off && (
          <Select
            aria-label="Give it to a person"
            value=""
            onChange={(chosen) => {
              if (chosen) set({ personIds: [...draft.personIds, chosen] });
            }}
            compact
          >
            <option value="">Add…</option>
            {view.people
              .filter((p) => !draft.personIds.includes(p.id))
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </Select>
        )}
      </div>
      <Foot view={view} isNew={!kept} busy={busy} onRemove={remove} />
    </form>
  );
}
