'use client';

import { clsx } from 'clsx';
import type { EachRow, Kind } from '@/services/review/each';
import type { FigureWords } from '@/services/review/figures';
import { asFigure } from '../kit/figures';
import { Link } from '../kit/link';
import { type Column, Table } from '../kit/table';
import { changeWords, isBetter, reviewHref } from './address';
import { STANDING_WORDS } from './goals';

/** Shares that stand to a goal. */
const JUDGED: ReadonlySet<string> = new Set(['met', 'service-level']);

/** Each thing of a kind and its figures. The first is drawn: bar this range, tick the one before. A figure opens its contacts. */
export function EachTable({
  kind,
  head,
  columns,
  rows,
  address,
  onOpen,
  compared,
  changes = false,
  inOrder = false,
}: {
  kind: Kind;
  head: string;
  columns: readonly FigureWords[];
  rows: readonly EachRow[];
  address: Readonly<Record<string, string>>;
  onOpen: (id: string, measure: string) => void;
  /** Whether the log has all of the range before: else counts cannot be compared. */
  compared: boolean;
  /** Whether the change of each figure is said beside it. */
  changes?: boolean;
  /** Whether the rows have an order of their own; else they begin with the most. */
  inOrder?: boolean;
}) {
  const [first, ...others] = columns;
  const most = Math.max(1, ...rows.flatMap((r) => (first ? [r.values[first.id] ?? 0, r.before[first.id] ?? 0] : [])));
  const figure = (c: FigureWords): Column<EachRow> => ({
    id: c.id,
    head: <span title={c.formula}>{c.name}</span>,
    figure: true,
    by: (row) => row.values[c.id] ?? null,
    cell: (row) => {
      const [value, before] = [row.values[c.id] ?? null, row.before[c.id] ?? null];
      const good = isBetter(c, value, before);
      const judged = JUDGED.has(c.id) && row.standing;
      return (
        <span className="inline-flex items-baseline gap-1.5">
          <button
            type="button"
            disabled={(row.counts[c.id] ?? 0) === 0}
            className={clsx('hover:underline', judged === 'missed' && 'font-semibold text-clay')}
            title={judged ? STANDING_WORDS[judged] : undefined}
            aria-label={`${row.name}: ${c.name} ${asFigure(value, c.unit)}, see the contacts`}
            onClick={() => onOpen(row.id, c.id)}
          >
            {asFigure(value, c.unit)}
          </button>
          {changes && (compared || c.unit !== 'count') && (
            <span
              className={clsx(
                'w-16 text-left text-tiny',
                good === null ? 'text-ink-3' : good ? 'text-moss' : 'text-clay',
              )}
            >
              {changeWords(c.unit, value, before)}
            </span>
          )}
        </span>
      );
    },
  });
  return (
    <Table
      compact
      label={`Each ${head.toLowerCase()}`}
      rows={rows}
      idOf={(row) => row.id}
      {...(first && !inOrder ? { sorted: { id: first.id, falling: true } } : {})}
      columns={[
        {
          id: 'name',
          head,
          by: (row) => row.name,
          cell: (row) => (
            <Link
              href={reviewHref(`/review/${kind}/${encodeURIComponent(row.id)}`, address)}
              className="font-medium hover:underline"
            >
              {row.name}
            </Link>
          ),
        },
        ...(first
          ? [
              {
                id: first.id,
                head: <span title={first.formula}>{first.name}</span>,
                by: (row: EachRow) => row.values[first.id] ?? null,
                falls: true,
                cell: (row: EachRow) => (
                  <span className="flex items-center gap-2">
                    <button
                      type="button"
                      className="w-10 text-right tabular-nums hover:underline"
                      onClick={() => onOpen(row.id, first.id)}
                    >
                      {asFigure(row.values[first.id] ?? null, first.unit)}
                    </button>
                    <span aria-hidden className="relative h-2.5 w-24 rounded bg-sunk">
                      <span
                        className="absolute inset-y-0 left-0 rounded bg-plum-2"
                        style={{ width: `${((row.values[first.id] ?? 0) / most) * 100}%` }}
                      />
                      {compared && (row.before[first.id] ?? 0) > 0 && (
                        <span
                          className="absolute -inset-y-0.5 w-0.5 bg-ink"
                          style={{ left: `${((row.before[first.id] ?? 0) / most) * 100}%` }}
                        />
                      )}
                    </span>
                  </span>
                ),
              } satisfies Column<EachRow>,
            ]
          : []),
        ...others.map(figure),
      ]}
    />
  );
}
