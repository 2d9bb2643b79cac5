'use client';

import { clsx } from 'clsx';
import type { Cell } from '@/services/people/peopleview';

export const INK = [
  '',
  'bg-level-1 text-on-level',
  'bg-level-2 text-on-level',
  'bg-level-3 text-on-level',
  'bg-level-4 text-on-level-deep',
  'bg-level-5 text-on-level-deep',
];

/**
 * A level as ink: set on the person filled, given dashed, never struck, ended crossed out; a corner for an end that
 * is set.
 */
export function CellInk({ cell }: { cell: Cell | undefined }) {
  if (!cell) return null;
  const base =
    'relative flex h-[24px] w-[32px] items-center justify-center overflow-hidden rounded-[6px] text-small font-bold';
  if (cell.from === 'never')
    return <span className={clsx(base, 'border border-rule-strong bg-sunk text-ink-2')}>N</span>;
  if (cell.from === 'ended')
    return <span className={clsx(base, 'border border-dashed border-brass text-brass-ink')}>–</span>;
  return (
    <span
      className={clsx(base, cell.from === 'own' ? INK[cell.level] : 'border border-dashed border-level-team text-plum')}
    >
      {cell.level}
      {cell.until && (
        <span
          aria-hidden
          className="absolute top-0 right-0 border-t-[9px] border-l-[9px] border-t-brass-2 border-l-transparent"
        />
      )}
    </span>
  );
}
