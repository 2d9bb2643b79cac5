'use client';

import { clsx } from 'clsx';
import { useState, type ReactNode } from 'react';

export type Column<Row> = {
  /** Unique in its table; what sorting remembers. */
  readonly id: string;
  readonly head: ReactNode;
  readonly cell: (row: Row) => ReactNode;
  /** A figure stands at the right, so that it compares down its column. */
  readonly figure?: boolean;
  /** What the column is sorted by; without it there is nothing to press in its head. Nothing known comes last. */
  readonly by?: (row: Row) => string | number | null;
  /** Whether the first press begins with the most; figures do. */
  readonly falls?: boolean;
  /** Of its cells. */
  readonly className?: string | ((row: Row) => string);
};
type Sorting = { readonly id: string; readonly falling: boolean };

/** Rows in the order of a column; equal ones keep the order they came in. */
export function inOrder<Row>(rows: readonly Row[], by: (row: Row) => string | number | null, falling: boolean): Row[] {
  const side = falling ? -1 : 1;
  return rows.toSorted((one, other) => {
    const [a, b] = [by(one), by(other)];
    if (a === null || b === null) return Number(a === null) - Number(b === null);
    return side * (typeof a === 'string' || typeof b === 'string' ? String(a).localeCompare(String(b)) : a - b);
  });
}

/**
 * Rows under a head that stays in sight. A column with `by` is sorted by pressing its head: figures fall first, words
 * rise first, once more turns it round. Figures stand at the right in tabular digits.
 */
export function Table<Row>({
  label,
  rows,
  columns,
  idOf,
  sorted: begin,
  rowClass,
  compact = false,
}: {
  label: string;
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  idOf: (row: Row) => string;
  /** By what it is sorted until somebody presses a head; else rows stand as they came. */
  sorted?: Sorting;
  rowClass?: (row: Row) => string | false | undefined;
  /** In dialogs and beside other things: smaller, and without the wide edge of a page's table. */
  compact?: boolean;
}) {
  const [sorting, setSorting] = useState<Sorting | undefined>(begin);
  const by = columns.find((c) => c.id === sorting?.id)?.by;
  const shown = sorting && by ? inOrder(rows, by, sorting.falling) : rows;
  const edge = compact ? 'first:pl-2 last:pr-2' : 'first:pl-4 last:pr-4';
  const press = ({ id, figure = false, falls = figure }: Column<Row>) =>
    setSorting({ id, falling: sorting?.id === id ? !sorting.falling : falls });
  return (
    <table aria-label={label} className={clsx('w-full text-left', compact && 'text-small')}>
      <thead className="sticky top-0 z-[1] bg-sheet text-tiny text-ink-2">
        <tr>
          {columns.map((c) => {
            const here = c.by && sorting?.id === c.id;
            return (
              <th
                key={c.id}
                scope="col"
                aria-sort={c.by && (here ? (sorting.falling ? 'descending' : 'ascending') : 'none')}
                className={clsx('pr-3 font-medium', compact ? 'py-1' : 'py-2', edge, c.figure && 'text-right')}
              >
                {c.by ? (
                  <button type="button" className={clsx(here && 'font-semibold text-ink')} onClick={() => press(c)}>
                    {c.head}
                    {here && (sorting.falling ? ' ↓' : ' ↑')}
                  </button>
                ) : (
                  c.head
                )}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {shown.map((row) => (
          <tr key={idOf(row)} className={clsx('border-t border-rule', rowClass?.(row) || 'hover:bg-sunk/50')}>
            {columns.map((c) => (
              <td
                key={c.id}
                className={clsx(
                  'pr-3',
                  compact ? 'py-1' : 'py-2',
                  edge,
                  c.figure && 'text-right tabular-nums',
                  typeof c.className === 'function' ? c.className(row) : c.className,
                )}
              >
                {c.cell(row)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
