'use client';

import { useEffect, useState } from 'react';
import type { ArticleEffect } from '@/services/bots/articles';
import { sentence, setting } from '../../kit/call';
import { askedOf, type Draft } from './articledraft';

/** How long nobody has typed before it is looked at, ms. */
const PAUSE = 500;

/** What the article as it is written does to the kept questions of its language; nothing while there are none. */
export function ArticleEffectOf({ draft }: { draft: Draft }) {
  const [effect, setEffect] = useState<ArticleEffect | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const { id, name, language, text } = draft;
  const asked = JSON.stringify({ id, name, language, text, asks: askedOf(draft).slice(0, 40) });
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      setting<ArticleEffect>('look-at-article', JSON.parse(asked) as object).then(
        (found) => {
          if (over) return;
          setEffect(found);
          setFault(null);
        },
        (error: unknown) => {
          if (!over) setFault(sentence(error));
        },
      );
    }, PAUSE);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [asked]);
  if (fault)
    return (
      <p role="alert" className="text-small text-clay">
        {fault}
      </p>
    );
  if (!effect || effect.of === 0) return null;
  return (
    <div role="status" className="rounded-control bg-sunk px-3 py-2 text-small">
      Of {effect.of} kept {effect.of === 1 ? 'question' : 'questions'}, {effect.before}{' '}
      {effect.before === 1 ? 'is' : 'are'} answered by the right article now and {effect.after} would be.
      {effect.elsewhere.length > 0 && (
        <ul className="mt-1">
          {effect.elsewhere.slice(0, 12).map((q) => (
            <li key={`${q.should} ${q.question}`}>
              “{q.question}”: {q.before ?? 'nothing'}
              {q.after === q.before ? ', as before' : ` → ${q.after ?? 'nothing'}`}
              <span className="text-ink-2">; should be {q.should}</span>
            </li>
          ))}
          {effect.elsewhere.length > 12 && <li className="text-ink-2">and {effect.elsewhere.length - 12} more</li>}
        </ul>
      )}
    </div>
  );
}
