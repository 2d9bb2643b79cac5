'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { ChangesView } from '@/services/review/changes';
import { plusDays, daysBetween } from '@/core/hours/dates';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';
import { useHolds } from '../lane/viewer';
import { reviewHref } from './address';
import type { Opened } from './behind';
import { MarkedDays } from './markdays';
import { changeSentence, type Sentence, standingSentence } from './sentences';

/**
 * What Review opens with: what changed against the other range, and what stands out in this one, in sentences with their
 * evidence. Comes after the figures, since it looks at weeks before as well.
 */
export function WhatChanged({
  address,
  range,
  path,
  of,
  onOpen,
}: {
  address: Readonly<Record<string, string>>;
  range: { readonly from: string; readonly to: string };
  path: string;
  /** Of which one thing, where it is of one. */
  of?: { readonly kind: string; readonly id: string };
  onOpen: (opened: Opened) => void;
}) {
  const { data, error, refetch } = useLive<ChangesView>(reviewHref('/api/read/review-changes', address, of ?? {}), []);
  const weeksBefore = plusDays(range.from, -7 * Math.ceil((daysBetween(range.from, range.to) + 1) / 7));
  return (
    <Panel className="px-4 py-3" label="What changed">
      {error ? (
        <p role="alert" className="text-clay">
          What changed cannot be read just now.
        </p>
      ) : !data ? (
        <p className="text-small text-ink-2" aria-busy>
          Comparing with the days before…
        </p>
      ) : (
        <div className="flex flex-col gap-2">
          <Sentences
            title="What changed"
            hint="Thin: before. All else moved no more than chance."
            sentences={data.changes.map(changeSentence)}
            none={
              data.compared === 0 ? (
                'No whole day of this range has one to be compared with.'
              ) : data.alike ? (
                'Nothing moved more than chance would have it.'
              ) : (
                <>
                  Other weekdays cannot be compared.{' '}
                  <Link className="text-plum underline" href={reviewHref(path, address, { against: weeksBefore })}>
                    Compare with the same weekdays
                  </Link>
                </>
              )
            }
            onOpen={onOpen}
          />
          {!of && data.standing.length > 0 && (
            <Sentences
              title="Stands out"
              hint="Thin: its goal, or all others."
              sentences={data.standing.map(standingSentence)}
              none={null}
              onOpen={onOpen}
            />
          )}
          {!of && <MarkedDays view={data} from={range.from} onChanged={() => void refetch()} />}
        </div>
      )}
    </Panel>
  );
}

/** Sentences that stand there before the rest is asked for. */
const FIRST = 6;

function Sentences({
  title,
  hint,
  sentences,
  none,
  onOpen,
}: {
  title: string;
  hint: string;
  sentences: readonly Sentence[];
  none: React.ReactNode;
  onOpen: (opened: Opened) => void;
}) {
  const holds = useHolds();
  const [whole, setWhole] = useState(false);
  const shown = whole ? sentences : sentences.slice(0, FIRST);
  return (
    <section className="grid gap-x-4 md:grid-cols-[150px_minmax(0,1fr)]" aria-label={title}>
      <div>
        <h2 className="text-panel">{title}</h2>
        {sentences.length > 0 && <p className="text-tiny text-ink-2">{hint}</p>}
        {sentences.length > FIRST && (
          <button type="button" className="text-small text-plum underline" onClick={() => setWhole(!whole)}>
            {whole ? 'Fewer' : `${sentences.length - FIRST} more`}
          </button>
        )}
      </div>
      {sentences.length === 0 ? (
        <p className="pt-0.5 text-small text-ink-2">{none}</p>
      ) : (
        <ul>
          {shown.map((s) => (
            <li key={s.key} className="flex items-center gap-3 py-0.5">
              <Bars sentence={s} />
              <span className="min-w-0 flex-1 truncate text-base" title={`${s.says}: ${s.rests}`}>
                <span className="font-semibold">{s.says}</span> <span className="text-small text-ink-2">{s.rests}</span>
              </span>
              <button
                type="button"
                className="shrink-0 text-small text-plum underline"
                onClick={() => onOpen(s.evidence)}
              >
                {s.evidenceWords}
              </button>
              <span className="w-28 shrink-0 text-small">
                {s.to && holds(s.to.right) && (
                  <Link href={s.to.href} className="text-plum underline">
                    {s.to.words}
                  </Link>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What it was above what it is, as parts of the larger of the two. */
function Bars({ sentence: { bars, better } }: { sentence: Sentence }) {
  const most = Math.max(bars.now, bars.before, Number.EPSILON);
  return (
    <span aria-hidden className="flex w-11 shrink-0 flex-col gap-0.5">
      <span className="h-0.5 rounded bg-ink-3" style={{ width: `${(bars.before / most) * 100}%` }} />
      <span
        className={clsx('h-1.5 rounded', better === null ? 'bg-plum-2' : better ? 'bg-moss' : 'bg-clay')}
        style={{ width: `${(bars.now / most) * 100}%` }}
      />
    </span>
  );
}
