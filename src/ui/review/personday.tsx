'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import type { PersonDayView, TimeUsedView } from '@/services/review/personday';
import { ChannelMark } from '../kit/channelmark';
import { asClock, asTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';
import { reviewHref } from './address';
import { stacked } from './stacked';
import { nameOfUse, useTimeUsed } from './timeused';
import { fillsOf } from './fills';

const HOUR_MS = 3_600_000;
const FILL: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};
const dayName = (day: string): string =>
  new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', timeZone: 'UTC' }).format(
    Date.parse(`${day}T00:00Z`),
  );

/** Somebody's days of a range, one of them as a lane. */
export function PersonDays({
  today,
  ...of
}: {
  readonly address: Readonly<Record<string, string>>;
  readonly id: string;
  readonly today: string;
}) {
  const { data } = useTimeUsed(of);
  return data ? <PersonDay days={data.days} today={today} {...of} /> : null;
}

/** Somebody's day as a lane: how they were, what they had open, and what they did not take. A day of the range is chosen. */
function PersonDay({
  days,
  today,
  address,
  id,
}: {
  days: TimeUsedView['days'];
  today: string;
  address: Readonly<Record<string, string>>;
  id: string;
}) {
  // A year of days is not chosen from one by one: the latest are there.
  const shown = days.slice(-14);
  // The latest day that is over, where they worked on one.
  const latest = [...shown].reverse().filter((d) => d.taken > 0);
  const worked = latest.find((d) => d.day < today) ?? latest[0] ?? shown.at(-1);
  const [day, setDay] = useState(worked?.day ?? '');
  const { data, error } = useLive<PersonDayView>(
    reviewHref('/api/read/person-day', address, { kind: 'people', id, from: day, to: day }),
    [],
  );
  return (
    <Panel className="p-4" label="Their day">
      <div className="flex flex-wrap items-baseline gap-2">
        <h2 className="text-panel">{day === '' ? 'Their day' : dayName(day)}</h2>
        <div role="group" aria-label="Which day" className="ml-auto flex flex-wrap gap-1">
          {shown.map((d) => (
            <button
              key={d.day}
              type="button"
              aria-pressed={d.day === day}
              onClick={() => setDay(d.day)}
              className={clsx(
                'rounded-control px-2 py-0.5 text-left text-tiny leading-tight',
                d.day === day ? 'bg-chosen outline-1 outline-brass-2' : 'hover:bg-sunk',
              )}
            >
              <span className="block font-semibold">{dayName(d.day)}</span>
              <span className="text-ink-2 tabular-nums">
                {d.taken === 0 ? 'none' : d.taken}
                {d.notTaken > 0 && <span className="text-clay"> ▾{d.notTaken}</span>}
                <span className="sr-only"> taken, {d.notTaken} offers not taken</span>
              </span>
            </button>
          ))}
        </div>
      </div>
      {error ? (
        <p role="alert" className="text-clay">
          The day cannot be read just now.
        </p>
      ) : data?.day === day ? (
        <Lane view={data} />
      ) : (
        <p className="py-16 text-center text-small text-ink-2">Reading…</p>
      )}
    </Panel>
  );
}

function Lane({ view }: { view: PersonDayView }) {
  const [chosen, setChosen] = useState<number | null>(view.notTaken.length > 0 ? 0 : null);
  const length = view.to - view.from;
  const place = (at: number) => `${(Math.min(Math.max(at - view.from, 0), length) / length) * 100}%`;
  const width = (from: number, to: number) =>
    `${((Math.min(to, view.to) - Math.max(from, view.from)) / length) * 100}%`;
  const turns = view.turns.map((t) => ({ ...t, to: t.to ?? view.to }));
  const bottoms = stacked(turns);
  const hours = Array.from({ length: Math.round(length / HOUR_MS) + 1 }, (_, i) => view.from + i * HOUR_MS);
  const uses = view.states.map((s) =>
    s.duty === 'away' ? `away ${s.reason ?? ''}` : s.reachable ? 'ready' : 'unreachable',
  );
  const fill = fillsOf([...new Set(uses)]);
  const offer = chosen === null ? undefined : view.notTaken[chosen];
  const most = Math.max(view.most, 1);
  return (
    <div className="mt-2 grid grid-cols-[92px_minmax(0,1fr)] gap-x-2 gap-y-1 text-tiny">
      <span />
      <div className="relative h-4 text-ink-2">
        {hours.map((at, i) => (
          <span
            key={at}
            className={clsx(
              'absolute',
              i === 0 ? '' : i === hours.length - 1 ? '-translate-x-full' : '-translate-x-1/2',
            )}
            style={{ left: place(at) }}
          >
            {asTime(at, view.zone)}
          </span>
        ))}
      </div>
      <Head name="State" />
      <div className="relative h-5 overflow-hidden rounded bg-sunk">
        {view.states.map((s, i) =>
          s.duty === 'off' ? null : (
            <span
              key={s.from}
              title={`${nameOfUse(uses[i] ?? '')}, ${asTime(s.from, view.zone)} to ${asTime(s.to, view.zone)}`}
              className={clsx('absolute inset-y-0 overflow-hidden px-1 leading-5', fill(uses[i] ?? ''))}
              style={{ left: place(s.from), width: width(s.from, s.to) }}
            >
              {s.to - s.from > HOUR_MS / 2 ? (s.duty === 'ready' ? 'Ready' : nameOfUse(uses[i] ?? '')) : ''}
            </span>
          ),
        )}
      </div>
      <Head name="Open" more="height is load" />
      <div className="relative h-24 overflow-hidden rounded border-b border-rule">
        {turns.map((t, i) => (
          <Link
            key={`${t.contactId} ${t.from}`}
            href={`/contacts/${t.contactId}`}
            title={`${CHANNEL_NAMES[t.channel].name}, ${t.queue}, ${asTime(t.from, view.zone)}${
              t.handleSeconds === null ? ', open' : `, ${asClock(t.handleSeconds)}`
            }${t.outcomeName ? `, ${t.outcomeName}` : ''}`}
            aria-label={`${CHANNEL_NAMES[t.channel].name} at ${asTime(t.from, view.zone)}, ${t.queue}`}
            className={clsx('absolute rounded-sm outline-1 outline-sheet', FILL[t.channel])}
            style={{
              left: place(t.from),
              width: `max(2px, ${width(t.from, t.to)})`,
              bottom: `${Math.min(bottoms[i] ?? 0, 97)}%`,
              height: `${Math.min(t.load, 100 - Math.min(bottoms[i] ?? 0, 97))}%`,
            }}
          />
        ))}
      </div>
      <Head name="Not taken" />
      <div className="relative h-5">
        {view.notTaken.map((o, i) => (
          <button
            key={o.at}
            type="button"
            aria-pressed={i === chosen}
            aria-label={`${o.how} at ${asTime(o.at, view.zone)}`}
            onClick={() => setChosen(i)}
            className={clsx(
              'absolute -translate-x-1/2 rounded px-1 leading-5 font-semibold',
              o.how === 'missed' ? 'text-clay' : 'text-brass-ink',
              i === chosen && 'bg-chosen outline-1 outline-brass-2',
            )}
            style={{ left: place(o.at) }}
          >
            {o.how === 'missed' ? '▼' : '✕'}
          </button>
        ))}
      </div>
      <Head name="Open at once" more={`most ${view.most}, mean ${view.mean.toFixed(1)}`} />
      <svg
        role="img"
        aria-label={`Open at once: at most ${view.most}, on average ${view.mean.toFixed(1)}`}
        viewBox={`0 0 ${length} ${most}`}
        preserveAspectRatio="none"
        className="h-9 w-full fill-plum-wash stroke-plum"
      >
        <path
          vectorEffect="non-scaling-stroke"
          d={`M0 ${most} ${view.steps.map(({ at, open }) => `H${at - view.from} V${most - open}`).join(' ')} H${length} V${most}`}
        />
      </svg>
      <span />
      <p className="min-h-5 text-small text-ink-2">
        {offer ? (
          <>
            <span className="font-semibold text-clay">
              {asTime(offer.at, view.zone)} {offer.how}
            </span>{' '}
            <ChannelMark channel={offer.channel} size={13} />{' '}
            <Link href={`/contacts/${offer.contactId}`} className="text-plum underline">
              a contact for {offer.queue}
            </Link>
            , offered for {Math.max(1, Math.round((offer.at - offer.madeAt) / 1000))} s{' '}
            {CHANNELS.some((c) => offer.open[c])
              ? `with ${CHANNELS.flatMap((c) => (offer.open[c] ? [`${offer.open[c]} by ${CHANNEL_NAMES[c].name}`] : [])).join(' and ')} open`
              : 'with nothing open'}
          </>
        ) : (
          'Every offer was taken.'
        )}
      </p>
    </div>
  );
}

const Head = ({ name, more }: { name: string; more?: string }) => (
  <span className="leading-tight">
    <span className="block font-semibold">{name}</span>
    {more && <span className="text-ink-2">{more}</span>}
  </span>
);
