'use client';

import { clsx } from 'clsx';
import { type FormEvent, useState } from 'react';
import { type Mark, MARKS, type RatingPoint, scoreOf } from '@/core/people/coaching';
import type { RatingView } from '@/services/coaching/coachingviews';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Area, Check, Field } from '../kit/field';
import { asShare } from '../kit/figures';
import { Select } from '../kit/select';
import { MARK_WORDS } from './said';

type One = { readonly id: string; readonly name: string };

/** Rates a conversation by the workspace's points. One's own rating, where there is one, is there to be changed. */
export function RateDialog({
  people,
  contactId,
  points,
  ratings,
  onClose,
  onChanged,
}: {
  people: readonly One[];
  contactId: string;
  points: readonly RatingPoint[];
  ratings: readonly RatingView[];
  onClose: () => void;
  onChanged: () => void;
}) {
  const mine = (personId: string) => ratings.find((r) => r.mine && r.personId === personId);
  const marksOf = (personId: string): Readonly<Record<string, Mark>> =>
    Object.fromEntries((mine(personId)?.marks ?? []).map((m) => [m.pointId, m.mark]));
  const first = people[0]?.id ?? '';
  const [personId, setPersonId] = useState(first);
  const [marks, setMarks] = useState(marksOf(first));
  const [words, setWords] = useState(mine(first)?.words ?? '');
  const [shared, setShared] = useState(mine(first)?.shared ?? true);
  const name = people.find((p) => p.id === personId)?.name ?? '';
  const given = points.flatMap((point) => {
    const mark = marks[point.id];
    return mark ? [{ pointId: point.id, mark }] : [];
  });
  const score = scoreOf(given);
  const choose = (id: string) => {
    setPersonId(id);
    setMarks(marksOf(id));
    setWords(mine(id)?.words ?? '');
    setShared(mine(id)?.shared ?? true);
  };
  const rate = (event: FormEvent) => {
    event.preventDefault();
    void doing(
      'rate-contact',
      { contactId, personId, marks: given, words: words.trim(), shared },
      'The rating is kept.',
    ).then((done) => {
      if (!done) return;
      onClose();
      onChanged();
    });
  };
  return (
    <Dialog
      open
      onClose={onClose}
      wide
      title={`Rate how ${name} handled it`}
      description="Met counts whole, partly half, missed nothing; what did not come up is left out."
    >
      <form onSubmit={rate} className="flex flex-col gap-3">
        {people.length > 1 && (
          <Field label="Whose turn">
            {(p) => (
              <Select {...p} value={personId} onChange={choose}>
                {people.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <div className="flex flex-col">
          {points.map((point) => (
            <fieldset key={point.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
              <legend className="float-left min-w-0 flex-1 basis-60">
                <span className="block text-small font-medium">{point.name}</span>
                <span className="block text-tiny text-ink-2">{point.words}</span>
              </legend>
              <span className="flex gap-1">
                {MARKS.map((mark) => (
                  <label
                    key={mark}
                    className={clsx(
                      'cursor-pointer rounded-control border px-2 py-0.5 text-small has-focus-visible:outline-2 has-focus-visible:outline-plum',
                      marks[point.id] === mark
                        ? 'border-plum bg-plum-wash font-semibold text-plum'
                        : 'border-rule-strong hover:bg-sunk',
                    )}
                  >
                    <input
                      type="radio"
                      name={point.id}
                      className="sr-only"
                      checked={marks[point.id] === mark}
                      onChange={() => setMarks({ ...marks, [point.id]: mark })}
                    />
                    {MARK_WORDS[mark]}
                  </label>
                ))}
              </span>
            </fieldset>
          ))}
        </div>
        <Field label="In words">
          {(p) => <Area {...p} rows={3} maxLength={2000} value={words} onChange={(e) => setWords(e.target.value)} />}
        </Field>
        <Check label={`${name} reads it too`} checked={shared} onChange={(e) => setShared(e.target.checked)} />
        <div className="flex items-center gap-2">
          <Button kind="primary" type="submit" disabled={score === null}>
            Keep the rating
          </Button>
          <Button onClick={onClose}>Cancel</Button>
          <span className="ml-auto font-display font-semibold" aria-live="polite">
            {asShare(score)}
          </span>
        </div>
      </form>
    </Dialog>
  );
}
