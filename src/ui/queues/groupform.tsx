'use client';

import { toast } from 'sonner';
import type { Level } from '@/core/people/levels';
import type { Who } from '@/core/people/membership';
import { LIMIT_KINDS, type LimitKind } from '@/core/routing/limits';
import { LIMIT_WORDS } from '@/core/routing/trail';
import type { GroupLine, GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Check, Field, Input } from '../kit/field';
import { LIMIT_NAMES, LimitsFields } from '../kit/limitsfields';
import { Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { Select } from '../kit/select';
import { UseTable } from './usetable';

export type Draft = Omit<GroupLine, 'id' | 'memberIds' | 'onDuty' | 'use' | 'usedBy'> & { readonly id: string | null };

export const draftOf = ({
  id,
  revision,
  name,
  zone,
  hoursId,
  limits,
  instead,
  who,
  alsoIds,
  exceptIds,
  weights,
}: GroupLine): Draft => ({ id, revision, name, zone, hoursId, limits, instead, who, alsoIds, exceptIds, weights });

const INSTEAD: Readonly<Record<LimitKind, string>> = { hours: 'hours', ...LIMIT_NAMES };

export function GroupForm({
  draft,
  kept,
  view,
  onChange,
  onReread,
}: {
  draft: Draft;
  kept: GroupLine | undefined;
  view: GroupsView;
  onChange: (d: Draft) => void;
  onReread: (id: string | null) => Promise<void>;
}) {
  const nameOf = (id: string) =>
    [...view.people, ...view.teams, ...view.skills, ...view.hours].find((x) => x.id === id)?.name ?? id;
  const latest = async () => {
    const g = (await call<GroupsView>('/api/read/groups')).groups.find((x) => x.id === draft.id);
    return g && draftOf(g);
  };
  const { busy, faults, save, conflict } = useSaving('save-group', {
    latest,
    nameOf,
    onTheirs: () => void onReread(draft.id),
    onSaved: ({ id }) => void onReread(id),
  });
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const off = !view.mayChange;
  const changed = kept === undefined || JSON.stringify(draft) !== JSON.stringify(draftOf(kept));
  const submit = async () => {
    const saved = await save(draft, `${draft.name} applied; it counts from the next decision on.`);
    if (saved) await onReread(saved.id);
  };
  const remove = () =>
    setting('remove-asked', { kind: 'group', id: draft.id }).then(
      () => {
        toast.success(`${draft.name} removed; it can be undone in History.`);
        void onReread(null);
      },
      (e: unknown) => toast.error(sentence(e)),
    );
  const ruleWords = (w: Who) =>
    w.by === 'everyone'
      ? 'everyone'
      : w.by === 'skill'
        ? `${nameOf(w.id)} ${w.atLeast} or better`
        : w.by === 'team'
          ? `team ${nameOf(w.id)}`
          : `role ${w.id}`;
  return (
    <form
      className="flex flex-col gap-3"
      aria-label={kept?.name ?? 'New group'}
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="text-title">{draft.name || 'New group'}</h2>
        {kept && (
          <>
            <Pill>{kept.memberIds.length} people</Pill>
            <Pill tone="good">{kept.onDuty} on duty</Pill>
            {kept.use.reached[0] && <Pill tone="bad">{LIMIT_WORDS[kept.use.reached[0]]}</Pill>}
          </>
        )}
        <span className="ml-auto flex gap-2">
          {kept && changed && <Button onClick={() => onChange(draftOf(kept))}>Undo changes</Button>}
          {!off && kept && (
            <Button kind="danger" onClick={() => void remove()}>
              Remove
            </Button>
          )}
          {!off && (
            <Button kind="primary" type="submit" disabled={!changed || busy}>
              {kept ? 'Apply' : 'Add the group'}
            </Button>
          )}
        </span>
      </div>
      {kept && (
        <Panel className="p-4" label="Use so far">
          <h3 className="mb-2 text-panel">Use so far</h3>
          <UseTable use={kept.use} limits={kept.limits} />
          <p className="mt-2 text-small text-ink-2">
            {kept.usedBy.length === 0 ? 'No queue asks it yet.' : `Asked by ${kept.usedBy.join(', ')}.`}
          </p>
        </Panel>
      )}
      <div className="grid gap-3 lg:grid-cols-2">
        <Panel className="flex flex-col gap-3 p-4" label="What it may take">
          <h3 className="text-panel">What it may take</h3>
          <Field label="Name" fault={faults.name}>
            {(p) => (
              <Input
                {...p}
                disabled={off}
                maxLength={60}
                value={draft.name}
                onChange={(e) => set({ name: e.target.value })}
              />
            )}
          </Field>
          <div className="grid grid-cols-2 gap-3">
            <Field label="Hours">
              {(p) => (
                <Select
                  {...p}
                  disabled={off}
                  value={draft.hoursId ?? ''}
                  onChange={(chosen) => set({ hoursId: chosen === '' ? null : chosen })}
                >
                  <option value="">always</option>
                  {view.hours.map((h) => (
                    <option key={h.id} value={h.id}>
                      {h.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            <Field label="Zone of its days" fault={faults.zone}>
              {(p) => (
                <Input {...p} disabled={off} value={draft.zone} onChange={(e) => set({ zone: e.target.value })} />
              )}
            </Field>
          </div>
          <LimitsFields
            label="Contacts at most"
            limits={draft.limits}
            disabled={off}
            onChange={(limits) => set({ limits })}
          />
          <fieldset disabled={off}>
            <legend className="mb-1 text-small font-medium text-ink-2">
              In place of the members’ own limits (never their load)
            </legend>
            <div className="flex flex-wrap gap-x-4 gap-y-1">
              {LIMIT_KINDS.map((kind) => (
                <Check
                  key={kind}
                  label={INSTEAD[kind]}
                  checked={draft.instead.includes(kind)}
                  onChange={(e) =>
                    set({
                      instead: LIMIT_KINDS.filter((k) => (k === kind ? e.target.checked : draft.instead.includes(k))),
                    })
                  }
                />
              ))}
            </div>
          </fieldset>
        </Panel>
        <Panel className="flex flex-col gap-3 p-4" label="Who belongs">
          <h3 className="text-panel">Who belongs</h3>
          <ul className="flex flex-col gap-1 text-small">
            {draft.who.map((w, i) => (
              <li key={`${w.by}${i}`} className="flex items-center gap-2">
                <span className="flex-1">{ruleWords(w)}</span>
                {!off && (
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove the rule ${ruleWords(w)}`}
                    onClick={() => set({ who: draft.who.filter((_, j) => j !== i) })}
                  >
                    Remove
                  </Button>
                )}
              </li>
            ))}
            {draft.who.length === 0 && <li className="text-ink-3">No rule; only those named below.</li>}
          </ul>
          {!off && (
            <Select
              aria-label="Add a rule"
              value=""
              onChange={(chosen) => {
                const [by, id = ''] = chosen.split('|');
                if (by === 'everyone') set({ who: [...draft.who, { by }] });
                else if (by === 'team' || by === 'role') set({ who: [...draft.who, { by, id }] });
                else if (by === 'skill') set({ who: [...draft.who, { by, id, atLeast: 3 as Level }] });
              }}
            >
              <option value="">Add a rule…</option>
              <option value="everyone">everyone</option>
              <optgroup label="Team">
                {view.teams.map((t) => (
                  <option key={t.id} value={`team|${t.id}`}>
                    {t.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Skill, 3 or better">
                {view.skills.map((s) => (
                  <option key={s.id} value={`skill|${s.id}`}>
                    {s.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Role">
                {view.roles.map((r) => (
                  <option key={r.id} value={`role|${r.id}`}>
                    {r.name}
                  </option>
                ))}
              </optgroup>
            </Select>
          )}
          {(['alsoIds', 'exceptIds'] as const).map((list) => (
            <div key={list}>
              <p className="text-small font-medium text-ink-2">{list === 'alsoIds' ? 'And also' : 'But not'}</p>
              <p className="flex flex-wrap gap-1 text-small">
                {draft[list].map((id) => (
                  <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2">
                    {nameOf(id)}
                    {!off && (
                      <button
                        type="button"
                        aria-label={`Remove ${nameOf(id)}`}
                        onClick={() => set({ [list]: draft[list].filter((x) => x !== id) })}
                      >
                        ×
                      </button>
                    )}
                  </span>
                ))}
              </p>
              {!off && (
                <Select
                  aria-label={list === 'alsoIds' ? 'Add a person' : 'Except a person'}
                  className="mt-1"
                  value=""
                  onChange={(chosen) => {
                    if (chosen) set({ [list]: [...draft[list], chosen] });
                  }}
                >
                  <option value="">{list === 'alsoIds' ? 'Add a person…' : 'Except a person…'}</option>
                  {view.people
                    .filter((p) => !draft[list].includes(p.id))
                    .map((p) => (
                      <option key={p.id} value={p.id}>
                        {p.name}
                      </option>
                    ))}
                </Select>
              )}
            </div>
          ))}
        </Panel>
      </div>
      {kept && kept.memberIds.length > 0 && (
        <Panel className="p-4" label="Weights">
          <h3 className="text-panel">Weights</h3>
          <p className="mb-2 text-small text-ink-2">
            Count where a queue picks by share: somebody with 2 gets twice as many as somebody with 1.
          </p>
          <div className="grid grid-cols-2 gap-x-6 gap-y-1 md:grid-cols-3">
            {kept.memberIds.map((id) => (
              <label key={id} className="flex items-center gap-2 text-small">
                <span className="flex-1 truncate">{nameOf(id)}</span>
                <Input
                  aria-label={`Weight of ${nameOf(id)}`}
                  type="number"
                  min={1}
                  max={100}
                  className="!w-16 !py-0.5"
                  disabled={off}
                  value={draft.weights[id] ?? 1}
                  onChange={(e) => {
                    const { [id]: _old, ...rest } = draft.weights;
                    const weight = e.target.valueAsNumber;
                    set({
                      weights: Number.isNaN(weight) || weight <= 1 ? rest : { ...rest, [id]: Math.round(weight) },
                    });
                  }}
                />
              </label>
            ))}
          </div>
        </Panel>
      )}
    </form>
  );
}
