'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { CONTACT_END_WORDS } from '@/core/measures/facts';
import type { BehindView } from '@/services/review/behindfigure';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { asClock, asCount, asDayTime, asFigure } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty } from '../kit/panel';
import { Table } from '../kit/table';
import { reviewHref } from './address';

/** Which figure's contacts are looked at, and of which thing where it is of one. */
export type Opened = {
  readonly measure: string;
  readonly kind?: string;
  readonly id?: string;
  /** What else it is narrowed to than the page is. */
  readonly narrowed?: Readonly<Record<string, string>>;
};
type Side = '' | 'with' | 'without';

/** The contacts behind a figure, a page at a time; of a share, both sides can be looked at. */
export function Behind({
  address,
  opened,
  zone,
  onClose,
}: {
  address: Readonly<Record<string, string>>;
  opened: Opened;
  zone: string;
  onClose: () => void;
}) {
  const { narrowed, ...of } = opened;
  const [side, setSide] = useState<Side>('');
  const [page, setPage] = useState(0);
  const { data, error } = useLive<BehindView>(
    reviewHref('/api/read/behind', address, { ...of, ...narrowed, side, page: page === 0 ? '' : String(page) }),
    [],
  );
  const choose = (next: Side) => {
    setSide(next);
    setPage(0);
  };
  return (
    <Dialog
      wide
      open
      onClose={onClose}
      title={data ? `${data.of ? `${data.of}: ` : ''}${data.name} ${asFigure(data.value, data.unit)}` : 'Reading…'}
      {...(data ? { description: data.formula } : {})}
    >
      {error && (
        <p role="alert" className="text-clay">
          The contacts cannot be read just now.
        </p>
      )}
      {data && (
        <>
          <div className="mb-2 flex flex-wrap items-center gap-2 text-small text-ink-2">
            <span>
              {asCount(data.total)} {data.total === 1 ? 'contact' : 'contacts'}
            </span>
            {data.unit === 'share' && (
              <span role="group" aria-label="Which side" className="flex gap-1">
                {(
                  [
                    ['', 'all'],
                    ['with', `counted in: ${asCount(data.sides.with)}`],
                    ['without', `not: ${asCount(data.sides.without)}`],
                  ] as const
                ).map(([one, name]) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={side === one}
                    onClick={() => choose(one)}
                    className={clsx('rounded-full px-2.5', side === one ? 'bg-plum-wash text-plum' : 'hover:bg-sunk')}
                  >
                    {name}
                  </button>
                ))}
              </span>
            )}
            {data.pages > 1 && (
              <span className="ml-auto flex items-center gap-1.5">
                <Button small disabled={page === 0} aria-label="The page before" onClick={() => setPage(page - 1)}>
                  ←
                </Button>
                {page + 1} of {asCount(data.pages)}
                <Button
                  small
                  disabled={page + 1 >= data.pages}
                  aria-label="The next page"
                  onClick={() => setPage(page + 1)}
                >
                  →
                </Button>
              </span>
            )}
          </div>
          {data.lines.length === 0 ? (
            <Empty title="No contact stands behind this figure" />
          ) : (
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
          )}
        </>
      )}
      <div className="mt-3">
        <Button onClick={onClose}>Close</Button>
      </div>
    </Dialog>
  );
}
