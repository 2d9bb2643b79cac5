'use client';

import { useState } from 'react';
import type { TeamDetail } from '@/services/people/teamsview';
import { FormFoot } from '../../kit/editform';
import { Check, Field, Input } from '../../kit/field';
import { Pill } from '../../kit/panel';
import { Picks, Ticks } from '../../kit/picks';
import { Select } from '../../kit/select';
import { LevelGrid } from './levelgrid';
import { RemoveButton } from '../../removing/removebutton';
import { type FormProps, useThing, zonesOf } from './thing';

export function TeamForm({ view, team, onDone }: FormProps & { team: TeamDetail | null }) {
  const [draft, setDraft] = useState<TeamDetail>(
    team ?? {
      id: '',
      name: '',
      zone: view.zone,
      levels: {},
      setIds: [],
      supervisorIds: [],
      members: 0,
      revision: 0,
    },
  );
  const [allSpeak, setAllSpeak] = useState(false);
  const { busy, faults, save, conflict } = useThing(
    'team',
    'save-team',
    team?.id ?? null,
    view,
    (v) => v.teams.find((t) => t.id === team?.id),
    onDone,
  );
  const off = !view.mayChange;
  const set = (change: Partial<TeamDetail>) => setDraft({ ...draft, ...change });
  const languages = view.skills.filter((s) => s.kind === 'language' && draft.levels[s.id] && !team?.levels[s.id]);
  const submit = async () => {
    const done = await save(
      {
        id: team?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        zone: draft.zone,
        levels: draft.levels,
        setIds: draft.setIds,
        supervisorIds: draft.supervisorIds,
        ...(allSpeak ? { allSpeak } : {}),
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
      <div className="flex items-center gap-2">
        <h1 className="text-title">{team?.name ?? 'New team'}</h1>
        {team && <Pill>{team.members} people</Pill>}
      </div>
      <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input {...p} required disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />
          )}
        </Field>
        <Field label="Zone, for people without a site" fault={faults.zone}>
          {(p) => (
            <Select {...p} disabled={off} value={draft.zone} onChange={(chosen) => set({ zone: chosen })}>
              {zonesOf(view, draft.zone).map((z) => (
                <option key={z}>{z}</option>
              ))}
            </Select>
          )}
        </Field>
      </div>
      <h2 className="mt-4 text-panel">Gives its people</h2>
      <p className="text-small text-ink-2">A person’s own level always counts instead.</p>
      <LevelGrid view={view} levels={draft.levels} off={off} onLevels={(levels) => set({ levels })} />
      {languages.length > 0 && (
        <p className="mt-2 rounded-control bg-brass-wash px-3 py-2 text-small text-brass-ink">
          <Check
            label={`Everybody in this team speaks ${languages.map((l) => l.name).join(' and ')} equally well`}
            checked={allSpeak}
            onChange={(e) => setAllSpeak(e.target.checked)}
          />
        </p>
      )}
      {view.sets.length > 0 && (
        <>
          <h2 className="mt-4 text-panel">Skill sets</h2>
          <Ticks of={view.sets} ticked={draft.setIds} onTicked={(setIds) => set({ setIds })} disabled={off} />
        </>
      )}
      <h2 className="mt-4 mb-1 text-panel">Supervised by</h2>
      <Picks
        label="Add a supervisor"
        of={view.people}
        picked={draft.supervisorIds}
        onPicked={(supervisorIds) => set({ supervisorIds })}
        disabled={off}
        takeOut={(name) => `Take ${name} off`}
        none="nobody yet"
      />
      <FormFoot mayChange={view.mayChange} isNew={!team} busy={busy}>
        {team && <RemoveButton kind="team" id={team.id} name={team.name} onRemoved={() => onDone(null)} />}
      </FormFoot>
    </form>
  );
}
