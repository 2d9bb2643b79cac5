'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { RIGHT_WORDS, RIGHTS, type Right, type RoleTeams } from '@/core/people/rights';
import type { AccessView, RoleLine, RolesView } from '@/services/people/roles';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Check, Field, Input, Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { StopNav } from '../lane/stopnav';

type Draft = {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly rights: readonly Right[];
  readonly teams: RoleTeams;
};
const draftOf = (r: RoleLine): Draft => ({
  id: r.id,
  revision: r.revision,
  name: r.name,
  rights: r.rights,
  teams: r.teams,
});

/** What each role may do and for which teams; built-in ones stand, copies are changed; and what one person can see and do. */
export function RolesPage({
  initial,
  role,
  person,
}: {
  initial: RolesView;
  role: string | null;
  person: string | null;
}) {
  const { data, refetch } = useLive<RolesView>('/api/read/roles', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(() => {
    const r = view.roles.find((x) => x.id === role) ?? view.roles[0];
    return r ? draftOf(r) : null;
  });
  const [who, setWho] = useState<string | null>(person ?? view.me);
  const [handing, setHanding] = useState(false);
  const kept = view.roles.find((r) => r.id === draft?.id);
  const open = (id: string | null) =>
    void refetch().then((r) => {
      const found = r.data?.roles.find((x) => x.id === id) ?? r.data?.roles[0];
      if (found) setDraft(draftOf(found));
    });
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)_340px] gap-3 px-4 pt-2 pb-4">
        <Panel className="min-h-0 overflow-y-auto p-3" label="Roles">
          <h1 className="px-1 text-panel">Roles</h1>
          <ul className="mt-2">
            {view.roles.map((r) => (
              <li key={r.id}>
                <button
                  type="button"
                  aria-current={r.id === draft?.id ? 'true' : undefined}
                  onClick={() => setDraft(draftOf(r))}
                  className={clsx(
                    'w-full rounded-control px-2.5 py-1.5 text-left',
                    r.id === draft?.id ? 'bg-chosen' : 'hover:bg-sunk',
                  )}
                >
                  <span className="block font-medium">{r.name}</span>
                  <span className="block text-tiny text-ink-2">
                    {r.people.length} {r.people.length === 1 ? 'person' : 'people'}
                    {r.builtIn && ' · built in'}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {view.isOwner && (
            <Button className="mt-3 w-full" onClick={() => setHanding(true)}>
              Hand ownership on…
            </Button>
          )}
        </Panel>
        {draft && (
          <RoleForm
            key={`${draft.id ?? 'new'}${draft.revision}`}
            view={view}
            kept={kept}
            draft={draft}
            onDraft={setDraft}
            onSaved={open}
          />
        )}
        <Panel className="min-h-0 overflow-y-auto p-4" label="What one person can see and do">
          <h2 className="text-panel">What can one person see and do?</h2>
          <Select
            aria-label="Person"
            className="mt-2"
            value={who ?? ''}
            onChange={(e) => setWho(e.target.value === '' ? null : e.target.value)}
          >
            <option value="">Choose a person…</option>
            {view.people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
          {who !== null && <Access personId={who} />}
        </Panel>
      </div>
      {handing && <HandOn view={view} onClose={() => setHanding(false)} />}
    </main>
  );
}

function RoleForm({
  view,
  kept,
  draft,
  onDraft,
  onSaved,
}: {
  view: RolesView;
  kept: RoleLine | undefined;
  draft: Draft;
  onDraft: (d: Draft) => void;
  onSaved: (id: string | null) => void;
}) {
  const { busy, faults, save, conflict } = useSaving('save-role', {
    latest: async () => {
      const r = (await call<RolesView>('/api/read/roles')).roles.find((x) => x.id === draft.id);
      return r && draftOf(r);
    },
    nameOf: (id) => view.teams.find((t) => t.id === id)?.name ?? (id in RIGHT_WORDS ? RIGHT_WORDS[id as Right] : id),
    onTheirs: () => onSaved(draft.id),
    onSaved: ({ id }) => onSaved(id),
  });
  const off = kept ? !kept.mayChange : !view.mayChange;
  const set = (change: Partial<Draft>) => onDraft({ ...draft, ...change });
  const teams = Array.isArray(draft.teams) ? (draft.teams as readonly string[]) : null;
  const submit = async () => {
    const done = await save({ ...draft, name: draft.name.trim() }, `${draft.name} saved; it counts at once.`);
    if (done) onSaved(done.id);
  };
  const remove = () => {
    setting('remove-role', { id: draft.id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        onSaved(null);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Panel className="min-h-0 overflow-y-auto p-4" label={draft.name || 'New role'}>
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="flex items-center gap-2">
          <h2 className="text-title">{kept?.name ?? 'New role'}</h2>
          {kept?.builtIn && <Pill>built in: copy it to change it</Pill>}
          {view.mayChange && kept && (
            <Button
              small
              className="ml-auto"
              onClick={() =>
                onDraft({ ...draft, id: null, revision: 0, name: `${draft.name} copy`, rights: draft.rights })
              }
            >
              Copy
            </Button>
          )}
        </div>
        {!off && (
          <div className="mt-2 max-w-xs">
            <Field label="Name" fault={faults.name}>
              {(p) => <Input {...p} required value={draft.name} onChange={(e) => set({ name: e.target.value })} />}
            </Field>
          </div>
        )}
        <fieldset className="mt-3" disabled={off}>
          <legend className="text-panel font-semibold">May</legend>
          <div className="mt-1 grid grid-cols-1 gap-y-1 xl:grid-cols-2">
            {RIGHTS.map((r) => (
              <Check
                key={r}
                label={RIGHT_WORDS[r]}
                checked={draft.rights.includes(r)}
                onChange={(e) =>
                  set({ rights: RIGHTS.filter((x) => (x === r ? e.target.checked : draft.rights.includes(x))) })
                }
              />
            ))}
          </div>
        </fieldset>
        <fieldset className="mt-4" disabled={off}>
          <legend className="text-panel font-semibold">For</legend>
          <div className="mt-1 flex flex-col gap-1 text-small">
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                name="teams"
                className="accent-plum"
                checked={draft.teams === 'all'}
                onChange={() => set({ teams: 'all' })}
              />
              everybody
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                name="teams"
                className="accent-plum"
                checked={draft.teams === 'supervised'}
                onChange={() => set({ teams: 'supervised' })}
              />
              the teams they supervise
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                name="teams"
                className="accent-plum"
                checked={teams !== null}
                onChange={() => set({ teams: [] })}
              />
              these teams
            </label>
            {teams && (
              <div className="flex flex-wrap gap-x-4 pl-5">
                {view.teams.map((t) => (
                  <Check
                    key={t.id}
                    label={t.name}
                    checked={teams.includes(t.id)}
                    onChange={(e) =>
                      set({ teams: e.target.checked ? [...teams, t.id] : teams.filter((x) => x !== t.id) })
                    }
                  />
                ))}
              </div>
            )}
          </div>
          <p className="mt-1 text-tiny text-ink-2">
            Queues, the Floor, Review and conversations follow from the teams that serve them. Changing what belongs to
            everybody (queues, doors, bots, teams, profiles) takes a role for everybody.
          </p>
        </fieldset>
        {!off && (
          <div className="mt-4 flex gap-2">
            <Button kind="primary" type="submit" disabled={busy}>
              {kept ? 'Save' : 'Add the role'}
            </Button>
            {kept && (
              <Button kind="quiet" onClick={remove}>
                Remove
              </Button>
            )}
          </div>
        )}
      </form>
      {kept && kept.people.length > 0 && (
        <p className="mt-4 text-small text-ink-2">
          {kept.people.slice(0, 12).join(', ')}
          {kept.people.length > 12 && ` and ${kept.people.length - 12} more`}
        </p>
      )}
    </Panel>
  );
}

function Access({ personId }: { personId: string }) {
  const { data, error, refetch } = useLive<AccessView>(`/api/read/access?id=${personId}`, ['settings.changed']);
  if (!data) return <Looking error={error} onAgain={refetch} />;
  const list = (names: readonly string[] | 'all', none: string) =>
    names === 'all' ? 'all of them' : names.length === 0 ? none : names.join(', ');
  return (
    <div className="mt-3 text-small">
      <p>
        <Link className="font-semibold underline" href={`/people?person=${data.personId}`}>
          {data.name}
        </Link>{' '}
        is {data.role}
        {!data.active && ', switched off'}.
      </p>
      <h3 className="mt-3">Can</h3>
      <ul>
        {data.can.map((c) => (
          <li key={c} className="py-px">
            <span className="mr-1.5 text-moss" aria-hidden>
              ✓
            </span>
            {c}
          </li>
        ))}
        {data.can.length === 0 && <li className="text-ink-2">nothing</li>}
      </ul>
      <h3 className="mt-3">Sees</h3>
      <p className="text-ink-2">
        {data.people} of {data.of} people · teams: {list(data.teams, 'none')} · queues: {list(data.queues, 'none')}
      </p>
      {data.cannot.length > 0 && (
        <>
          <h3 className="mt-3">Cannot</h3>
          <ul className="text-ink-2">
            {data.cannot.map((c) => (
              <li key={c} className="py-px">
                <span className="mr-1.5" aria-hidden>
                  –
                </span>
                {c}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function HandOn({ view, onClose }: { view: RolesView; onClose: () => void }) {
  const [heir, setHeir] = useState('');
  const go = () => {
    setting('hand-on-ownership', { personId: heir }).then(
      () => {
        toast.success('Ownership is handed on. You are a lead now.');
        window.location.reload();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Hand ownership on"
      description="There is one owner. You become a lead; only the new owner can hand it back."
    >
      <Field label="New owner">
        {(p) => (
          <Select {...p} value={heir} onChange={(e) => setHeir(e.target.value)}>
            <option value="">Choose…</option>
            {view.heirs.map((h) => (
              <option key={h.id} value={h.id}>
                {h.name}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <div className="mt-3 flex gap-2">
        <Button kind="danger" disabled={heir === ''} onClick={go}>
          Hand it on
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
