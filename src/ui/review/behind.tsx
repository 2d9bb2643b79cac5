'use client';

import { Link } from '../kit/link';
import { CONTACT_END_WORDS } from '@/core/measures/facts';
import type { BehindView } from '@/services/review/review';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { asClock, asCount, asDayTime, asFigure } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty } from '../kit/panel';
import { Table } from '../kit/table';

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
            <Table
              compact
              label="Contacts behind the figure"
              rows={data.lines}
              idOf={(l) => l.id}
              columns={[
                {
                  id: 'started',
                  head: 'Started',
                  by: (l) => l.startedAt,
                  cell: (l) => (
                    <Link
                      href={`/contacts/${l.id}`}
                      className="inline-flex items-center gap-2 font-medium text-plum underline"
                    >
                      <ChannelMark channel={l.channel} size={14} />
                      {asDayTime(l.startedAt, zone)}
                    </Link>
                  ),
                },
                { id: 'queues', head: 'Queues', by: (l) => l.queues, cell: (l) => l.queues },
                { id: 'people', head: 'People', by: (l) => l.people, cell: (l) => l.people },
                {
                  id: 'waited',
                  head: 'Longest wait',
                  figure: true,
                  by: (l) => l.waited,
                  cell: (l) => asClock(l.waited),
                },
                {
                  id: 'ended',
                  head: 'Ended',
                  className: 'text-ink-2',
                  cell: (l) => (l.endedHow ? CONTACT_END_WORDS[l.endedHow] : 'still open'),
                },
              ]}
            />
          </>
        ))}
      <div className="mt-3">
        <Button onClick={onClose}>Close</Button>
      </div>
    </Dialog>
  );
}
