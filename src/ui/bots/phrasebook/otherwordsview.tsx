'use client';

import { type ReactNode, useState } from 'react';
import { languageName } from '@/core/localised';
import type { OtherWords, Phrasebook } from '@/core/phrases/book';
import { MOST_WORDS } from '@/core/phrases/otherwords';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { Empty } from '../../kit/panel';
import { options, Select } from '../../kit/select';

const words = (text: string): number => text.trim().split(/\s+/).filter(Boolean).length;
const listed = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((w) => w.trim())
      .filter(Boolean),
  ),
];

/** What a business says its own way: other words for those that its phrases use, per language. */
export function OtherWordsView({
  book,
  languages,
  mayChange,
  suggested,
  onChange,
}: {
  book: Phrasebook;
  languages: readonly string[];
  mayChange: boolean;
  /** What is suggested to whoever may see it. */ suggested: ReactNode;
  onChange: (book: Phrasebook) => void;
}) {
  const put = (otherWords: readonly OtherWords[]) => onChange({ ...book, otherWords });
  return (
    <div className="flex flex-col gap-3 p-4 text-small">
      <p className="max-w-prose text-ink-2">
        Customers call things by other names than your phrases do. Each way of saying it, of up to {MOST_WORDS} words,
        is read as the word it stands for, before anything is understood.
      </p>
      {suggested}
      {book.otherWords.length === 0 && (
        <Empty title="No other words yet">
          Such as the short name of a product, a trade’s word for a thing, or how a region says it.
        </Empty>
      )}
      {book.otherWords.length > 0 && (
        <table className="w-full">
          <thead className="text-left text-tiny text-ink-2">
            <tr>
              <th className="w-40 py-1 font-normal">Language</th>
              <th className="w-56 font-normal">Word of your phrases</th>
              <th className="font-normal">Other words for it, with commas between</th>
              <th className="w-24" />
            </tr>
          </thead>
          <tbody>
            {book.otherWords.map((o, i) => (
              <Row
                // What was taught meanwhile stands here too, and is not written over.
                key={`${i} ${o.word} ${o.language} ${o.also.join()}`}
                of={o}
                languages={languages}
                mayChange={mayChange}
                onChange={(next) => put(book.otherWords.map((x, k) => (k === i ? next : x)))}
                onRemove={() => put(book.otherWords.filter((_, k) => k !== i))}
              />
            ))}
          </tbody>
        </table>
      )}
      {mayChange && <NewRow languages={languages} onAdd={(o) => put([...book.otherWords, o])} />}
    </div>
  );
}

function Row({
  of,
  languages,
  mayChange,
  onChange,
  onRemove,
}: {
  of: OtherWords;
  languages: readonly string[];
  mayChange: boolean;
  onChange: (next: OtherWords) => void;
  onRemove: () => void;
}) {
  const [also, setAlso] = useState(of.also.join(', '));
  const tooLong = listed(also).find((w) => words(w) > MOST_WORDS);
  return (
    <tr className="border-t border-rule">
      <td className="py-1 pr-2">
        <Select
          aria-label={`Language of other words for ${of.word}`}
          disabled={!mayChange}
          value={of.language}
          onChange={(language) => onChange({ ...of, language })}
        >
          {options([...new Set([...languages, of.language])], languageName)}
        </Select>
      </td>
      <td className="pr-2 font-semibold">{of.word}</td>
      <td className="pr-2">
        <Input
          aria-label={`Other words for ${of.word}`}
          lang={of.language}
          disabled={!mayChange}
          aria-invalid={tooLong !== undefined}
          value={also}
          onChange={(e) => setAlso(e.target.value)}
          onBlur={() => {
            const next = listed(also);
            if (next.length > 0 && !tooLong && next.join() !== of.also.join()) onChange({ ...of, also: next });
          }}
        />
        {tooLong && (
          <p role="alert" className="text-tiny text-clay">
            “{tooLong}” has more than {MOST_WORDS} words.
          </p>
        )}
      </td>
      <td className="text-right">
        {mayChange && (
          <Button small kind="quiet" aria-label={`Remove other words for ${of.word}`} onClick={onRemove}>
            Remove
          </Button>
        )}
      </td>
    </tr>
  );
}

function NewRow({ languages, onAdd }: { languages: readonly string[]; onAdd: (o: OtherWords) => void }) {
  const [language, setLanguage] = useState(languages[0] ?? 'en');
  const [word, setWord] = useState('');
  const [also, setAlso] = useState('');
  const ways = listed(also);
  const fits =
    word.trim() !== '' && words(word) <= MOST_WORDS && ways.length > 0 && ways.every((w) => words(w) <= MOST_WORDS);
  return (
    <form
      className="grid grid-cols-[150px_220px_minmax(0,1fr)_auto] items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!fits) return;
        onAdd({ word: word.trim(), language, also: ways });
        setWord('');
        setAlso('');
      }}
    >
      <Select aria-label="Language of new other words" value={language} onChange={setLanguage}>
        {options(languages, languageName)}
      </Select>
      <Input
        aria-label="Word that has other words"
        placeholder="word"
        value={word}
        onChange={(e) => setWord(e.target.value)}
      />
      <Input
        aria-label="Its other words"
        placeholder="other word, another way"
        value={also}
        onChange={(e) => setAlso(e.target.value)}
      />
      <Button type="submit" small disabled={!fits}>
        Add
      </Button>
    </form>
  );
}
