'use client';

import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Phrasebook } from '@/core/phrases/book';
import { MOST_WORDS } from '@/core/phrases/otherwords';
import type { UnheardLine } from '@/services/bots/phrasebook';
import type { Effect } from '@/services/bots/teaching';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Field, Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { Learning } from './learning';

/** Where a phrase goes. */
export type Teaching = {
  readonly to: 'intent' | 'other-words' | 'aside';
  readonly intentId: string | null;
  readonly word: string | null;
  readonly also: string | null;
};
const NOBODY = '–';
const complete = (t: Teaching): boolean =>
  t.to === 'intent' ? t.intentId !== null : t.to === 'aside' || Boolean(t.word?.trim() && t.also?.trim());

/** Teaches from a phrase, once it was seen what that does to the phrases kept aside. */
export function TeachDialog({
  phrase,
  first,
  book,
  revision,
  onClose,
}: {
  phrase: Pick<UnheardLine, 'id' | 'text' | 'language'>;
  first: Teaching;
  book: Phrasebook;
  revision: number;
  onClose: (taught: string | null) => void;
}) {
  const [teaching, setTeaching] = useState(first);
  const [effect, setEffect] = useState<Effect | null>(null);
  const [state, setState] = useState<'still' | 'looking' | 'keeping'>('still');
  const shows = book.aside.length > 0 && teaching.to !== 'aside';
  const send = (look: boolean) =>
    setting<{ effect: Effect | null }>('teach-phrase', { unheardId: phrase.id, ...teaching, look, revision });
  const chosen = JSON.stringify(teaching);
  useEffect(() => {
    setEffect(null);
    if (!shows || !complete(teaching)) return setState('still');
    let gone = false;
    setState('looking');
    const soon = setTimeout(() => {
      send(true).then(
        (out) => {
          if (gone) return;
          setEffect(out.effect);
          setState('still');
        },
        (error: unknown) => {
          if (gone) return;
          setState('still');
          toast.error(sentence(error));
        },
      );
    }, 300);
    return () => {
      gone = true;
      clearTimeout(soon);
    };
    // What is chosen is all that this goes by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen, shows]);
  const keep = async () => {
    setState('keeping');
    try {
      await send(false);
      onClose(
        teaching.to === 'intent'
          ? `${book.intents.find((i) => i.id === teaching.intentId)?.label ?? ''} has learnt it.`
          : teaching.to === 'aside'
            ? 'It is kept aside.'
            : `It is other words for ${teaching.word ?? ''}.`,
      );
    } catch (error) {
      toast.error(sentence(error));
      setState('still');
    }
  };
  return (
    <Dialog open onClose={() => onClose(null)} title="Teach from this phrase" description={`“${phrase.text}”`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        <Field label="It">
          {(p) => (
            <Select
              {...p}
              value={teaching.to}
              onChange={(to) => setTeaching({ ...teaching, to: to as Teaching['to'] })}
            >
              <option value="intent">teaches an intent</option>
              <option value="other-words">says a word of ours another way</option>
              <option value="aside">is kept aside, to judge by</option>
            </Select>
          )}
        </Field>
        {teaching.to === 'other-words' ? (
          <div className="grid grid-cols-2 gap-3">
            <Field label="Other words" hint={`up to ${MOST_WORDS} of the phrase’s`}>
              {(p) => (
                <Input
                  {...p}
                  lang={phrase.language}
                  maxLength={80}
                  value={teaching.also ?? ''}
                  onChange={(e) => setTeaching({ ...teaching, also: e.target.value })}
                />
              )}
            </Field>
            <Field label="for" hint="a word of the book’s phrases">
              {(p) => (
                <Input
                  {...p}
                  maxLength={80}
                  value={teaching.word ?? ''}
                  onChange={(e) => setTeaching({ ...teaching, word: e.target.value })}
                />
              )}
            </Field>
          </div>
        ) : (
          <Field label="Intent">
            {(p) => (
              <Select
                {...p}
                value={teaching.intentId ?? NOBODY}
                onChange={(id) => setTeaching({ ...teaching, intentId: id === NOBODY ? null : id })}
              >
                <option value={NOBODY}>{teaching.to === 'aside' ? 'none of these' : 'choose…'}</option>
                {book.intents.map((i) => (
                  <option key={i.id} value={i.id}>
                    {i.label}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <p aria-live="polite" className="min-h-10 text-small text-ink-2">
          {!shows
            ? book.aside.length === 0 && 'Nothing is kept aside yet, so what it does cannot be judged.'
            : state === 'looking'
              ? 'Seeing what it does to the phrases kept aside…'
              : effect && <EffectWords effect={effect} book={book} />}
        </p>
        {state !== 'still' && <Learning says={state === 'keeping' ? 'Learning' : 'Trying it'} />}
        <div className="flex gap-2">
          <Button type="submit" kind="primary" disabled={!complete(teaching) || state !== 'still'}>
            {state === 'keeping' ? 'Learning…' : 'Keep and learn'}
          </Button>
          <Button onClick={() => onClose(null)}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

function EffectWords({ effect, book }: { effect: Effect; book: Phrasebook }) {
  const label = (id: string | null) => book.intents.find((i) => i.id === id)?.label ?? 'none of these';
  return (
    <>
      Of {effect.of} kept aside, {effect.before} are right now and {effect.after} would be.
      {effect.moved.slice(0, 3).map((j) => (
        <span key={j.text} className="block text-tiny">
          “{j.text}” would be {label(j.first)} ({j.first === j.intentId ? 'right' : 'wrong'}).
        </span>
      ))}
    </>
  );
}
