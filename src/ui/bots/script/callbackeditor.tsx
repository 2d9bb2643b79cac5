'use client';

import { useState } from 'react';
import { NO_WORDING } from '@/core/bots/model';
import { CALLBACK_PARTS, CALLBACK_SENTENCES } from '@/core/callbacks/sentences';
import { Check } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import type { Of } from './editing';
import { PassedFields } from './passedfields';
import { Pick } from './pick';
import { Row, ValueInput, Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

/** A call back: whose people call, which number and times are offered, and what is said on the way. */
export function CallBackEditor({ step, onChange }: Of<'call-back'>) {
  const { view } = useAround();
  const own = CALLBACK_SENTENCES.filter((id) => Object.values(step.sentences[id]?.text ?? {}).some(Boolean));
  // Folded or not as it was found: not by what is written or taken out meanwhile.
  const [unfolded] = useState(own.length > 0);
  return (
    <div className="flex flex-col gap-2.5">
      <Row label="Called by">
        <Pick
          label="Queue that calls"
          value={step.queueId}
          from={view.queues.filter((q) => q.channels.includes('voice') || q.id === step.queueId)}
          onChange={(queueId) => onChange({ ...step, queueId })}
        />
      </Row>
      <Row label="Tried">
        <Select
          aria-label="Attempts"
          className="!w-52 !py-1 text-small"
          value={step.attempts ?? ''}
          onChange={(chosen) => onChange({ ...step, attempts: chosen === '' ? null : Number(chosen) })}
        >
          <option value="">as often as the queue says</option>
          {Array.from({ length: 10 }, (_, n) => (
            <option key={n} value={n + 1}>
              {n === 0 ? 'once' : `${n + 1} times`}
            </option>
          ))}
        </Select>
      </Row>
      <Row label="Offers first">
        <ValueInput
          label="Number offered first, from a value"
          name={step.number ?? ''}
          placeholder="their own number"
          onChange={(name) => onChange({ ...step, number: name || null })}
        />
        <span className="text-ink-2">or another, read back and proven by a code</span>
      </Row>
      <Row label="Times">
        <Check
          checked={step.soon}
          label="as soon as possible"
          onChange={(e) => onChange({ ...step, soon: e.target.checked })}
        />
      </Row>
      <Row label="Windows">
        <Whole
          label="Windows offered"
          value={step.windows}
          least={0}
          most={6}
          unit="of two hours"
          onChange={(windows) => onChange({ ...step, windows })}
        />
        <span className="text-ink-2">while it is open</span>
      </Row>
      <PassedFields fields={step.fields} onChange={(fields) => onChange({ ...step, fields })} />
      <Row label="Nothing comes of it">
        <CueSelect
          label="Nothing comes of it goes to"
          cue={step.otherwise}
          onChange={(otherwise) => {
            if (otherwise) onChange({ ...step, otherwise });
          }}
        />
      </Row>
      <details open={unfolded}>
        <summary className="text-small font-medium">
          Sentences{' '}
          <span className="font-normal text-ink-2">
            {own.length === 0 ? 'as the queue says them' : `${own.length} of its own`}
          </span>
        </summary>
        <div className="mt-2 flex flex-col gap-2">
          {CALLBACK_SENTENCES.map((id) => (
            <WordingEditor
              key={id}
              label={CALLBACK_PARTS[id].part}
              note={CALLBACK_PARTS[id].places.map((place) => `{${place}}`).join(' ')}
              wording={step.sentences[id] ?? NO_WORDING}
              onChange={(wording) => onChange({ ...step, sentences: { ...step.sentences, [id]: wording } })}
            />
          ))}
        </div>
      </details>
    </div>
  );
}
