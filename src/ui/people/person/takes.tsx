'use client';

import { Link } from '../../kit/link';
import { type Channel, CHANNELS } from '@/core/channels';
import { withOwnRows } from '@/core/people/duty';
import { withOverrides } from '@/core/people/load';
import type { PeopleView, PersonLine } from '@/services/people/peopleview';
import { ChannelMark } from '../../kit/channelmark';

/** Queues by band, one line per queue with its channels. */
export function Takes({
  view,
  profile,
  most,
  own,
}: {
  view: PeopleView;
  profile: PeopleView['profiles'][number];
  most: PersonLine['most'];
  /** Rows of the person's own, in place of the profile's. */
  own: PersonLine['ownRows'];
}) {
  const load = withOverrides(profile.load, most);
  const lines = new Map<string, { queue: string; band: number; delay: number; channels: Channel[] }>();
  const rows = withOwnRows(profile.rows, own);
  for (const row of [...rows].sort((a, b) => a.band - b.band)) {
    const key = `${row.queueId}|${row.band}|${row.delaySeconds}`;
    const line = lines.get(key) ?? {
      queue: view.queues.find((q) => q.id === row.queueId)?.name ?? row.queueId,
      band: row.band,
      delay: row.delaySeconds,
      channels: [],
    };
    if (load[row.channel].most > 0) line.channels.push(row.channel);
    lines.set(key, line);
  }
  return (
    <>
      <h3 className="mb-1 text-small">
        Takes, in this order{' '}
        <Link className="font-body font-normal text-ink-2 underline" href={`/people/duty?profile=${profile.id}`}>
          duty: {profile.name}
        </Link>
      </h3>
      {rows.length === 0 && <p className="text-small text-clay">No queue is taken.</p>}
      <ul className="divide-y divide-rule">
        {[...lines.values()].map((l, i) => (
          <li key={i} className="flex items-center gap-2 py-1 text-small">
            <b className="w-3">{l.band}</b>
            <span className="min-w-0 flex-1 truncate">{l.queue}</span>
            <span className="inline-flex gap-1">
              {l.channels.map((c) => (
                <ChannelMark key={c} channel={c} size={15} />
              ))}
              {l.channels.length === 0 && <span className="text-clay">no channel</span>}
            </span>
            <span className="w-[68px] text-right text-ink-2">{l.delay === 0 ? 'at once' : `after ${l.delay} s`}</span>
          </li>
        ))}
      </ul>
      {own.length > 0 && (
        <p className="mt-1 text-small text-ink-2">
          Exceptions of their own:{' '}
          {view.queues
            .filter((q) => own.some((o) => o.queueId === q.id))
            .map((q, i) => (
              <span key={q.id}>
                {i > 0 && ', '}
                <Link className="underline" href={`/queues?queue=${q.id}`}>
                  {q.name}
                </Link>
                {own.every((o) => o.queueId !== q.id || o.band === 0) && ' (not)'}
              </span>
            ))}
          .
        </p>
      )}
      <p className="mt-2 flex gap-3 text-small text-ink-2">
        At once{' '}
        {CHANNELS.map((c) => (
          <span key={c} className="inline-flex items-center gap-1">
            <ChannelMark channel={c} size={14} />
            <b className="text-ink">{load[c].most === 0 ? 'off' : load[c].most}</b>
          </span>
        ))}
      </p>
    </>
  );
}
