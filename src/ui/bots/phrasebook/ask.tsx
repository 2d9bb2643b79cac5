'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { Ranked } from '@/services/bots/phrasebook';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Input } from '../../kit/field';
import { Panel } from '../../kit/panel';
import { options, Select } from '../../kit/select';

const VERDICTS = {
  act: { words: 'goes by the first', tone: 'text-moss-ink' },
  ask: { words: 'asks which of the first two', tone: 'text-brass-ink' },
  none: { words: 'none of these', tone: 'text-clay' },
} as const;

export function Ask({ languages, touched }: { languages: readonly string[]; touched: boolean }) {
  const [text, setText] = useState('');
  const [language, setLanguage] = useState(languages[0] ?? 'en');
  const [ranked, setRanked] = useState<Ranked | null>(null);
  const ask = async () => {
    try {
      setRanked(await setting<Ranked>('rank-phrase', { text: text.trim(), language }));
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <Panel label="Try a phrase" className="self-start p-4">
      <h2 className="mb-2 text-panel">Try a phrase</h2>
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) void ask();
        }}
      >
        <Input
          aria-label="Phrase"
          placeholder="what a customer might say"
          maxLength={300}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <div className="flex gap-2">
          <Select
            aria-label="Language of the phrase"
            className="!w-32"
            value={language}
            onChange={(chosen) => setLanguage(chosen)}
          >
            {options(languages, languageName)}
          </Select>
          <Button type="submit" disabled={!text.trim()}>
            Ask
          </Button>
        </div>
      </form>
      {touched && <p className="mt-2 text-tiny text-ink-3">Asked of the book as it is kept.</p>}
      {ranked && (
        <div aria-live="polite" className="mt-3">
          <p className={`mb-1 text-small font-semibold ${VERDICTS[ranked.verdict].tone}`}>
            {VERDICTS[ranked.verdict].words}
          </p>
          <ul className="text-small">
            {ranked.ranked.slice(0, 4).map((r) => (
              <li key={r.intentId} className="flex items-center gap-2 py-0.5">
                <span className="w-36 truncate">{r.label}</span>
                <span className="h-2 flex-1 rounded-full bg-sunk">
                  <span className="block h-2 rounded-full bg-plum" style={{ width: `${r.confidence * 100}%` }} />
                </span>
                <span className="w-9 text-right">{r.confidence.toFixed(2)}</span>
              </li>
            ))}
          </ul>
          {ranked.things.length > 0 && (
            <p className="mt-1 text-small">
              {ranked.things.map((t) => (
                <span key={t.list} className="mr-1 rounded bg-brass-wash px-1.5 text-brass-ink">
                  {t.list} = {t.thing}
                </span>
              ))}
            </p>
          )}
        </div>
      )}
    </Panel>
  );
}
