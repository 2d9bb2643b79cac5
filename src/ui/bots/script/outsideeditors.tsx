'use client';

import type { Given as GivenValue, Step, Taken } from '@/core/bots/model';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import type { EditorProps } from './editing';
import { IntoInput, Row, Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

type Of<V extends Step['verb']> = EditorProps<Extract<Step, { verb: V }>>;

/** What is given to something outside or to a shared scene: one text a name, which may show values. */
export function Given({
  label,
  names,
  given,
  onChange,
}: {
  label: string;
  names: readonly string[];
  given: readonly GivenValue[];
  onChange: (given: readonly GivenValue[]) => void;
}) {
  const all = [...new Set([...names, ...given.map((g) => g.name)])];
  if (all.length === 0) return null;
  const set = (name: string, value: string) =>
    onChange(
      value === ''
        ? given.filter((g) => g.name !== name)
        : given.some((g) => g.name === name)
          ? given.map((g) => (g.name === name ? { name, value } : g))
          : [...given, { name, value }],
    );
  return (
    <Row label={label}>
      {all.map((name) => (
        <label key={name} className="inline-flex items-center gap-1 text-small">
          {name}{' '}
          <Input
            aria-label={`${label}: ${name}`}
            placeholder={`{${name}}`}
            className="!w-40 !py-1 text-small"
            maxLength={500}
            value={given.find((g) => g.name === name)?.value ?? ''}
            onChange={(e) => set(name, e.target.value)}
          />
        </label>
      ))}
    </Row>
  );
}

function Takes({
  names,
  taken,
  onChange,
}: {
  names: readonly string[];
  taken: readonly Taken[];
  onChange: (taken: readonly Taken[]) => void;
}) {
  const unused = names.filter((n) => !taken.some((t) => t.name === n));
  return (
    <Row label="Takes out of it">
      {taken.map((t, i) => (
        <span key={t.name} className="inline-flex items-center gap-1">
          {t.name} as{' '}
          <IntoInput
            label={`${t.name} is remembered as`}
            into={t.into}
            onChange={(into) =>
              onChange(into ? taken.map((x, j) => (j === i ? { ...t, into } : x)) : taken.filter((_, j) => j !== i))
            }
          />
          <Button
            small
            kind="quiet"
            aria-label={`Leave ${t.name}`}
            onClick={() => onChange(taken.filter((_, j) => j !== i))}
          >
            ×
          </Button>
        </span>
      ))}
      {unused.length > 0 && (
        <Select
          aria-label="Take an output"
          className="!w-36 !py-1 text-small"
          value=""
          onChange={(chosen) => {
            if (chosen) onChange([...taken, { name: chosen, into: { name: chosen, scope: 'conversation' } }]);
          }}
        >
          <option value="">take…</option>
          {options(unused)}
        </Select>
      )}
    </Row>
  );
}

function Slow({ step, onChange }: { step: Extract<Step, { verb: 'look-up' | 'do' }>; onChange: (step: Step) => void }) {
  return (
    <>
      <Row label="If slow, after">
        <Whole
          label="Seconds until it is slow"
          value={step.slowAfterSeconds}
          least={0}
          most={60}
          unit="s it says"
          onChange={(slowAfterSeconds) => onChange({ ...step, slowAfterSeconds })}
        />
      </Row>
      <WordingEditor label="If slow" rows={1} wording={step.slow} onChange={(slow) => onChange({ ...step, slow })} />
    </>
  );
}

export function LookUpEditor({ step, onChange }: Of<'look-up'>) {
  const { view } = useAround();
  const connectors = view.connectors.filter((c) => c.does === 'look-up');
  const source =
    step.source.from === 'connector' ? `connector:${step.source.connectorId}` : `table:${step.source.tableId}`;
  const connector =
    step.source.from === 'connector'
      ? view.connectors.find((c) => step.source.from === 'connector' && c.id === step.source.connectorId)
      : undefined;
  const table =
    step.source.from === 'table'
      ? view.tables.find((t) => step.source.from === 'table' && t.id === step.source.tableId)
      : undefined;
  return (
    <div className="flex flex-col gap-2">
      <Row label="Looks up in">
        <Select
          aria-label="Looked up in"
          className="!w-52 !py-1 text-small"
          value={source}
          onChange={(chosen) => {
            const [from, ...id] = chosen.split(':');
            onChange({
              ...step,
              source:
                from === 'table'
                  ? { from: 'table', tableId: id.join(':') }
                  : { from: 'connector', connectorId: id.join(':') },
              inputs: [],
              outputs: [],
            });
          }}
        >
          {!connector && !table && <option value={source}>gone</option>}
          <optgroup label="Connectors">
            {connectors.map((c) => (
              <option key={c.id} value={`connector:${c.id}`}>
                {c.name}
              </option>
            ))}
          </optgroup>
          <optgroup label="Tables">
            {view.tables.map((t) => (
              <option key={t.id} value={`table:${t.id}`}>
                {t.name}
              </option>
            ))}
          </optgroup>
        </Select>
        tried{' '}
        <Whole
          label="Tries of the look-up"
          value={step.tries}
          least={1}
          most={5}
          unit={step.tries === 1 ? 'time' : 'times'}
          onChange={(tries) => onChange({ ...step, tries })}
        />
      </Row>
      <Given
        label="Gives it"
        names={connector?.inputs ?? table?.columns.slice(0, 1) ?? []}
        given={step.inputs}
        onChange={(inputs) => onChange({ ...step, inputs })}
      />
      <Takes
        names={connector?.outputs ?? table?.columns ?? []}
        taken={step.outputs}
        onChange={(outputs) => onChange({ ...step, outputs })}
      />
      <Slow step={step} onChange={onChange} />
      <Row label="Found">
        <CueSelect
          label="Found goes to"
          cue={step.found}
          onChange={(found) => {
            if (found) onChange({ ...step, found });
          }}
        />{' '}
        not found{' '}
        <CueSelect
          label="Not found goes to"
          cue={step.notFound}
          onChange={(notFound) => {
            if (notFound) onChange({ ...step, notFound });
          }}
        />{' '}
        failed{' '}
        <CueSelect
          label="Failed goes to"
          cue={step.failed}
          none="nowhere yet"
          onChange={(failed) => onChange({ ...step, failed })}
        />
      </Row>
    </div>
  );
}

export function DoEditor({ step, onChange }: Of<'do'>) {
  const { view } = useAround();
  const connectors = view.connectors.filter((c) => c.does === 'do');
  const connector = connectors.find((c) => c.id === step.connectorId);
  return (
    <div className="flex flex-col gap-2">
      <Row label="Does">
        <Select
          aria-label="What is done"
          className="!w-52 !py-1 text-small"
          value={step.connectorId}
          onChange={(chosen) => onChange({ ...step, connectorId: chosen, inputs: [], outputs: [] })}
        >
          {!connector && <option value={step.connectorId}>gone</option>}
          {options(connectors)}
        </Select>{' '}
        <span className="text-tiny text-ink-3">sent once, never again by itself</span>
      </Row>
      <Given
        label="Gives it"
        names={connector?.inputs ?? []}
        given={step.inputs}
        onChange={(inputs) => onChange({ ...step, inputs })}
      />
      <Takes
        names={connector?.outputs ?? []}
        taken={step.outputs}
        onChange={(outputs) => onChange({ ...step, outputs })}
      />
      <Slow step={step} onChange={onChange} />
      <Row label="Done">
        <CueSelect
          label="Done goes to"
          cue={step.done}
          onChange={(done) => {
            if (done) onChange({ ...step, done });
          }}
        />{' '}
        refused{' '}
        <CueSelect
          label="Refused goes to"
          cue={step.refused}
          onChange={(refused) => {
            if (refused) onChange({ ...step, refused });
          }}
        />{' '}
        unsure{' '}
        <CueSelect
          label="Unsure goes to"
          cue={step.unsure}
          none="nowhere yet"
          onChange={(unsure) => onChange({ ...step, unsure })}
        />
      </Row>
    </div>
  );
}
