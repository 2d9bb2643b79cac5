'use client';

import Link from 'next/link';
import { CONTACT_END_WORDS } from '@/core/measures/facts';
import type { BehindView } from '@/services/review/review';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { asClock, asCount, asDayTime, asFigure } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty } from '../kit/panel';

export function Behind({
  asked,
  zone,
  onClose,
}: {
  asked: Record<string, string | undefined>;
  zone: string;
  onClose: () => void;
}) {
  const query = new URLSearchParams(
    Object.entries(asked).filter((e): e is [string, string] => e[1] !== undefined && e[1] !== ''),
  ).toString();
  const { data, error } = useLive<BehindView>(`/api/read/behind?${query}`, []);
  return (
    <Dialog
      wide
      open
      onClose={onClose}
      title={data ? `${data.title}: ${asFigure(data.value, data.unit)}` : 'Reading…'}
      {...(data ? { description: data.formula } : {})}
    >
      {error && (
        <p role="alert" className="text-clay">
          The contacts cannot be read just now.
        </p>
      )}
      {data &&
        (data.lines.length === 0 ? (
          <Empty title="No contact stands behind this figure" />
        ) : (
          <>
            <p className="mb-2 text-small text-ink-2">
              {asCount(data.total)} {data.total === 1 ? 'contact' : 'contacts'}
              {data.total > data.lines.length ? `, the first ${data.lines.length} shown` : ''}
            </p>
            <table className="w-full text-left text-small">
              <thead className="text-tiny text-ink-2">
                <tr>
                  <th className="py-1 font-medium">Started</th>
                  <th className="font-medium">Queues</th>
                  <th className="font-medium">People</th>
                  <th className="pr-3 text-right font-medium">Longest wait</th>
                  <th className="font-medium">Ended</th>
                </tr>
              </thead>
              <tbody>
                {data.lines.map((l) => (
                  <tr key={l.id} className="border-t border-rule">
                    <td className="py-1">
                      <Link
                        href={`/contacts/${l.id}`}
                        className="inline-flex items-center gap-2 font-medium text-plum underline"
                      >
                        <ChannelMark channel={l.channel} size={14} />
                        {asDayTime(l.startedAt, zone)}
                      </Link>
                    </td>
                    <td>{l.queues}</td>
                    <td>{l.people}</td>
                    <td className="pr-3 text-right">{asClock(l.waited)}</td>
                    <td className="text-ink-2">{l.endedHow ? CONTACT_END_WORDS[l.endedHow] : 'still open'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        ))}
      <div className="mt-3">
        <Button onClick={onClose}>Close</Button>
      </div>
    </Dialog>
  );
}
