'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { Aside, Phrasebook } from '@/core/phrases/book';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { Empty } from '../../kit/panel';
import { options, Select } from '../../kit/select';

const NOBODY = '–';

/** Phrases that nobody teaches from, by which strangers are judged: picked from conversations, labelled by hand. */
export function AsideView({
  book,
  languages,
  mayChange,
  onChange,
}: {
  book: Phrasebook;
  languages: readonly string[];
  mayChange: boolean;
  onChange: (book: Phrasebook) => void;
}) {
  const put = (aside: readonly Aside[]) => onChange({ ...book, aside });
  const [text, setText] = useState('');
  const [language, setLanguage] = useState(languages[0] ?? 'en');
  const [intentId, setIntentId] = useState(NOBODY);
  const intentOptions = (
    <>
      <option value={NOBODY}>none of these</option>
      {book.intents.map((i) => (
        <option key={i.id} value={i.id}>
          {i.label}
        </option>
      ))}
    </>
  );
  return (
    <div className="flex flex-col gap-3 p-4 text-small">
      <p className="max-w-prose text-ink-2">
        Nothing is learnt from these. They say how customers who never saw your phrases are understood, on Quality and
        before something is taught. Take them from real conversations, under Not understood.
      </p>
      {mayChange && (
        <form
          className="grid grid-cols-[minmax(0,1fr)_130px_180px_auto] gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (!text.trim()) return;
            put([...book.aside, { text: text.trim(), language, intentId: intentId === NOBODY ? null : intentId }]);
            setText('');
          }}
        >
          <Input
            aria-label="Phrase to keep aside"
            maxLength={300}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <Select aria-label="Its language" value={language} onChange={setLanguage}>
            {options(languages, languageName)}
          </Select>
          <Select aria-label="Whose it is" value={intentId} onChange={setIntentId}>
            {intentOptions}
          </Select>
          <Button type="submit" small disabled={!text.trim()}>
            Keep aside
          </Button>
        </form>
      )}
      {book.aside.length === 0 ? (
        <Empty title="Nothing is kept aside yet">Thirty phrases say something; a hundred say it well.</Empty>
      ) : (
        <ul>
          {book.aside.map((a, i) => (
            <li key={`${i} ${a.text}`} className="flex items-center gap-2 border-t border-rule py-1">
              <span className="min-w-0 flex-1 truncate" lang={a.language}>
                {a.text}
              </span>
              <span className="text-tiny text-ink-2">{languageName(a.language)}</span>
              <Select
                aria-label={`Whose “${a.text}” is`}
                className="!w-44"
                disabled={!mayChange}
                value={a.intentId ?? NOBODY}
                onChange={(next) =>
                  put(book.aside.map((x, k) => (k === i ? { ...x, intentId: next === NOBODY ? null : next } : x)))
                }
              >
                {intentOptions}
              </Select>
              {mayChange && (
                <Button
                  small
                  kind="quiet"
                  aria-label={`Remove “${a.text}”`}
                  onClick={() => put(book.aside.filter((_, k) => k !== i))}
                >
                  Remove
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
