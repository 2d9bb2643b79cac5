'use client';

import { conditionFrom, countsPeople, FIGURE_WORDS } from '@/core/bots/conditions';
import { mayBeUnknown } from '@/core/bots/lineways';
import { FIGURES } from '@/core/bots/model';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { useAround, valuesKnown } from './around';
import { ConditionRows } from './conditionrows';
import { CueSelect } from './cueselect';
import type { Of } from './editing';
import { HorizonInput } from './horizoninput';
import { Given } from './outsideeditors';
import { Pick } from './pick';
import { IntoInput, Row, ValueInput } from './pieces';

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
        onChange={(chosen) => {
          const figure = FIGURES.find((f) => f === chosen);
          if (figure) onChange({ ...step, figure });
        }}
      >
        {options(FIGURES, (f) => FIGURE_WORDS[f])}
      </Select>{' '}
      {countsPeople(step.figure) && (
        <HorizonInput
          label="Counted until"
          within={step.within ?? null}
          onChange={(within) => {
            const { within: _was, ...rest } = step;
            onChange(within === null ? rest : { ...rest, within });
          }}
        />
      )}
      in
      <Select
        aria-label="Queue counted in is"
        className="!w-36 !py-1 text-small"
        value={step.queue.by}
        onChange={(chosen) =>
          onChange({
            ...step,
            queue:
              chosen === 'value' ? { by: 'value', name: 'queue' } : { by: 'name', queueId: view.queues[0]?.id ?? '' },
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
      {mayBeUnknown(step) && (
        <>
          , when it is not known
          <CueSelect
            label="When it is not known goes to"
            cue={step.unknown ?? { to: 'next' }}
            onChange={(unknown) => {
              if (unknown) onChange({ ...step, unknown });
            }}
          />
        </>
      )}
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
          onChange={(chosen) => onChange({ ...step, hoursId: chosen || null })}
        >
          <option value="">the door</option>
          {step.hoursId && !view.hours.some((h) => h.id === step.hoursId) && <option value={step.hoursId}>gone</option>}
          {options(view.hours)}
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
