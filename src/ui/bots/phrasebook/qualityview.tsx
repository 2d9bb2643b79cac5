'use client';

import { useEffect, useState } from 'react';
import type { Phrasebook } from '@/core/phrases/book';
import type { Quality } from '@/core/phrases/quality';
import { languageName } from '@/core/localised';
import { Table } from '../../kit/table';

const percent = (share: number): string => `${Math.round(share * 100)}%`;

/** How well the book is understood: every phrase judged by a model that was taught without it. */
export function QualityView({ book, onIntent }: { book: Phrasebook; onIntent: (id: string) => void }) {
  const [quality, setQuality] = useState<Quality | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    setQuality(null);
    const worker = new Worker(new URL('./qualityworker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = (event: MessageEvent<Quality>) => setQuality(event.data);
    worker.onerror = () => setFailed(true);
    worker.postMessage(book);
    return () => worker.terminate();
  }, [book]);
  if (failed)
    return (
      <p role="alert" className="p-4 text-clay">
        The book could not be judged here.
      </p>
    );
  if (!quality)
    return (
      <p role="status" className="p-4 text-ink-2">
        Judging each phrase by what was learnt without it…
      </p>
    );
  const label = (id: string | null) => book.intents.find((i) => i.id === id)?.label ?? 'none of these';
  const Intent = ({ id }: { id: string }) => (
    <button type="button" className="text-plum hover:underline" onClick={() => onIntent(id)}>
      {label(id)}
    </button>
  );
  return (
    <div className="flex flex-col gap-4 p-4 text-small">
      <dl className="flex flex-wrap gap-6">
        {[
          ['understood', percent(quality.accuracy), 'of phrases, first intent right'],
          ['sure of', percent(quality.sure), 'of phrases'],
          ['right when sure', percent(quality.accuracyWhenSure), 'of those'],
          ['wrongly taken', percent(quality.wronglyTaken), 'of phrases about something else'],
          ...quality.byLanguage.map((l) => [languageName(l.language), percent(l.accuracy), `of ${l.phrases}`] as const),
        ].map(([name, value, of]) => (
          <div key={name}>
            <dt className="text-tiny text-ink-2">{name}</dt>
            <dd className="font-display text-title">{value}</dd>
            <dd className="text-tiny text-ink-3">{of}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-2 gap-6">
        <section>
          <h2 className="mb-1 text-panel">By intent</h2>
          <Table
            compact
            label="By intent"
            rows={quality.byIntent}
            idOf={(i) => i.intentId}
            columns={[
              { id: 'intent', head: 'Intent', by: (i) => label(i.intentId), cell: (i) => <Intent id={i.intentId} /> },
              { id: 'phrases', head: 'Phrases', figure: true, by: (i) => i.phrases, cell: (i) => i.phrases },
              { id: 'found', head: 'Found', figure: true, by: (i) => i.recall, cell: (i) => percent(i.recall) },
              {
                id: 'right',
                head: 'Right when named',
                figure: true,
                by: (i) => i.precision,
                cell: (i) => percent(i.precision),
              },
            ]}
          />
        </section>
        <section>
          <h2 className="mb-1 text-panel">Taken for another</h2>
          {quality.confused.length === 0 ? (
            <p className="text-ink-2">None.</p>
          ) : (
            <ul>
              {quality.confused.slice(0, 12).map((c, i) => (
                <li key={i} className="border-t border-rule py-0.5">
                  <Intent id={c.intentId} /> → <Intent id={c.takenFor} /> <span className="text-ink-2">{c.times}×</span>
                </li>
              ))}
            </ul>
          )}
          {quality.pulling.length > 0 && (
            <>
              <h2 className="mt-3 mb-1 text-panel">Phrases that pull the wrong way</h2>
              <ul>
                {quality.pulling.slice(0, 8).map((j, i) => (
                  <li key={i} className="border-t border-rule py-0.5">
                    “{j.text}”{' '}
                    <span className="text-ink-2">
                      under {label(j.intentId)}, taken for {label(j.meant)} {j.confidence.toFixed(2)}
                    </span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      </div>
      <section>
        <h2 className="mb-1 text-panel">Weakest phrases</h2>
        <ul className="columns-2 gap-6">
          {quality.weakest.slice(0, 24).map((j, i) => (
            <li key={i} className="break-inside-avoid border-t border-rule py-0.5">
              “{j.text}”{' '}
              <span className="text-ink-2">
                {label(j.intentId)}
                {j.right ? `, unsure ${j.confidence.toFixed(2)}` : `, taken for ${label(j.meant)}`}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
