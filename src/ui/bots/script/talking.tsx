'use client';

import { options, Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import type { Of } from './editing';
import { Row, ValueInput, Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

export const EndEditor = ({ step, onChange }: Of<'end'>) => (
  <WordingEditor label="Last words" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
);

export function TextThemEditor({ step, onChange }: Of<'text-them'>) {
  return (
    <div className="flex flex-col gap-2">
      <Row label="Sends an SMS">
        <Select
          aria-label="When the text is sent"
          className="!w-48 !py-1 text-small"
          value={step.when}
          onChange={(chosen) => onChange({ ...step, when: chosen === 'after' ? 'after' : 'now' })}
        >
          <option value="now">now</option>
          <option value="after">after the contact</option>
        </Select>
        to{' '}
        <ValueInput
          label="Number to text, from a value"
          name={step.to ?? ''}
          placeholder="their own number"
          onChange={(name) => onChange({ ...step, to: name || null })}
        />
      </Row>
      <WordingEditor label="Text" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
    </div>
  );
}

export function TakeMessageEditor({ step, onChange }: Of<'take-message'>) {
  const { view } = useAround();
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="Becomes work for">
        <Select
          aria-label="Queue of the message"
          className="!w-52 !py-1 text-small"
          value={step.queueId}
          onChange={(chosen) => onChange({ ...step, queueId: chosen })}
        >
          {!view.queues.some((q) => q.id === step.queueId) && <option value={step.queueId}>gone</option>}
          {options(view.queues)}
        </Select>
      </Row>
    </div>
  );
}

export function ArticlesEditor({ step, onChange }: Of<'articles'>) {
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="May be asked">
        <Whole
          label="Tries"
          value={step.tries}
          least={1}
          most={9}
          unit="times"
          onChange={(tries) => onChange({ ...step, tries })}
        />{' '}
        silence after{' '}
        <Whole
          label="Seconds of silence"
          value={step.silenceSeconds}
          least={2}
          most={60}
          unit="s"
          onChange={(silenceSeconds) => onChange({ ...step, silenceSeconds })}
        />
      </Row>
      <Row label="Answered">
        <CueSelect
          label="Answered goes to"
          cue={step.done}
          onChange={(done) => {
            if (done) onChange({ ...step, done });
          }}
        />
      </Row>
      <Row label="Nothing fits">
        <CueSelect
          label="Nothing fits goes to"
          cue={step.nothing}
          onChange={(nothing) => {
            if (nothing) onChange({ ...step, nothing });
          }}
        />
      </Row>
    </div>
  );
}
