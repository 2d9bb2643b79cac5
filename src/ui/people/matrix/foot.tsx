'use client';

import { clsx } from 'clsx';
import { memo } from 'react';
import type { PeopleView, PersonLine } from '@/services/people/peopleview';
import { INK } from './cellink';
import { COLUMN } from './sizes';

const DAYS = ['', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

export const Foot = memo(function Foot({
  name,
  left,
  people,
  skillId,
  need,
}: {
  name: string;
  left: number;
  people: readonly PersonLine[];
  skillId: string;
  need: PeopleView['needs'][string] | undefined;
}) {
  const at = [0, 0, 0, 0, 0];
  for (const p of people) {
    const level = p.cells[skillId]?.level ?? 0;
    if (level > 0) at[level - 1] = (at[level - 1] ?? 0) + 1;
  }
  const holders = at.reduce((a, b) => a + b, 0);
  const most = Math.max(1, ...at);
  const when = need
    ? `; the busiest hour (${DAYS[need.day]} ${String(need.hour).padStart(2, '0')}:00) needed ${need.people}`
    : '';
  return (
    <span
      role="gridcell"
      title={`${name}: ${holders} hold it (${at.map((n, i) => `${n} at ${i + 1}`).join(', ')})${when}`}
      className="absolute top-0 flex h-full flex-col items-center justify-center gap-0.5"
      style={{ left, width: COLUMN }}
    >
      <span className="text-small">
        <b className={need && holders < need.people ? 'text-clay' : 'text-moss'}>{holders}</b>
        {need && <span className="text-ink-2">/{need.people}</span>}
      </span>
      <span aria-hidden className="flex h-[12px] items-end gap-px">
        {at.map((n, i) => (
          <span
            key={i}
            className={clsx('w-[4px] rounded-t-[1px]', INK[i + 1])}
            style={{ height: n === 0 ? 1 : 2 + (n / most) * 10 }}
          />
        ))}
      </span>
    </span>
  );
});
