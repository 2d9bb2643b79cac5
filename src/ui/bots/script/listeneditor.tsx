'use client';

import { newChoice } from '@/core/bots/edit';
import type { Asked } from '@/core/bots/model';
import { newKey } from '../../kit/call';
import { Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround } from './around';
import { Choices, Notices } from './choiceseditor';
import { CueSelect } from './cueselect';
import type { Of } from './editing';
import { IntoInput, Row, Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

const TYPES: Readonly<Record<Asked['type'], string>> = {
  text: 'whatever they say',
  whole: 'a whole number',
  date: 'a date',
  time: 'a time of day',
  'yes-no': 'yes or no',
  telephone: 'a telephone number',
  email: 'a mail address',
  pattern: 'something of a pattern',
  listed: 'a thing of a list',
};

const newAsked = (type: Asked['type'], listId: string): Asked =>
  type === 'whole'
    ? { type, least: null, most: null }
    : type === 'pattern'
      ? { type, pattern: '[A-Z]{2}-?\\d{6}', example: '' }
      : type === 'listed'
        ? { type, listId }
        : { type };

export function ListenEditor({ step, onChange }: Of<'listen'>) {
  const { view } = useAround();
  const { hears } = step;
  const kind = hears.kind === 'choices' ? 'choices' : hears.asked.type;
  const setAsked = (asked: Asked) => onChange({ ...step, hears: { kind: 'value', asked } });
  const listId = view.lists[0]?.id ?? '';
  return (
    <div className="flex flex-col gap-2.5">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="Listens for">
        <Select
          aria-label="Listens for"
          className="!w-52 !py-1 text-small"
          value={kind}
          onChange={(chosen) => {
            const type = chosen;
            onChange({
              ...step,
              hears:
                type === 'choices'
                  ? { kind: 'choices', choices: [newChoice(newKey(), '1')] }
                  : { kind: 'value', asked: newAsked(type as Asked['type'], listId) },
            });
          }}
        >
          <option value="choices">one of several choices</option>
          {(Object.keys(TYPES) as Asked['type'][])
            .filter((t) => t !== 'listed' || view.lists.length > 0)
            .map((t) => (
              <option key={t} value={t}>
                {TYPES[t]}
              </option>
            ))}
        </Select>
        {hears.kind === 'value' && hears.asked.type === 'whole' && <Bounds asked={hears.asked} onChange={setAsked} />}
        {hears.kind === 'value' && hears.asked.type === 'pattern' && (
          <Pattern asked={hears.asked} onChange={setAsked} />
        )}
        {hears.kind === 'value' && hears.asked.type === 'listed' && (
          <Select
            aria-label="List"
            className="!w-40 !py-1 text-small"
            value={hears.asked.listId}
            onChange={(chosen) => setAsked({ type: 'listed', listId: chosen })}
          >
            {view.lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.label}
              </option>
            ))}
          </Select>
        )}
        as <IntoInput label="Remember it as" into={step.into} onChange={(into) => onChange({ ...step, into })} />
      </Row>
      {hears.kind === 'choices' && <Choices step={step} choices={hears.choices} onChange={onChange} />}
      <Notices step={step} onChange={onChange} />
      <Row label="Asks">
        <Whole
          label="Tries"
          value={step.tries}
          least={1}
          most={9}
          unit={step.tries === 1 ? 'time,' : 'times,'}
          onChange={(tries) => onChange({ ...step, tries })}
        />{' '}
        silence after{' '}
        <Whole
          label="Seconds of silence"
          value={step.silenceSeconds}
          least={2}
          most={60}
          unit="s,"
          onChange={(silenceSeconds) => onChange({ ...step, silenceSeconds })}
        />{' '}
        anything else{' '}
        <CueSelect
          label="Anything else goes to"
          cue={step.otherwise}
          none="nowhere yet"
          onChange={(otherwise) => onChange({ ...step, otherwise })}
        />
      </Row>
      <details open={Object.values(step.again.text).some(Boolean) || Object.values(step.silent.text).some(Boolean)}>
        <summary className="cursor-pointer text-small text-ink-2">
          Wording when not understood, and after silence
        </summary>
        <div className="mt-1.5 flex flex-col gap-2">
          <WordingEditor
            label="When not understood"
            rows={1}
            wording={step.again}
            onChange={(again) => onChange({ ...step, again })}
          />
          <WordingEditor
            label="After silence"
            rows={1}
            wording={step.silent}
            onChange={(silent) => onChange({ ...step, silent })}
          />
        </div>
      </details>
    </div>
  );
}

function Bounds({ asked, onChange }: { asked: Extract<Asked, { type: 'whole' }>; onChange: (asked: Asked) => void }) {
  const bound = (label: string, key: 'least' | 'most') => (
    <Input
      aria-label={label}
      type="number"
      placeholder={key}
      className="!w-24 !py-1 text-right text-small"
      value={asked[key] ?? ''}
      onChange={(e) =>
        onChange({ ...asked, [key]: Number.isNaN(e.target.valueAsNumber) ? null : Math.round(e.target.valueAsNumber) })
      }
    />
  );
  return (
    <>
      from {bound('At least', 'least')} to {bound('At most', 'most')}
    </>
  );
}

const Pattern = ({
  asked,
  onChange,
}: {
  asked: Extract<Asked, { type: 'pattern' }>;
  onChange: (asked: Asked) => void;
}) => (
  <>
    <Input
      aria-label="Pattern (RE2)"
      className="!w-44 !py-1 font-mono text-small"
      value={asked.pattern}
      onChange={(e) => onChange({ ...asked, pattern: e.target.value })}
    />{' '}
    such as{' '}
    <Input
      aria-label="Example of the pattern"
      className="!w-32 !py-1 text-small"
      value={asked.example}
      onChange={(e) => onChange({ ...asked, example: e.target.value })}
    />
  </>
);
