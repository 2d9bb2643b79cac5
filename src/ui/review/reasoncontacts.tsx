'use client';

import { useState } from 'react';
import type { ReasonContacts as Found } from '@/services/review/reasoncontacts';
import type { DifferenceLine } from '@/services/review/two';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';

/** How many stand there before the rest is asked for. */
const FIRST = 12;

/** The contacts behind one reason of a difference: who took each, and how many could have. */
export function ReasonContacts({
  line,
  href,
  zone,
  names,
}: {
  line: DifferenceLine;
  href: string;
  zone: string;
  names: { readonly mine: string; readonly theirs: string };
}) {
  const { data, error } = useLive<Found>(href, []);
  const [whole, setWhole] = useState(false);
  const shown = whole ? (data?.lines ?? []) : (data?.lines.slice(0, FIRST) ?? []);
  return (
    <Panel className="p-4" label="Contacts of this reason">
      <h2 className="text-panel">…{line.words}</h2>
      {error ? (
        <p role="alert" className="text-clay">
          The contacts cannot be read just now.
        </p>
      ) : !data ? (
        <p className="text-small text-ink-2">Reading…</p>
      ) : (
        <table className="mt-1 w-full text-small">
          <thead className="text-tiny text-ink-2">
            <tr>
              <th className="text-left font-normal">Decided</th>
              <th className="text-left font-normal">Queue</th>
              <th className="text-right font-normal">Able</th>
              <th className="pl-3 text-left font-normal">Took it</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((l, i) => (
              <tr key={`${l.id} ${i}`} className="border-t border-rule">
                <td className="py-0.5 whitespace-nowrap">
                  <Link href={`/contacts/${l.id}`} className="inline-flex items-center gap-1.5 text-plum underline">
                    <ChannelMark channel={l.channel} size={13} />
                    {asDayTime(l.decidedAt, zone)}
                  </Link>
                </td>
                <td className="max-w-24 truncate pl-2">{l.queue}</td>
                <td className="text-right tabular-nums">{l.able ?? '–'}</td>
                <td className="max-w-24 truncate pl-3">{l.mine ? names.mine : names.theirs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data && !whole && data.lines.length > FIRST && (
        <button type="button" className="mt-1 text-small text-plum underline" onClick={() => setWhole(true)}>
          {data.lines.length - FIRST} more
        </button>
      )}
      {data && whole && data.more > 0 && (
        <p className="mt-1 text-small text-ink-2">And {data.more} more: narrow the range to see them.</p>
      )}
    </Panel>
  );
}
