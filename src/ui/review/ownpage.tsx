'use client';

import type { OwnCoachingView } from '@/services/coaching/coachingviews';
import type { OwnWorkView } from '@/services/review/ownwork';
import { Note, Rating } from '../coaching/said';
import { LinkButton } from '../kit/button';
import { asFigure, asShortDay } from '../kit/figures';
import { Empty, Panel } from '../kit/panel';
import { WhyTwo } from './whytwo';

/** How somebody did, for themselves: beside the mean of their team, why it differs, and what coaches shared with them. */
export function OwnPage({ work, said }: { work: OwnWorkView; said: OwnCoachingView }) {
  const nothing = work.figures.every(({ mine }) => mine.count === 0);
  /** Whether there is anything of the four weeks before. */
  const before = work.figures.some(({ mine }) => mine.before !== null && mine.before > 0);
  return (
    <main className="flex flex-col gap-3 p-4">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="text-title">How I did</h1>
        <span className="text-small text-ink-2">
          {asShortDay(work.from)} to {asShortDay(work.to)}, beside the mean of your team
        </span>
        <LinkButton small href="/desk" className="ml-auto">
          Back to the Desk
        </LinkButton>
      </div>
      <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_440px]">
        <div className="flex min-w-0 flex-col gap-3">
          {nothing ? (
            <Panel>
              <Empty title="Nothing to look back on yet">What you handle shows here on the day after.</Empty>
            </Panel>
          ) : work.why ? (
            <WhyTwo one={{ id: 'me', name: 'you' }} other={{ id: 'team', name: 'team' }} why={work.why} chosen={null} />
          ) : (
            <Panel className="p-4">
              <h2 className="text-panel">Why it differs from your team</h2>
              <p className="mt-1 text-small text-ink-2">{work.whyNot}</p>
            </Panel>
          )}
          <Panel className="p-4" label="What coaches shared with you">
            <h2 className="text-panel">What coaches shared with you</h2>
            {said.notes.length + said.ratings.length === 0 ? (
              <p className="mt-1 text-small text-ink-2">Nothing so far.</p>
            ) : (
              <ul className="mt-1">
                {[
                  ...said.notes.map((note) => ({ at: note.at, note, rating: null })),
                  ...said.ratings.map((rating) => ({ at: rating.at, note: null, rating })),
                ]
                  .sort((a, b) => b.at - a.at)
                  .map(({ note, rating }) =>
                    note ? (
                      <Note key={note.id} note={note} zone={work.zone} />
                    ) : (
                      <Rating key={rating.id} rating={rating} zone={work.zone} />
                    ),
                  )}
              </ul>
            )}
          </Panel>
        </div>
        {!nothing && (
          <Panel className="p-4" label="My figures">
            <table className="w-full text-small">
              <thead className="text-tiny text-ink-2">
                <tr>
                  <th scope="col" className="text-left font-normal">
                    Figure
                  </th>
                  {['you', ...(before ? ['before'] : []), 'team’s mean'].map((head) => (
                    <th key={head} scope="col" className="w-24 text-right font-normal">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {work.figures.map(({ mine, team }) => (
                  <tr key={mine.id} className="border-t border-rule">
                    <th scope="row" className="py-1.5 text-left font-normal" title={mine.formula}>
                      {mine.name}
                    </th>
                    <td className="text-right font-semibold tabular-nums">{asFigure(mine.value, mine.unit)}</td>
                    {before && (
                      <td className="text-right text-ink-2 tabular-nums">{asFigure(mine.before, mine.unit)}</td>
                    )}
                    <td className="text-right text-ink-2 tabular-nums">{asFigure(team?.value ?? null, mine.unit)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Panel>
        )}
      </div>
    </main>
  );
}
