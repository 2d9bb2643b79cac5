'use client';

import { type FormEvent, useState } from 'react';
import type { ChangesView } from '@/services/review/changes';
import { Button } from '../kit/button';
import { DateField } from '../kit/datefield';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';
import { asShortDay } from '../kit/figures';
import { Picks } from '../kit/picks';
import { options, Select } from '../kit/select';

const WORDS = {
  campaign: 'a campaign',
  outage: 'an outage',
  holiday: 'a holiday',
  situation: 'another situation',
} as const;

/** Days that were not like others, named; whoever may changes marks them. `onChanged` reads what changed anew. */
export function MarkedDays({ view, from, onChanged }: { view: ChangesView; from: string; onChanged: () => void }) {
  const [marking, setMarking] = useState(false);
  if (view.marked.length === 0 && !view.mayMark) return null;
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-small text-ink-2 print:block">
      {view.marked.length > 0 && <span>Left out:</span>}
      {view.marked.map((mark) => (
        <span key={mark.id} className="inline-flex items-center gap-1 rounded-full bg-brass-wash px-2.5 text-brass-ink">
          {asShortDay(mark.from)}
          {mark.to === mark.from ? '' : ` – ${asShortDay(mark.to)}`}: {mark.words}
          {mark.queues.length > 0 && ` (${mark.queues.join(', ')})`}
          {view.mayMark && (
            <button
              type="button"
              aria-label={`No longer mark ${mark.words}`}
              onClick={() =>
                void doing('unmark-days', { id: mark.id }, `${mark.words} is no longer marked.`).then(onChanged)
              }
            >
              ×
            </button>
          )}
        </span>
      ))}
      {view.mayMark && (
        <button type="button" className="text-plum underline print:hidden" onClick={() => setMarking(true)}>
          Mark days that were not like others…
        </button>
      )}
      {marking && <Mark from={from} queues={view.queues} onClose={() => setMarking(false)} onChanged={onChanged} />}
    </div>
  );
}

function Mark({
  from,
  queues,
  onClose,
  onChanged,
}: {
  from: string;
  queues: ChangesView['queues'];
  onClose: () => void;
  onChanged: () => void;
}) {
  const [touched, setTouched] = useState<readonly string[]>([]);
  const [days, setDays] = useState({ from, to: from });
  const [what, setWhat] = useState<keyof typeof WORDS>('campaign');
  const [words, setWords] = useState('');
  const mark = (event: FormEvent) => {
    event.preventDefault();
    onClose();
    void doing(
      'mark-days',
      { ...days, what, words: words.trim(), queueIds: touched },
      `${words.trim()} is marked.`,
    ).then(onChanged);
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Mark days"
      description="For everybody: when ranges are compared, these days are left out and named. Figures keep them."
    >
      <form onSubmit={mark}>
        <div className="grid grid-cols-2 gap-3">
          <Field label="From">
            {(p) => (
              <DateField
                {...p}
                value={days.from}
                onChange={(day) => setDays({ from: day, to: day > days.to ? day : days.to })}
              />
            )}
          </Field>
          <Field label="To">
            {(p) => <DateField {...p} value={days.to} onChange={(day) => setDays({ ...days, to: day })} />}
          </Field>
        </div>
        <Field label="What was going on">
          {(p) => (
            <Select {...p} value={what} onChange={(value) => setWhat(value as keyof typeof WORDS)}>
              {options(Object.keys(WORDS) as (keyof typeof WORDS)[], (one) => WORDS[one])}
            </Select>
          )}
        </Field>
        <Field label="In words">
          {(p) => <Input {...p} required maxLength={80} value={words} onChange={(e) => setWords(e.target.value)} />}
        </Field>
        <Picks
          label="Which queues it touched"
          of={queues}
          picked={touched}
          onPicked={setTouched}
          takeOut={(queue) => `It did not touch ${queue}`}
          add="Only some queues…"
          none="It touched all that came"
        />
        <div className="mt-3 flex gap-2">
          <Button
            kind="primary"
            type="submit"
            disabled={words.trim() === '' || days.from === '' || days.to < days.from}
          >
            Mark
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
