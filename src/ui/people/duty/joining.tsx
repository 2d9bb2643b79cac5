'use client';

import { Slider } from 'radix-ui';
import { useState } from 'react';
import { CHANNEL_NAMES } from '@/core/channels';
import type { DutyRow } from '@/core/people/duty';
import type { DutyView } from '@/services/people/dutyview';
import { ChannelMark } from '../../kit/channelmark';
import { marksUpTo, secondsWords } from '../../queues/clock/axis';
import { type Group, groupsOf } from './bands';

/** How far the axis goes: past whoever joins last, and a minute at least. */
const endOf = (rows: readonly DutyRow[]): number => {
  const last = Math.max(0, ...rows.filter((r) => r.band > 0).map((r) => r.delaySeconds));
  return [60, 120, 300, 600, 1800, 3600].find((end) => last * 1.25 <= end) ?? 3600;
};

/**
 * Who joins when: on the axis of the wait clock, from when on people with this profile are asked for each queue's contacts. A
 * mark is moved by dragging it or by the arrow keys.
 */
export function Joining({
  view,
  rows,
  off,
  onRows,
}: {
  view: DutyView;
  rows: readonly DutyRow[];
  off: boolean;
  onRows: (rows: readonly DutyRow[]) => void;
}) {
  // While a mark is dragged the axis stays as long as it was.
  const [held, setHeld] = useState<number | null>(null);
  const end = held ?? endOf(rows);
  const groups = groupsOf(view, rows).filter((g) => g.band > 0);
  const setDelay = (g: Group, delaySeconds: number) =>
    onRows(
      rows.map((r) =>
        r.queueId === g.queueId && r.band === g.band && g.channels.includes(r.channel) ? { ...r, delaySeconds } : r,
      ),
    );
  if (groups.length === 0) return null;
  return (
    <section aria-label="Who joins when" className="mt-4">
      <h2 className="text-small font-semibold">
        Joins the asking{' '}
        <span className="font-body font-normal text-ink-2">after so long a wait, on the clock of the queue</span>
      </h2>
      <div className="mt-1 grid grid-cols-[200px_minmax(0,1fr)_64px] items-center gap-x-3">
        <span />
        <div className="relative mx-2 h-5 text-tiny text-ink-2" aria-hidden>
          {marksUpTo(end).map((m) => (
            <span
              key={m}
              className="absolute -translate-x-1/2 whitespace-nowrap"
              style={{ left: `${(m / end) * 100}%` }}
            >
              {secondsWords(m)}
            </span>
          ))}
        </div>
        <span />
        {groups.map((g) => {
          const name = view.queues.find((q) => q.id === g.queueId)?.name ?? '';
          return (
            <div key={`${g.band}|${g.queueId}|${g.channels.join()}`} className="contents">
              <span className="flex items-center gap-1.5 py-0.5 text-small">
                <b className="w-3 font-semibold text-ink-2">{g.band}</b>
                <span className="truncate">{name}</span>
                <span className="inline-flex gap-0.5">
                  {g.channels.map((c) => (
                    <ChannelMark key={c} channel={c} size={14} />
                  ))}
                </span>
              </span>
              <Slider.Root
                className="relative mx-2 flex h-6 touch-none items-center select-none"
                min={0}
                max={end}
                step={5}
                disabled={off}
                value={[Math.min(end, g.delaySeconds)]}
                onPointerDown={() => setHeld(end)}
                onValueChange={([seconds]) => {
                  if (seconds !== undefined && seconds !== g.delaySeconds) setDelay(g, seconds);
                }}
                onValueCommit={() => setHeld(null)}
              >
                <Slider.Track className="relative h-3 grow rounded-full bg-sunk">
                  <span
                    className="absolute inset-y-0 right-0 rounded-full bg-moss-wash"
                    style={{ left: `${(Math.min(end, g.delaySeconds) / end) * 100}%` }}
                  />
                </Slider.Track>
                <Slider.Thumb
                  aria-label={`${name}, band ${g.band}: joins after seconds`}
                  title={`${name} by ${g.channels.map((c) => CHANNEL_NAMES[c].name).join(', ')}`}
                  className="block size-4 rounded-full border-2 border-moss bg-sheet outline-none focus-visible:ring-2 focus-visible:ring-ink data-disabled:border-rule-strong"
                />
              </Slider.Root>
              <span className="text-right text-small text-ink-2 tabular-nums">
                {g.delaySeconds === 0 ? 'at once' : secondsWords(g.delaySeconds)}
              </span>
            </div>
          );
        })}
      </div>
    </section>
  );
}
