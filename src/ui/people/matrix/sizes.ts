'use client';

import type { Cell } from '@/services/people/peopleview';

export const [ROW, COLUMN, LEFT, HEAD, FOOT] = [32, 42, 250, 96, 46];

export const saysCell = (cell: Cell | undefined): string => {
  if (!cell) return 'none';
  if (cell.from === 'never') return 'never, set on the person';
  if (cell.from === 'ended') return `ended after ${cell.until ?? ''}`;
  const from =
    cell.from === 'own'
      ? 'set on the person'
      : cell.from === 'team'
        ? `from the team ${cell.giver ?? ''}`
        : `from the set ${cell.giver ?? ''}`;
  return `level ${cell.level}, ${from}${cell.until ? `, through ${cell.until}` : ''}`;
};

export const x = (index: number) => LEFT + index * COLUMN;
