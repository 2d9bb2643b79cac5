'use client';

import { conditionFrom, FIGURE_WORDS } from '@/core/bots/conditions';
import { FIGURES, type Step, type Target } from '@/core/bots/model';
import type { Level } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import { Button } from '../kit/button';
import { Input, Select } from '../kit/field';
import { ConditionRows } from './conditionrows';
import type { EditorProps } from './lineeditor';
import { Given } from './outsideeditors';
import { CueSelect, IntoInput, Row, useAround, ValueInput, Whole, WordingEditor, valuesKnown } from './pieces';

type Of<V extends Step['verb']> = EditorProps<Extract<Step, { verb: V }>>;
type Named = { readonly id: string; readonly name: string };

function Pick({
  label,
  value,
  from,
  onChange,
}: {
  label: string;
  value: string;
  from: readonly Named[];
  onChange: (id: string) => void;
}) {
  return (
    <Select
      aria-label={label}
      className="!w-52 !py-1 text-small"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {!from.some((x) => x.id === value) && <option value={value}>gone</option>}
      {from.map((x) => (
        <option key={x.id} value={x.id}>
          {x.name}
        </option>
      ))}
    </Select>
  );
}

export function NeedsEditor({
  label,
  needs,
  onChange,
}: {
  label: string;
  needs: readonly Need[];
  onChange: (needs: readonly Need[]) => void;
}) {
  const { view } = useAround();
  const unused = view.skills.filter((s) => !needs.some((n) => n.skillId === s.id));
  return (
    <>
      {needs.map((n) => {
        const name = view.skills.find((s) => s.id === n.skillId)?.name ?? 'a skill that is gone';
        return (
          <span
            key={n.skillId}
            className="inline-flex items-center gap-1 rounded-control border border-rule px-2 py-0.5 text-small"
          >
            {name}
            <select
              aria-label={`Level of ${name}`}
              className="bg-sheet"
              value={n.atLeast}
              onChange={(e) =>
                onChange(needs.map((x) => (x === n ? { ...n, atLeast: Number(e.target.value) as Level } : x)))
              }
            >
              {[1, 2, 3, 4, 5].map((l) => (
                <option key={l} value={l}>
                  at least {l}
                </option>
              ))}
            </select>
            <Button
              small
              kind="quiet"
              aria-label={`Remove ${name}`}
              onClick={() => onChange(needs.filter((x) => x !== n))}
            >
              ×
            </Button>
          </span>
        );
      })}
      <Select
        aria-label={label}
        className="!w-24 !py-1 text-small"
        value=""
        onChange={(e) => {
          if (e.target.value) onChange([...needs, { skillId: e.target.value, atLeast: 3 }]);
        }}
      >
        <option value="">need…</option>
        {unused.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </Select>
    </>
  );
}

export function BranchEditor({ step, onChange }: Of<'branch'>) {
  const around = useAround();
  const first = valuesKnown(around)[0];
  return (
    <div className="flex flex-col gap-2">
      {step.ways.map((way, i) => (
        <div key={i} className="flex items-start gap-2 rounded-control border border-rule p-2">
          <div className="min-w-0 flex-1">
            <ConditionRows
              label={`Way ${i + 1}`}
              when={way.when}
              onChange={(when) => onChange({ ...step, ways: step.ways.map((w, j) => (j === i ? { ...w, when } : w)) })}
            />
          </div>
          <CueSelect
            label={`Way ${i + 1} goes to`}
            cue={way.cue}
            onChange={(cue) => {
              if (cue) onChange({ ...step, ways: step.ways.map((w, j) => (j === i ? { ...w, cue } : w)) });
            }}
          />
          {step.ways.length > 1 && (
            <Button
              small
              kind="quiet"
              aria-label={`Remove way ${i + 1}`}
              onClick={() => onChange({ ...step, ways: step.ways.filter((_, j) => j !== i) })}
            >
              ×
            </Button>
          )}
        </div>
      ))}
      <Row label="Otherwise">
        <CueSelect
          label="Otherwise goes to"
          cue={step.otherwise}
          onChange={(otherwise) => {
            if (otherwise) onChange({ ...step, otherwise });
          }}
        />
        <Button
          small
          onClick={() =>
            onChange({
              ...step,
              ways: [
                ...step.ways,
                {
                  when: conditionFrom({
                    join: 'all',
                    rows: [{ subject: first ? `values.${first.name}` : 'channel', operator: 'is', value: '' }],
                  }),
                  cue: { to: 'next' },
                },
              ],
            })
          }
        >
          Add a way
        </Button>
      </Row>
    </div>
  );
}

export function CountEditor({ step, onChange }: Of<'count'>) {
  const { view } = useAround();
  return (
    <Row label="Counts">
      <Select
        aria-label="Figure"
        className="!w-48 !py-1 text-small"
        value={step.figure}
        onChange={(e) => {
          const figure = FIGURES.find((f) => f === e.target.value);
          if (figure) onChange({ ...step, figure });
        }}
      >
        {FIGURES.map((f) => (
          <option key={f} value={f}>
            {FIGURE_WORDS[f]}
          </option>
        ))}
      </Select>{' '}
      in
      <Select
        aria-label="Queue counted in is"
        className="!w-36 !py-1 text-small"
        value={step.queue.by}
        onChange={(e) =>
          onChange({
            ...step,
            queue:
              e.target.value === 'value'
                ? { by: 'value', name: 'queue' }
                : { by: 'name', queueId: view.queues[0]?.id ?? '' },
          })
        }
      >
        <option value="name">the queue</option>
        <option value="value">the queue named by</option>
      </Select>
      {step.queue.by === 'name' ? (
        <Pick
          label="Queue counted in"
          value={step.queue.queueId}
          from={view.queues}
          onChange={(queueId) => onChange({ ...step, queue: { by: 'name', queueId } })}
        />
      ) : (
        <ValueInput
          label="Value with the queue’s name"
          name={step.queue.name}
          onChange={(name) => onChange({ ...step, queue: { by: 'value', name } })}
        />
      )}
      as{' '}
      <IntoInput
        label="Remember the figure as"
        into={step.into}
        onChange={(into) => onChange({ ...step, into: into ?? { name: '', scope: step.into.scope } })}
      />
    </Row>
  );
}
export const RememberEditor = ({ step, onChange }: Of<'remember'>) => (
  <Row label="Remembers">
    <Input
      aria-label="What is remembered"
      className="!w-64 !py-1 text-small"
      maxLength={500}
      placeholder="text, or {a value}"
      value={step.value}
      onChange={(e) => onChange({ ...step, value: e.target.value })}
    />{' '}
    as{' '}
    <IntoInput
      label="Remember it as"
      into={step.into}
      onChange={(into) => onChange({ ...step, into: into ?? { name: '', scope: step.into.scope } })}
    />
  </Row>
);

export function IdentifyEditor({ step, onChange }: Of<'identify'>) {
  return (
    <div className="flex flex-col gap-2">
      <Row label="Looks for them by">
        <ValueInput
          label="Address, from a value"
          name={step.by ?? ''}
          placeholder="where they come from"
          onChange={(name) => onChange({ ...step, by: name || null })}
        />
      </Row>
      <Row label="Known">
        <CueSelect
          label="Known goes to"
          cue={step.known}
          onChange={(known) => {
            if (known) onChange({ ...step, known });
          }}
        />{' '}
        unknown{' '}
        <CueSelect
          label="Unknown goes to"
          cue={step.unknown}
          onChange={(unknown) => {
            if (unknown) onChange({ ...step, unknown });
          }}
        />
      </Row>
    </div>
  );
}
export function HoursEditor({ step, onChange }: Of<'hours'>) {
  const { view } = useAround();
  return (
    <div className="flex flex-col gap-2">
      <Row label="Asks whether">
        <Select
          aria-label="Hours asked about"
          className="!w-52 !py-1 text-small"
          value={step.hoursId ?? ''}
          onChange={(e) => onChange({ ...step, hoursId: e.target.value || null })}
        >
          <option value="">the door</option>
          {step.hoursId && !view.hours.some((h) => h.id === step.hoursId) && <option value={step.hoursId}>gone</option>}
          {view.hours.map((h) => (
            <option key={h.id} value={h.id}>
              {h.name}
            </option>
          ))}
        </Select>{' '}
        is open
      </Row>
      <Row label="Open">
        <CueSelect
          label="Open goes to"
          cue={step.open}
          onChange={(open) => {
            if (open) onChange({ ...step, open });
          }}
        />{' '}
        closed{' '}
        <CueSelect
          label="Closed goes to"
          cue={step.closed}
          onChange={(closed) => {
            if (closed) onChange({ ...step, closed });
          }}
        />
      </Row>
    </div>
  );
}
export function PlayEditor({ step, onChange }: Of<'play'>) {
  const { view } = useAround();
  const scene = view.shared.find((s) => s.id === step.sharedId);
  return (
    <div className="flex flex-col gap-2">
      <Row label="Plays">
        <Pick
          label="Shared scene"
          value={step.sharedId}
          from={view.shared}
          onChange={(sharedId) => onChange({ ...step, sharedId, inputs: [] })}
        />{' '}
        and comes back
      </Row>
      <Given
        label="Gives it"
        names={scene?.inputs ?? []}
        given={step.inputs}
        onChange={(inputs) => onChange({ ...step, inputs })}
      />
    </div>
  );
}

const TARGETS: Readonly<Record<Target['to'], string>> = {
  queue: 'a queue',
  'queue-value': 'the queue named by a value',
  group: 'a group',
  person: 'a person',
  partner: 'a partner desk',
};
export function HandOverEditor({ step, onChange }: Of<'hand-over'>) {
  const around = useAround();
  const { view } = around;
  const { target } = step;
  const { queueId } = target;
  const made = (to: Target['to']): Target =>
    to === 'queue'
      ? { to, queueId }
      : to === 'queue-value'
        ? { to, name: 'queue', queueId }
        : to === 'group'
          ? { to, groupId: view.groups[0]?.id ?? '', queueId }
          : to === 'partner'
            ? { to, partnerId: view.partners[0]?.id ?? '', queueId }
            : { to, person: { by: 'last' }, queueId, off: null };
  const set = (next: Target) => onChange({ ...step, target: next });
  const unused = view.fields.filter((f) => !step.fields.includes(f.name));
  return (
    <div className="flex flex-col gap-2.5">
      <Row label="To">
        <Select
          aria-label="Hands over to"
          className="!w-52 !py-1 text-small"
          value={target.to}
          onChange={(e) => set(made(e.target.value as Target['to']))}
        >
          {(Object.keys(TARGETS) as Target['to'][]).map((t) => (
            <option key={t} value={t}>
              {TARGETS[t]}
            </option>
          ))}
        </Select>
        {target.to === 'queue-value' && (
          <ValueInput
            label="Value with the queue’s name"
            name={target.name}
            onChange={(name) => set({ ...target, name })}
          />
        )}
        {target.to === 'group' && (
          <Pick
            label="Group"
            value={target.groupId}
            from={view.groups}
            onChange={(groupId) => set({ ...target, groupId })}
          />
        )}
        {target.to === 'partner' && (
          <Pick
            label="Partner desk"
            value={target.partnerId}
            from={view.partners}
            onChange={(partnerId) => set({ ...target, partnerId })}
          />
        )}
        {target.to === 'person' && (
          <Select
            aria-label="Person"
            className="!w-52 !py-1 text-small"
            value={target.person.by === 'id' ? target.person.personId : target.person.by}
            onChange={(e) =>
              set({
                ...target,
                person:
                  e.target.value === 'last'
                    ? { by: 'last' }
                    : e.target.value === 'value'
                      ? { by: 'value', name: 'person' }
                      : { by: 'id', personId: e.target.value },
              })
            }
          >
            <option value="last">who last dealt with them</option>
            <option value="value">named by a value</option>
            {view.people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
        )}
        {target.to === 'person' && target.person.by === 'value' && (
          <ValueInput
            label="Value with the person’s name"
            name={target.person.name}
            onChange={(name) => set({ ...target, person: { by: 'value', name } })}
          />
        )}
      </Row>
      <Row
        label={
          target.to === 'queue' ? 'To the queue' : target.to === 'queue-value' ? 'If there is none' : 'Within the queue'
        }
      >
        <Pick
          label="To the queue"
          value={queueId}
          from={view.queues}
          onChange={(id) => set({ ...target, queueId: id })}
        />
        {target.to === 'person' && (
          <>
            {' '}
            off duty{' '}
            <CueSelect
              label="Off duty goes to"
              cue={target.off}
              none="asks the queue"
              onChange={(off) => set({ ...target, off })}
            />
          </>
        )}{' '}
        priority{' '}
        <Whole
          label="Priority"
          value={step.priority}
          least={0}
          most={9}
          onChange={(priority) => onChange({ ...step, priority })}
        />
      </Row>
      <Row label="Needs">
        <NeedsEditor label="Add a need" needs={step.needs} onChange={(needs) => onChange({ ...step, needs })} />
      </Row>
      <Row label="Passes fields">
        {step.fields.map((name) => (
          <span
            key={name}
            className="inline-flex items-center rounded-control border border-rule px-2 py-0.5 text-small"
          >
            {view.fields.find((f) => f.name === name)?.label ?? `${name} (gone)`}
            <Button
              small
              kind="quiet"
              aria-label={`Stop passing ${name}`}
              onClick={() => onChange({ ...step, fields: step.fields.filter((f) => f !== name) })}
            >
              ×
            </Button>
          </span>
        ))}
        {unused.length > 0 && (
          <Select
            aria-label="Add a field"
            className="!w-40 !py-1 text-small"
            value=""
            onChange={(e) => {
              if (e.target.value) onChange({ ...step, fields: [...step.fields, e.target.value] });
            }}
          >
            <option value="">pass a field…</option>
            {unused.map((f) => (
              <option key={f.id} value={f.name}>
                {f.label}
              </option>
            ))}
          </Select>
        )}
      </Row>
      <WordingEditor label="Says first" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
    </div>
  );
}
