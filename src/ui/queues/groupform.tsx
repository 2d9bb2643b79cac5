'use client';

import { type Level, LEVELS } from '@/core/people/levels';
import type { Who } from '@/core/people/membership';
import { LIMIT_KINDS, type LimitKind } from '@/core/routing/limits';
import { LIMIT_WORDS } from '@/core/routing/trail';
import type { GroupLine, GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { doing } from '../kit/doing';
import { EditForm } from '../kit/editform';
import { Field, Input } from '../kit/field';
import { LIMIT_NAMES, LimitsFields } from '../kit/limitsfields';
import { Panel, Pill } from '../kit/panel';
import { Picks, Ticks } from '../kit/picks';
import { LaterButton } from '../drafts/laterbutton';
import { type GatheredThings, nameIn, wholeShape } from '../drafts/usegathered';
import { options, Select } from '../kit/select';
import { whoChoices, whoOf } from '../kit/whochoice';
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

export const GROUP_SHAPE = wholeShape<Draft>();

const INSTEAD: Readonly<Record<LimitKind, string>> = { hours: 'hours', ...LIMIT_NAMES };

export function GroupForm({
  gathered,
  draft,
  kept,
  view,
}: {
  gathered: GatheredThings<Draft>;
  draft: Draft;
  kept: GroupLine | undefined;
  view: GroupsView;
}) {
  const nameOf = nameIn(view.people, view.teams, view.skills, view.hours);
  const { busy, faults, changed, notes } = gathered;
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const off = !view.mayChange;
  const remove = async () => {
    if (
      await doing(
        'remove-asked',
        { kind: 'group', id: draft.id },
        `${draft.name} removed; it can be undone in History.`,
      )
    )
      await gathered.settled(draft.id, null);
  };
  const ruleWords = (w: Who) =>
    w.by === 'everyone'
      ? 'everyone'
      : w.by === 'skill'
        ? `${nameOf(w.id)} ${w.atLeast} or better`
        : w.by === 'team'
          ? `team ${nameOf(w.id)}`
          : `role ${w.id}`;
  return (
    <EditForm
      kind="group"
      name={draft.name}
      marks={
        kept && (
          <>
            <Pill>{kept.memberIds.length} people</Pill>
            <Pill tone="good">{kept.onDuty} on duty</Pill>
            {kept.use.reached[0] && <Pill tone="bad">{LIMIT_WORDS[kept.use.reached[0]]}</Pill>}
          </>
        )
      }
      keptName={kept?.name ?? null}
      changed={changed}
      busy={busy}
      mayChange={view.mayChange}
      notes={notes}
      onUndo={gathered.undo}
      onRemove={() => void remove()}
      onApply={() => void gathered.apply(`${draft.name} applied; it counts from the next decision on.`)}
      later={<LaterButton kind="group" gathered={gathered} shape={GROUP_SHAPE} />}
    >
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
                  {options(view.hours)}
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
            <Ticks
              of={LIMIT_KINDS.map((id) => ({ id, name: INSTEAD[id] }))}
              ticked={draft.instead}
              onTicked={(instead) => set({ instead })}
            />
          </fieldset>
        </Panel>
        <Panel className="flex flex-col gap-3 p-4" label="Who belongs">
          <h3 className="text-panel">Who belongs</h3>
          <ul className="flex flex-col gap-1 text-small">
            {draft.who.map((w, i) => (
              <li key={`${w.by}${i}`} className="flex items-center gap-2">
                {w.by === 'skill' && !off ? (
                  <span className="flex flex-1 items-center gap-2">
                    {nameOf(w.id)}
                    <Select
                      compact
                      aria-label={`Level of ${nameOf(w.id)}`}
                      value={w.atLeast}
                      onChange={(chosen) =>
                        set({
                          who: draft.who.map((x, j) => (j === i ? { ...w, atLeast: Number(chosen) as Level } : x)),
                        })
                      }
                    >
                      {options(LEVELS, (l) => `${l} or better`)}
                    </Select>
                  </span>
                ) : (
                  <span className="flex-1">{ruleWords(w)}</span>
                )}
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
                const who = whoOf(chosen);
                if (who) set({ who: [...draft.who, who] });
              }}
            >
              <option value="">Add a rule…</option>
              {whoChoices(view)}
            </Select>
          )}
          {(
            [
              ['alsoIds', 'And also', 'Add a person'],
              ['exceptIds', 'But not', 'Except a person'],
            ] as const
          ).map(([list, words, add]) => (
            <div key={list}>
              <p className="mb-0.5 text-small font-medium text-ink-2">{words}</p>
              <Picks
                label={add}
                add={`${add}…`}
                of={view.people}
                picked={draft[list]}
                onPicked={(ids) => set({ [list]: ids })}
                disabled={off}
                takeOut={(name) => `Remove ${name}`}
              />
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
    </EditForm>
  );
}
