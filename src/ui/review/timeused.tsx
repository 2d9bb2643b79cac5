'use client';

import { clsx } from 'clsx';
import type { TimeUsedView } from '@/services/review/personday';
import { asShare } from '../kit/figures';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';
import { reviewHref } from './address';
import { fillsOf } from './fills';

/** Hours and minutes, as time on duty is written: 12 h 05. */
const asHours = (seconds: number): string => {
  const minutes = Math.round(seconds / 60);
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
};
const NAMES: Readonly<Record<string, string>> = {
  calls: 'On calls',
  texts: 'On texts',
  ready: 'Ready, none open',
  unreachable: 'On duty, out of reach',
};
export const nameOfUse = (use: string): string =>
  NAMES[use] ?? (use.replace(/^away /, '').replace(/^./, (c) => c.toUpperCase()) || 'Away');

type Of = { readonly address: Readonly<Record<string, string>>; readonly id: string };
/** Reads what somebody's time of a range went into, and their days. */
export const useTimeUsed = ({ address, id }: Of) =>
  useLive<TimeUsedView>(reviewHref('/api/read/time-used', address, { kind: 'people', id }), []);

/** What somebody's time went into, beside their team's. */
export function TimeUsed(of: Of) {
  const { data, error } = useTimeUsed(of);
  if (data) return <Uses view={data} />;
  return (
    <Panel className="p-4" label="Time used">
      <h2 className="text-panel">Time used</h2>
      <p className="text-small text-ink-2" role={error ? 'alert' : undefined}>
        {error ? 'It cannot be read just now.' : 'Reading…'}
      </p>
    </Panel>
  );
}

function Uses({ view }: { view: TimeUsedView }) {
  const fill = fillsOf(view.uses.map((u) => u.use));
  return (
    <Panel className="p-4" label="Time used">
      <div className="flex items-baseline gap-2">
        <h2 className="text-panel">Time used</h2>
        <span className="text-small text-ink-2">of {asHours(view.seconds)}</span>
        {view.occupancy !== null && (
          <span className="ml-auto text-small" title="With anything open ÷ (that + ready with none)">
            <span className="font-semibold">{asShare(view.occupancy)} busy</span>
            {view.teamOccupancy !== null && <span className="text-ink-2">, team {asShare(view.teamOccupancy)}</span>}
          </span>
        )}
      </div>
      {view.seconds === 0 ? (
        <p className="mt-1 text-small text-ink-2">Not on duty in this range.</p>
      ) : (
        <>
          <span aria-hidden className="mt-1.5 flex h-3.5 overflow-hidden rounded">
            {view.uses.map((u) => (
              <span key={u.use} className={fill(u.use)} style={{ width: `${u.share * 100}%` }} />
            ))}
          </span>
          <span aria-hidden className="mt-0.5 flex h-1.5 overflow-hidden rounded">
            {view.uses.map((u) => (
              <span key={u.use} className={fill(u.use)} style={{ width: `${(u.team ?? 0) * 100}%` }} />
            ))}
          </span>
          <table className="mt-1.5 w-full text-small">
            <thead className="sr-only">
              <tr>
                <th>Use</th>
                <th>Time</th>
                <th>Share</th>
                <th>Team</th>
              </tr>
            </thead>
            <tbody>
              {view.uses.map((u) => (
                <tr key={u.use}>
                  <td className="py-px">
                    <span aria-hidden className={clsx('mr-2 inline-block size-2.5 rounded-sm', fill(u.use))} />
                    {nameOfUse(u.use)}
                  </td>
                  <td className="text-right tabular-nums">{asHours(u.seconds)}</td>
                  <td className="w-12 text-right font-semibold tabular-nums">{asShare(u.share)}</td>
                  <td className="w-12 text-right text-ink-2 tabular-nums">{asShare(u.team)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 text-tiny text-ink-2">Thick: theirs. Thin, and the last column: their team’s.</p>
        </>
      )}
    </Panel>
  );
}
