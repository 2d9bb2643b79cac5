'use client';

import { useEffect, useState } from 'react';
import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { LeftWaiting, SituationLine, Taken } from '@/core/routing/wouldtake';
import type { DutyView } from '@/services/people/dutyview';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { asClock } from '../kit/figures';
import { options, Select } from '../kit/select';
import type { DutyDraft } from './duty/dutydraft';

const CONTROL = 'rounded-control border border-rule-strong bg-sheet px-1.5 py-0.5 text-small';
const WHY: Readonly<Record<LeftWaiting['why'], string>> = {
  'off-duty': 'off duty',
  away: 'away',
  unreachable: 'out of reach',
  'not-in-duty': 'not taken by this profile',
  'not-yet': 'its delay is not over',
  skill: 'a skill is missing',
  'channel-off': 'the channel is off',
  'channel-most': 'that many of a kind already',
  load: 'no room left',
  'offer-pending': 'being asked',
  refused: 'refused before',
  limit: 'a limit is reached',
  held: 'held for somebody else',
};

/**
 * "In this situation this profile would take …", worked out by the router's own rules for somebody with nothing open.
 */
export function Situation({ view, draft }: { view: DutyView; draft: DutyDraft }) {
  const first = (): SituationLine[] =>
    view.waiting.length > 0
      ? [...view.waiting]
      : view.queues.slice(0, 3).map((q, i) => ({
          queueId: q.id,
          channel: q.channels[Math.min(1, q.channels.length - 1)] ?? 'voice',
          count: 2,
          waitedSeconds: 30 * (i + 1),
        }));
  const [lines, setLines] = useState<readonly SituationLine[]>(first);
  const [personId, setPersonId] = useState('');
  const [result, setResult] = useState<{ taken: readonly Taken[]; left: readonly LeftWaiting[] } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const asked = JSON.stringify({
    rows: draft.rows,
    load: draft.load,
    personId: personId === '' ? null : personId,
    lines: lines.filter((l) => l.count > 0),
  });
  useEffect(() => {
    let live = true;
    const timer = setTimeout(() => {
      setting<{ taken: Taken[]; left: LeftWaiting[] }>('preview-profile', JSON.parse(asked)).then(
        (r) => {
          if (live) {
            setResult(r);
            setFault(null);
          }
        },
        (error: unknown) => {
          if (live) setFault(sentence(error));
        },
      );
    }, 150);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [asked]);
  const put = (i: number, change: Partial<SituationLine>) =>
    setLines(lines.map((l, j) => (j === i ? { ...l, ...change } : l)));
  const name = (id: string) => view.queues.find((q) => q.id === id)?.name ?? id;
  return (
    <section aria-label="What would be taken" className="mt-5 border-t border-rule pt-3">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="text-small font-semibold">In this situation</h2>
        <Select aria-label="Whose skills" value={personId} onChange={(chosen) => setPersonId(chosen)} compact>
          <option value="">anybody with the skills</option>
          {options(view.people)}
        </Select>
        {view.waiting.length > 0 && (
          <Button small kind="quiet" onClick={() => setLines([...view.waiting])}>
            What waits now
          </Button>
        )}
        <Button
          small
          kind="quiet"
          onClick={() =>
            setLines([
              ...lines,
              {
                queueId: view.queues[0]?.id ?? '',
                channel: view.queues[0]?.channels[0] ?? 'voice',
                count: 1,
                waitedSeconds: 60,
              },
            ])
          }
        >
          Add contacts
        </Button>
      </div>
      <div className="mt-2 grid grid-cols-[7fr_5fr] gap-4">
        <ul className="flex flex-col gap-1">
          {lines.map((l, i) => (
            <li key={i} className="flex items-center gap-1 text-small">
              <input
                aria-label="How many wait"
                type="number"
                min={1}
                max={50}
                value={l.count}
                onChange={(e) =>
                  put(i, {
                    count: Number.isInteger(e.target.valueAsNumber)
                      ? Math.min(50, Math.max(0, e.target.valueAsNumber))
                      : 0,
                  })
                }
                className={`${CONTROL} w-12`}
              />
              <Select
                aria-label="By which channel"
                value={l.channel}
                onChange={(chosen) => {
                  const c = CHANNELS.find((x) => x === chosen);
                  if (c) put(i, { channel: c });
                }}
                compact
              >
                {options(CHANNELS, (c) => CHANNEL_NAMES[c].name)}
              </Select>
              <Select
                aria-label="In which queue"
                value={l.queueId}
                onChange={(chosen) => put(i, { queueId: chosen })}
                compact
                className="min-w-0 flex-1"
              >
                {options(view.queues)}
              </Select>
              <input
                aria-label="Waiting for seconds"
                type="number"
                min={0}
                max={86400}
                value={l.waitedSeconds}
                onChange={(e) =>
                  put(i, {
                    waitedSeconds: Number.isInteger(e.target.valueAsNumber) ? Math.max(0, e.target.valueAsNumber) : 0,
                  })
                }
                className={`${CONTROL} w-16`}
              />{' '}
              s
              <button
                type="button"
                aria-label="Take this line out"
                className="px-1 text-ink-2"
                onClick={() => setLines(lines.filter((_, j) => j !== i))}
              >
                ×
              </button>
            </li>
          ))}
          {lines.length === 0 && <li className="text-small text-ink-2">Nobody waits.</li>}
        </ul>
        <div className="text-small" aria-live="polite">
          {fault ? (
            <p role="alert" className="text-clay">
              {fault}
            </p>
          ) : (
            result && (
              <>
                <p className="text-ink-2">
                  {result.taken.length === 0
                    ? 'this profile would take nothing.'
                    : `this profile would take ${result.taken.length}, using ${result.taken.reduce((n, t) => n + t.cost, 0)} of 100:`}
                </p>
                <ol className="mt-1">
                  {result.taken.map((t, i) => (
                    <li key={i} className="flex items-center gap-1.5 py-px">
                      <b className="w-4 text-right">{i + 1}</b>
                      <ChannelMark channel={t.channel as Channel} size={14} />
                      {name(t.queueId)}
                      <span className="text-ink-2">waiting {asClock(t.waitedSeconds)}</span>
                    </li>
                  ))}
                </ol>
                {result.left.length > 0 && (
                  <ul className="mt-1.5 border-t border-rule pt-1.5 text-ink-2">
                    {result.left.map((l, i) => (
                      <li key={i} className="flex items-center gap-1.5 py-px">
                        <span className="w-4 text-right">{l.count}</span>
                        <ChannelMark channel={l.channel} size={14} />
                        {name(l.queueId)} left: {WHY[l.why]}
                      </li>
                    ))}
                  </ul>
                )}
              </>
            )
          )}
        </div>
      </div>
    </section>
  );
}
