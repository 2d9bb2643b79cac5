import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import { daysFrom, weekdayOf } from '@/core/hours/dates';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** How often each weekday (Monday 1) is in a range of dates. */
export const timesOf = (from: string, to: string): Readonly<Record<number, number>> =>
  daysFrom(from, to).reduce<Record<number, number>>((n, date) => {
    const day = weekdayOf(date);
    n[day] = (n[day] ?? 0) + 1;
    return n;
  }, {});

/** The hours from the first to the last of some, and nothing of the night around them. */
export function spanOf(hours: readonly number[]): number[] {
  if (hours.length === 0) return [];
  const first = Math.min(...hours);
  return Array.from({ length: Math.max(...hours) - first + 1 }, (_, i) => first + i);
}

/** The weekdays of a range by the hours of the day, a cell each; `totals` adds what a day comes to, and the mean of an hour. */
export function WeekGrid({
  times,
  span,
  cell,
  totals,
}: {
  times: Readonly<Record<number, number>>;
  span: readonly number[];
  cell: (day: number, hour: number) => ReactNode;
  totals?: ((day: number, hour: number) => number) | undefined;
}) {
  const days = DAYS.map((name, i) => ({ name, day: i + 1 })).filter(({ day }) => times[day]);
  return (
    <table className="mt-1 w-full table-fixed border-separate border-spacing-[1px] text-center text-[9.5px] tabular-nums">
      <thead className="text-ink-2">
        <tr>
          <th className="w-7" />
          {span.map((hour) => (
            <th key={hour} scope="col" className="font-normal">
              {hour}
            </th>
          ))}
          {totals && (
            <th scope="col" className="w-9 font-normal">
              day
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {days.map(({ name, day }) => (
          <tr key={day}>
            <th scope="row" className="text-left font-normal text-ink-2">
              {name}
            </th>
            {span.map((hour) => cell(day, hour))}
            {totals && <td className="text-ink-2">{rounded(span.reduce((n, hour) => n + totals(day, hour), 0))}</td>}
          </tr>
        ))}
      </tbody>
      {totals && days.length > 1 && (
        <tfoot className="text-ink-2">
          <tr>
            <th scope="row" className="text-left font-normal">
              mean
            </th>
            {span.map((hour) => (
              <td key={hour}>{rounded(days.reduce((n, { day }) => n + totals(day, hour), 0) / days.length)}</td>
            ))}
            <td />
          </tr>
        </tfoot>
      )}
    </table>
  );
}

/** A number of which more is darker; `depth` is 0 to 1. */
export const DepthCell = ({ depth, n }: { depth: number; n: number }) => (
  <td className="relative h-[18px] overflow-hidden rounded-[4px] bg-sunk p-0">
    <span className="absolute inset-0 bg-plum" style={{ opacity: depth === 0 ? 0 : 0.1 + depth * 0.9 }} />
    <span className={clsx('relative', depth > 0.6 ? 'text-sheet' : 'text-ink')}>{rounded(n)}</span>
  </td>
);

const rounded = (n: number): string => (n === 0 ? '' : n < 1 ? '<1' : String(Math.round(n)));

/** What a grid shows, one of several. */
export const ShownChoice = <S extends string>({
  names,
  shown,
  onChoose,
}: {
  names: readonly (readonly [S, string])[];
  shown: S;
  onChoose: (one: S) => void;
}) => (
  <span className="ml-auto flex gap-1" role="group" aria-label="What is shown">
    {names.map(([one, name]) => (
      <button
        key={one}
        type="button"
        aria-pressed={shown === one}
        onClick={() => onChoose(one)}
        className={clsx(
          'rounded-full px-2 text-tiny whitespace-nowrap',
          shown === one ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk',
        )}
      >
        {name}
      </button>
    ))}
  </span>
);
