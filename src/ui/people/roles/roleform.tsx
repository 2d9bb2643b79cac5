'use client';

import { toast } from 'sonner';
import { type Right, RIGHT_WORDS, RIGHTS, type RoleTeams } from '@/core/people/rights';
import type { RoleLine, RolesView } from '@/services/people/roles';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Check, Field, Input } from '../../kit/field';
import { Pill, SidePanel } from '../../kit/panel';
import { LaterButton } from '../../drafts/laterbutton';
import { type GatheredThings, wholeShape } from '../../drafts/usegathered';

export type Draft = {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly rights: readonly Right[];
  readonly teams: RoleTeams;
};

export const draftOf = (r: RoleLine): Draft => ({
  id: r.id,
  revision: r.revision,
  name: r.name,
  rights: r.rights,
  teams: r.teams,
});

export const ROLE_SHAPE = wholeShape<Draft>();

export function RoleForm({
  gathered,
  view,
  kept,
  draft,
}: {
  gathered: GatheredThings<Draft>;
  view: RolesView;
  kept: RoleLine | undefined;
  draft: Draft;
}) {
  const { busy, faults, changed, notes } = gathered;
  const off = kept ? !kept.mayChange : !view.mayChange;
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const teams = Array.isArray(draft.teams) ? (draft.teams as readonly string[]) : null;
  const submit = () => void gathered.apply(`${draft.name} saved; it counts at once.`);
  const remove = () => {
    setting('remove-role', { id: draft.id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        void gathered.settled(draft.id, view.roles[0]?.id ?? null);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <SidePanel label={draft.name || 'New role'}>
      {notes}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          submit();
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
                gathered.set({ ...draft, id: null, revision: 0, name: `${draft.name} copy`, rights: draft.rights })
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
          <div className="mt-1 grid grid-cols-1 gap-x-4 gap-y-1 xl:grid-cols-2">
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
            <Button kind="primary" type="submit" disabled={busy || !changed}>
              {kept ? 'Save' : 'Add the role'}
            </Button>
            <LaterButton kind="role" gathered={gathered} shape={ROLE_SHAPE} />
            {changed && <Button onClick={gathered.undo}>{kept ? 'Undo changes' : 'Forget it'}</Button>}
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
    </SidePanel>
  );
}
