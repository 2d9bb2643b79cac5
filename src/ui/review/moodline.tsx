'use client';

import { MOOD_WORDS, MOODS } from '@/core/mood/mood';
import type { ContactView } from '@/services/floor/contactview';
import { doing } from '../kit/doing';
import { Pill } from '../kit/panel';
import { options, Select } from '../kit/select';

export const MOOD_TONES = { upset: 'bad', even: 'plain', pleased: 'good' } as const;
const AS_JUDGED = 'judged';

/** How the customer seemed to feel, marked where nobody said so; `onChanged` is there for whoever may say otherwise. */
export function MoodLine({
  contactId,
  mood,
  onChanged,
}: {
  contactId: string;
  mood: ContactView['mood'];
  onChanged: (() => void) | null;
}) {
  const say = (chosen: string) =>
    void doing(
      'set-mood',
      { contactId, mood: chosen === AS_JUDGED ? null : chosen },
      chosen === AS_JUDGED ? 'What was judged holds again.' : 'It is kept; figures go by it.',
    ).then((done) => {
      if (done) onChanged?.();
    });
  if (mood === null && onChanged === null) return null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2 text-small text-ink-2">
      {mood === null ? (
        'Nothing tells how the customer felt.'
      ) : (
        <>
          The customer seemed <Pill tone={MOOD_TONES[mood.mood]}>{MOOD_WORDS[mood.mood]}</Pill>
          {mood.by === null ? 'judged automatically by their words' : `said by ${mood.by}`}
        </>
      )}
      {onChanged && (
        <Select compact aria-label="How the customer felt" className="ml-auto" value="" onChange={say}>
          <option value="">Say otherwise…</option>
          {options(
            MOODS.filter((one) => one !== mood?.mood),
            (one) => `They were ${MOOD_WORDS[one]}`,
          )}
          {mood?.by && <option value={AS_JUDGED}>As it was judged</option>}
        </Select>
      )}
    </div>
  );
}
