'use client';

import { clsx } from 'clsx';
import type { WeeklyInterval } from '@/core/hours/weekly';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const minutesOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));

/** Whether hours are open at any time of an hour of the week (0 is Monday at midnight). */
const isOpen = (weekly: readonly WeeklyInterval[], hour: number): boolean =>
  weekly.some(({ day, from, to }) => {
    const start = (day - 1) * 1440 + minutesOf(from);
    // At or before its start is on the next day.
    const end = (day - 1) * 1440 + minutesOf(to) + (minutesOf(to) <= minutesOf(from) ? 1440 : 0);
    const [first, last] = [hour * 60, hour * 60 + 60];
    return (start < last && end > first) || (end > 10_080 && end - 10_080 > first);
  });

/**
 * One strip of the week: when it is open, and what it took in each hour of the last seven days; what is as much as it may take an
 * hour stands out.
 */
export function WeekStrip({
  weekly,
  took,
  perHour,
}: {
  /** Null is always open. */
  weekly: readonly WeeklyInterval[] | null;
  /** By the hour of the week, from Monday at midnight. */
  took: readonly number[];
  perHour: number | null;
}) {
  const most = Math.max(1, perHour ?? 0, ...took);
  const sum = took.reduce((n, x) => n + x, 0);
  return (
    <figure
      aria-label={`The week: ${weekly === null ? 'always open' : 'open by its hours'}, ${sum} taken in the last seven days`}
    >
      <div className="grid grid-cols-7 gap-1">
        {DAYS.map((name, day) => (
          <div key={name}>
            <div className="relative flex h-12 items-end overflow-hidden rounded-[5px] bg-sunk" aria-hidden>
              {Array.from({ length: 24 }, (_, h) => {
                const hour = day * 24 + h;
                const n = took[hour] ?? 0;
                return (
                  <span
                    key={h}
                    className={clsx(
                      'flex h-full flex-1 items-end',
                      (weekly === null || isOpen(weekly, hour)) && 'bg-moss-wash',
                    )}
                    title={`${name} ${String(h).padStart(2, '0')}: ${n}`}
                  >
                    <span
                      className={clsx('w-full', perHour !== null && n >= perHour ? 'bg-clay' : 'bg-moss')}
                      style={{ height: `${(n / most) * 100}%` }}
                    />
                  </span>
                );
              })}
            </div>
            <p className="flex gap-1.5 text-tiny text-ink-2">
              <span>{name}</span>
              <span className="font-semibold tabular-nums">
                {took.slice(day * 24, day * 24 + 24).reduce((a, b) => a + b, 0) || ''}
              </span>
            </p>
          </div>
        ))}
      </div>
      <figcaption className="text-tiny text-ink-2">
        Green is when it is open, bars what it took in each hour of the last seven days
        {perHour === null ? '.' : '; red ones are full hours.'}
      </figcaption>
    </figure>
  );
}
