'use client';

import { type Level, LEVELS } from '@/core/people/levels';
import type { Who } from '@/core/people/membership';
import { LIMIT_KINDS, type LimitKind } from '@/core/routing/limits';
import { LIMIT_WORDS } from '@/core/routing/trail';
import type { GroupLine, GroupsView } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { EditForm } from '../kit/editform';
import { ShareRows } from '../kit/sharebar';
import { LIMIT_NAMES, LimitsFields } from '../kit/limitsfields';
import { Panel, Pill } from '../kit/panel';
import { Picks, Ticks } from '../kit/picks';
import { LaterButton } from '../drafts/laterbutton';
import { RemoveButton } from '../removing/removebutton';
import { type GatheredThings, nameIn, wholeShape } from '../drafts/usegathered';
import { options, Select } from '../kit/select';
import { whoChoices, whoOf } from '../kit/whochoice';
import { HoursIn, NameIn, usedOf, ZoneIn } from './agreement';
import { WeekStrip } from './weekstrip';

export type Draft = Omit<GroupLine, 'id' | 'memberIds' | 'onDuty' | 'use' | 'took' | 'usedBy'> & {
  readonly id: string | null;
};

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

/** Whose limit wins, as a sentence. */
export function insteadWords(instead: readonly LimitKind[]): string {
  if (instead.length === 0)
    return 'Whoever is asked through it is held back by its limits and by their own, whichever is reached first.';
  const all = instead.length === LIMIT_KINDS.length;
  const kinds = LIMIT_KINDS.filter((kind) => instead.includes(kind)).map((kind) => INSTEAD[kind]);
  return all
    ? 'Its hours and limits win: those of its members do not count here. Their load always does.'
    : `Its ${kinds.join(', ')} win over the members’ own; of all else whichever is reached first. Their load always counts.`;
}

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
      tools={
        kept &&
        view.mayChange && (
          <RemoveButton
            kind="group"
            id={kept.id}
            name={kept.name}
            onRemoved={() => void gathered.settled(kept.id, null)}
          />
        )
      }
      keptName={kept?.name ?? null}
      changed={changed}
      busy={busy}
      mayChange={view.mayChange}
      notes={notes}
      onUndo={gathered.undo}
      onApply={() => void gathered.apply(`${draft.name} applied; it counts from the next decision on.`)}
      later={<LaterButton kind="group" gathered={gathered} shape={GROUP_SHAPE} />}
    >
      <Panel className="p-4" label="The agreement">
        <NameIn
          name={draft.name}
          hint="What they are called"
          disabled={off}
          fault={faults.name}
          onChange={(name) => set({ name })}
        />
        <div className="leading-9">
          Ask them{' '}
          <HoursIn label="Hours" hoursId={draft.hoursId} view={view} onChange={(hoursId) => set({ hoursId })} /> for{' '}
          <LimitsFields
            label="Contacts at most"
            limits={draft.limits}
            used={kept && usedOf(kept.use)}
            disabled={off}
            onChange={(limits) => set({ limits })}
          />
          ; <ZoneIn zone={draft.zone} disabled={off} fault={faults.zone} onChange={(zone) => set({ zone })} />
        </div>
        <p className="mt-1 text-small">
          {insteadWords(draft.instead)}{' '}
          {kept && (kept.usedBy.length === 0 ? 'No queue asks it yet.' : `Asked by ${kept.usedBy.join(', ')}.`)}
        </p>
        <details className="text-small text-ink-2">
          <summary className="cursor-pointer">Whose limit wins</summary>
          <fieldset disabled={off} aria-label="In place of the members’ own limits" className="mt-1">
            <Ticks
              of={LIMIT_KINDS.map((id) => ({ id, name: INSTEAD[id] }))}
              ticked={draft.instead}
              onTicked={(instead) => set({ instead })}
            />
          </fieldset>
        </details>
        {kept && (
          <div className="mt-3">
            <WeekStrip
              weekly={draft.hoursId === null ? null : (view.hours.find((h) => h.id === draft.hoursId)?.weekly ?? [])}
              took={kept.took}
              perHour={draft.limits.perHour}
            />
          </div>
        )}
      </Panel>
      <div className="grid gap-3 lg:grid-cols-2">
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
        {kept && kept.memberIds.length > 1 && (
          <Panel className="self-start p-4" label="Shares">
            <h3 className="text-panel">Shares</h3>
            <p className="mb-2 text-small text-ink-2">
              Where a queue picks by share. Drag the end of a bar, or move it by the arrow keys.
            </p>
            <ShareRows
              shares={kept.memberIds.map((id) => ({ id, name: nameOf(id), weight: draft.weights[id] ?? 1 }))}
              disabled={off}
              onChange={(id, weight) => {
                const { [id]: _before, ...rest } = draft.weights;
                // One is usual and is not kept.
                set({ weights: weight === 1 ? rest : { ...rest, [id]: weight } });
              }}
            />
          </Panel>
        )}
      </div>
    </EditForm>
  );
}
