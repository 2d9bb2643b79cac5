'use client';

import { useEffect } from 'react';
import { languageName } from '@/core/localised';
import { type Phrasebook, USUAL_WISH, type Wish } from '@/core/phrases/book';
import type { LanguageQuality, Quality, Share } from '@/core/phrases/quality';
import type { QualityView as Viewed } from '@/services/bots/phrasequality';
import { useLive } from '../../kit/live';
import { Table } from '../../kit/table';
import { Learning } from './learning';
import { TradeOf, tradeSentence } from './tradeof';

/** How often it is looked whether a book has been learnt. */
const UNTIL_LEARNT_MS = 2000;
const percent = (share: number): string => `${Math.round(share * 100)}%`;
const range = (s: Share): string => (s === null ? '' : `${Math.round(s.low * 100)}–${percent(s.high)}`);

/** How well the book is understood: every phrase judged by a model that was taught without it, and those kept aside. */
export function QualityView({
  book,
  revision,
  mayChange,
  onWish,
  onIntent,
}: {
  book: Phrasebook;
  revision: number;
  mayChange: boolean;
  onWish: (language: string, wish: Wish) => void;
  onIntent: (id: string) => void;
}) {
  const { data, error, refetch } = useLive<Viewed>(`/api/read/phrasebook-quality?revision=${revision}`, []);
  const waits = data?.quality === null;
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => void refetch(), UNTIL_LEARNT_MS);
    return () => clearInterval(timer);
  }, [waits, refetch]);
  if (error && !data)
    return (
      <p role="alert" className="p-4 text-clay">
        The book could not be judged: {error.message}
      </p>
    );
  if (!data)
    return (
      <p role="status" className="p-4 text-ink-2">
        Reading how each phrase fared without itself…
      </p>
    );
  const { quality } = data;
  if (!quality)
    return (
      <div className="flex flex-col gap-2 p-4 text-ink-2">
        <p>The book is being learnt. How it fares is here when it is.</p>
        <Learning />
      </div>
    );
  return (
    <div className="flex flex-col gap-5 p-4 text-small">
      {quality.languages.map((l) => (
        <LanguagePart
          key={l.language}
          of={l}
          wish={book.wishes[l.language] ?? USUAL_WISH}
          mayChange={mayChange}
          onWish={(wish) => onWish(l.language, wish)}
        />
      ))}
      <p className="text-tiny text-ink-3">
        Each phrase is judged by what was learnt without it, exactly as if it had never been there; ranges hold with 95%
        by how many were asked. What it cannot know: phrases of one book were written by the same few people, so
        strangers are understood less often. That is what phrases kept aside are for; nobody teaches from them.
      </p>
      <Details quality={quality} book={book} onIntent={onIntent} />
    </div>
  );
}

function LanguagePart({
  of,
  wish,
  mayChange,
  onWish,
}: {
  of: LanguageQuality;
  wish: Wish;
  mayChange: boolean;
  onWish: (wish: Wish) => void;
}) {
  const rows = [
    { id: 'book', name: 'Of the book, left out', ...of },
    ...(of.aside ? [{ id: 'aside', name: 'Kept aside', ...of.aside }] : []),
  ];
  return (
    <section aria-label={languageName(of.language)} className="grid gap-4 lg:grid-cols-2">
      <div>
        <h2 className="mb-1 text-panel">{languageName(of.language)}</h2>
        <Table
          compact
          label={`How ${languageName(of.language)} fares`}
          rows={rows}
          idOf={(r) => r.id}
          columns={[
            { id: 'what', head: 'Judged', cell: (r) => r.name },
            { id: 'of', head: 'Phrases', figure: true, cell: (r) => r.right?.of ?? 0 },
            { id: 'right', head: 'First', figure: true, cell: (r) => (r.right ? percent(r.right.share) : '–') },
            { id: 'range', head: 'Range', figure: true, cell: (r) => range(r.right) },
            { id: 'two', head: 'In two', figure: true, cell: (r) => (r.inTwo ? percent(r.inTwo.share) : '–') },
          ]}
        />
        {of.aside && <p className="mt-2 text-ink-2">Those kept aside: {tradeSentence(of.aside.trade)}</p>}
        {of.borrowed && (
          <p className="mt-2 text-tiny text-ink-3">
            {of.phrases} phrases are too few to choose by: those of all languages are asked.
          </p>
        )}
      </div>
      <TradeOf fares={of.fares} wish={wish} mayChange={mayChange} onWish={onWish} />
    </section>
  );
}

function Details({ quality, book, onIntent }: { quality: Quality; book: Phrasebook; onIntent: (id: string) => void }) {
  const label = (id: string | null) => book.intents.find((i) => i.id === id)?.label ?? 'none of these';
  const Intent = ({ id }: { id: string | null }) =>
    id === null ? (
      <>none of these</>
    ) : (
      <button type="button" className="text-plum hover:underline" onClick={() => onIntent(id)}>
        {label(id)}
      </button>
    );
  return (
    <>
      {quality.wanting.length > 0 && (
        <p>
          Ten more phrases each would help most here:{' '}
          {quality.wanting.map((id, i) => (
            <span key={id}>
              {i > 0 ? ', ' : ''}
              <Intent id={id} />
            </span>
          ))}
          .
        </p>
      )}
      {quality.twins.length > 0 && (
        <p className="text-brass-ink">
          {quality.twins.length === 1 ? 'One phrase kept aside says' : `${quality.twins.length} phrases kept aside say`}{' '}
          nearly what a taught one does, so it flatters: “{quality.twins[0]?.aside}”.
        </p>
      )}
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
              {
                id: 'found',
                head: 'Found',
                figure: true,
                by: (i) => i.found?.share ?? -1,
                cell: (i) => (i.found ? percent(i.found.share) : '–'),
              },
              {
                id: 'right',
                head: 'Right when named',
                figure: true,
                by: (i) => i.named?.share ?? -1,
                cell: (i) => (i.named ? percent(i.named.share) : '–'),
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
                      under {label(j.intentId)}, taken for {label(j.first)} {j.sure.toFixed(2)}
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
                {label(j.intentId)}, taken for {label(j.first)}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
