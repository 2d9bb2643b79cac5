'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { Phrasebook } from '@/core/phrases/book';
import type { Suggested } from '@/core/phrases/suggesting';
import type { SuggestedView } from '@/services/bots/otherwords';
import { Button } from '../../kit/button';
import { useLive } from '../../kit/live';
import { TeachDialog } from './teachdialog';

/**
 * Words that customers use and no phrase has, each beside the word of the book that it may stand for: looked at and
 * taken in one by one, for which it is a lead decides.
 */
export function SuggestedWords({
  book,
  revision,
  touched,
  onTaught,
}: {
  book: Phrasebook;
  revision: number;
  touched: boolean;
  onTaught: () => void;
}) {
  const { data, error } = useLive<SuggestedView>(`/api/read/other-words-suggested?revision=${revision}`, ['bot.heard']);
  const [open, setOpen] = useState<Suggested | null>(null);
  const label = (id: string) => book.intents.find((i) => i.id === id)?.label ?? id;
  const [phrase] = open?.phrases ?? [];
  return (
    <section aria-label="Suggested from what was not understood" className="rounded-control border border-rule">
      <h2 className="border-b border-rule bg-sunk px-3 py-1 text-small font-semibold">
        Suggested from what was not understood
      </h2>
      {error && !data ? (
        <p role="alert" className="px-3 py-2 text-clay">
          Nothing could be suggested: {error.message}
        </p>
      ) : !data ? (
        <p role="status" className="px-3 py-2 text-ink-2">
          Looking through what was not understood…
        </p>
      ) : data.suggested === null ? (
        <p role="status" className="px-3 py-2 text-ink-2">
          The book is being learnt. What may be suggested is here when it is.
        </p>
      ) : data.suggested.length === 0 ? (
        <p className="px-3 py-2 text-ink-2">
          No word that several such phrases have would make them understood in another’s place.
        </p>
      ) : (
        <table className="w-full">
          <thead className="text-left text-tiny text-ink-2">
            <tr>
              <th className="py-1 pl-3 font-normal">Customers say</th>
              <th className="font-normal">which may be</th>
              <th className="font-normal">so that it means</th>
              <th className="text-right font-normal">Said</th>
              <th className="text-right font-normal">Sure now</th>
              <th className="text-right font-normal">then</th>
              <th className="w-24" />
            </tr>
          </thead>
          <tbody>
            {data.suggested.map((s) => (
              <tr key={`${s.language} ${s.also}`} className="border-t border-rule" title={s.phrases[0]?.text}>
                <td className="py-1 pr-2 pl-3 font-semibold" lang={s.language}>
                  {s.also}
                </td>
                <td className="pr-2" lang={s.language}>
                  {s.word}
                </td>
                <td className="pr-2">{label(s.intentId)}</td>
                <td className="text-right tabular-nums">{s.times}×</td>
                <td className="text-right tabular-nums">{s.before.toFixed(2)}</td>
                <td className="text-right tabular-nums">{s.after.toFixed(2)}</td>
                <td className="pr-3 text-right">
                  <Button
                    small
                    disabled={touched}
                    title={touched ? 'Keep or forget your changes first' : undefined}
                    onClick={() => setOpen(s)}
                    aria-label={`Look at ${s.also} for ${s.word}`}
                  >
                    Look…
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {open && phrase && (
        <TeachDialog
          phrase={phrase}
          first={{ to: 'other-words', intentId: null, word: open.word, also: open.also }}
          book={book}
          revision={revision}
          onClose={(taught) => {
            setOpen(null);
            if (taught) toast.success(`${taught} Bots use it from when they are published next.`);
            onTaught();
          }}
        />
      )}
    </section>
  );
}
