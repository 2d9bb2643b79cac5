'use client';

import { clsx } from 'clsx';
import type { Limits } from '@/core/routing/limits';
import type { UseNow } from '@/services/queues/groupsview';

/** Uses so far beside each limit: "3 of 8". */
export function UseTable({ use, limits }: { use: UseNow; limits: Limits }) {
  const rows = [
    ['at once', use.open, limits.atOnce],
    ['this hour', use.hour, limits.perHour],
    ['today', use.day, limits.perDay],
    ['this month', use.month, limits.perMonth],
  ] as const;
  return (
    <dl className="grid grid-cols-4 gap-2">
      {rows.map(([name, used, most]) => (
        <div key={name} className="rounded-control bg-sunk px-2 py-1">
          <dt className="text-tiny text-ink-2">{name}</dt>
          <dd className={clsx('font-semibold', most !== null && used >= most && 'text-clay')}>
            {used}
            {most !== null && <span className="font-normal text-ink-2"> of {most}</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}
