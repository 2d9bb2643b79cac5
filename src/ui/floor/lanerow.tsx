'use client';

import { clsx } from 'clsx';
import { type GoalStanding, isPastGoal } from '@/core/measures/servicelevel';
import type { FloorLane, LaneContact } from '@/services/floor/floorview';
import { ChannelMark } from '../kit/channelmark';
import { asClock, asShare } from '../kit/figures';
import { Pill } from '../kit/panel';

const TONES: Readonly<Record<GoalStanding, 'good' | 'warn' | 'bad'>> = { met: 'good', near: 'warn', missed: 'bad' };

export const Scale = ({ reach }: { reach: number }) => (
  <span className="relative block h-5">
    {[0, 0.25, 0.5, 0.75, 1].map((share) => (
      <span
        key={share}
        className={clsx(
          'absolute whitespace-nowrap',
          share === 1 ? '-translate-x-full' : share > 0 && '-translate-x-1/2',
        )}
        style={{ left: `${share * 100}%` }}
      >
        {reach >= 300 ? `${asClock(share * reach)}${share === 1 ? ' +' : ''}` : `${share * reach} s`}
      </span>
    ))}
  </span>
);

export function LaneRow({
  lane,
  now,
  reach,
  chosen,
  onChoose,
}: {
  lane: FloorLane;
  now: number;
  reach: number;
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const at = (seconds: number) => Math.min(100, (seconds / reach) * 100);
  const goals = [...new Set(lane.goals.map((g) => g.seconds))];
  const places = spread(lane.waiting, now, reach);
  return (
    <li className="grid grid-cols-[130px_minmax(0,1fr)_70px] items-center border-t border-rule py-2">
      <div className="pr-2">
        <p className="truncate font-display font-semibold">{lane.name}</p>
        <p className="flex items-center gap-1.5 text-small text-ink-2">
          {lane.waiting.length} waiting{' '}
          <Pill tone={lane.standing ? TONES[lane.standing] : 'plain'}>{asShare(lane.share)}</Pill>
        </p>
        {lane.messages > 0 && (
          <p className="text-tiny text-ink-2">
            {lane.messages} {lane.messages === 1 ? 'message' : 'messages'} left
          </p>
        )}
      </div>
      <div className="relative h-[44px] rounded-control bg-sunk">
        <div
          className="absolute inset-y-0 right-0 rounded-r-control bg-clay-wash"
          style={{ left: `${at(Math.max(...goals))}%` }}
        />
        {goals.map((seconds) => (
          <div
            key={seconds}
            className="absolute -inset-y-1 w-0.5 bg-clay"
            style={{ left: `${at(seconds)}%` }}
            title={`goal ${asClock(seconds)}${
              goals.length > 1
                ? `: ${lane.goals.flatMap((g) => (g.seconds === seconds ? [g.channel] : [])).join(', ')}`
                : ''
            }`}
          />
        ))}
        {places.map(({ contact, left, row, waited }) => (
          <button
            key={contact.visitId}
            type="button"
            onClick={() => onChoose(contact.contactId)}
            aria-pressed={chosen === contact.contactId}
            aria-label={[
              `${lane.name}, waiting ${asClock(waited)}`,
              isPastGoal(contact, now) ? 'past its goal' : '',
              contact.offered ? 'being offered' : '',
            ]
              .filter(Boolean)
              .join(', ')}
            title={`waiting ${asClock(waited)}`}
            className="absolute -translate-x-1/2 rounded-full leading-none transition-[left] duration-500 ease-linear"
            style={{ left: `${left}%`, top: row === 0 ? 3 : 23 }}
          >
            <span className={clsx('block', contact.offered && 'animate-pulse')}>
              <ChannelMark channel={contact.channel} size={18} ring={chosen === contact.contactId} />
              {isPastGoal(contact, now) && <span className="mx-auto block h-0.5 w-3 rounded-full bg-clay" />}
            </span>
          </button>
        ))}
      </div>
      <div className="flex flex-wrap justify-end gap-1 pl-2" role="img" aria-label={`${lane.free} free`}>
        {Array.from({ length: Math.min(lane.free, 8) }, (_, i) => (
          <span key={i} className="h-4 w-2.5 rounded-[3px] bg-moss" />
        ))}
        {lane.free > 8 && <span className="text-tiny text-ink-2">+{lane.free - 8}</span>}
        {lane.free === 0 && <span className="text-tiny text-ink-3">none</span>}
      </div>
    </li>
  );
}

/** Places contacts at their waiting time, in two rows where they would cover each other. */
function spread(waiting: readonly LaneContact[], now: number, reach: number) {
  const ends = [-Infinity, -Infinity];
  return [...waiting]
    .sort((a, b) => b.placedAt - a.placedAt)
    .map((contact) => {
      const waited = Math.max(0, (now - contact.placedAt) / 1000);
      const left = Math.min(98.5, 1.5 + (waited / reach) * 97);
      const row = left - (ends[0] ?? 0) > 3.2 ? 0 : 1;
      ends[row] = left;
      return { contact, left, row, waited };
    });
}
