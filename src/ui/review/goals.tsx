'use client';

import { clsx } from 'clsx';
import type { GoalStanding } from '@/core/measures/servicelevel';
import type { ReviewView } from '@/services/review/overview';
import { asCount, asShare } from '../kit/figures';
import { Link } from '../kit/link';
import { Empty, Panel } from '../kit/panel';
import { reviewHref } from './address';

export const STANDING_WORDS: Readonly<Record<GoalStanding, string>> = {
  met: 'the goal is met',
  near: 'just below the goal',
  missed: 'the goal is missed',
};
const FILLS: Readonly<Record<GoalStanding, string>> = { met: 'bg-moss', near: 'bg-brass-2', missed: 'bg-clay' };

/** Each queue's share in goal, with a line at the share it is meant to reach. */
export const QueueGoals = ({ view }: { view: ReviewView }) => (
  <Panel className="p-4" label="In goal by queue">
    <div className="flex items-baseline gap-2">
      <h2 className="text-panel">In goal by queue</h2>
      <span className="text-small text-ink-2">line: what it is meant to reach</span>
    </div>
    {view.perQueue.length === 0 ? (
      <Empty title="Nothing was offered" />
    ) : (
      <table className="mt-1 w-full text-small">
        <thead className="sr-only">
          <tr>
            <th>Queue</th>
            <th>In goal</th>
            <th>Share</th>
            <th>Offered</th>
          </tr>
        </thead>
        <tbody>
          {view.perQueue.map((q) => (
            <tr key={q.id}>
              <td className="max-w-28 truncate py-0.5 pr-2">
                <Link href={reviewHref(`/review/queues/${q.id}`, view.address)} className="hover:underline">
                  {q.name}
                </Link>
              </td>
              <td className="w-full">
                <span
                  className="relative block h-2.5 rounded bg-sunk"
                  title={q.standing ? STANDING_WORDS[q.standing] : undefined}
                >
                  <span
                    className={clsx('absolute inset-y-0 left-0 rounded', FILLS[q.standing ?? 'met'])}
                    style={{ width: `${(q.inGoal ?? 0) * 100}%` }}
                  />
                  {q.wanted !== null && (
                    <span className="absolute -inset-y-0.5 w-0.5 bg-ink" style={{ left: `${q.wanted * 100}%` }} />
                  )}
                </span>
              </td>
              <td className="pl-2 text-right tabular-nums">
                {asShare(q.inGoal)}
                {q.standing && <span className="sr-only">, {STANDING_WORDS[q.standing]}</span>}
              </td>
              <td className="pl-2 text-right whitespace-nowrap text-ink-2 tabular-nums">of {asCount(q.offered)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    )}
  </Panel>
);
