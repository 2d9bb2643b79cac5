'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { daysFrom, weekdayOf } from '@/core/hours/dates';
import type { BusyHour } from '@/services/review/figures';
import { Empty, Panel } from '../kit/panel';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const SHOWN = {
  started: 'contacts',
  inGoal: '% in goal',
  staff: 'people short',
} as const;
type Shown = keyof typeof SHOWN;

/** When it was busy: each weekday and hour, a mean where the range has several such days; with what each adds up to. */
export function Busy({ busy, from, to }: { busy: readonly BusyHour[]; from: string; to: string }) {
  const [shown, setShown] = useState<Shown>('started');
  // People are there for all that comes: what is narrowed does not say how many it needed.
  const offered = (Object.keys(SHOWN) as Shown[]).filter(
    (one) => one !== 'staff' || busy.some((b) => b.staff !== null),
  );
  const times = daysFrom(from, to).reduce<Record<number, number>>((n, date) => {
    const day = weekdayOf(date);
    n[day] = (n[day] ?? 0) + 1;
    return n;
  }, {});
  const several = Object.values(times).some((n) => n > 1);
  const hours = [...new Set(busy.filter((b) => b.started + b.offered > 0).map((b) => b.hour))].sort((a, b) => a - b);
  const span =
    hours.length === 0
      ? []
      : Array.from({ length: (hours.at(-1) ?? 0) - (hours[0] ?? 0) + 1 }, (_, i) => (hours[0] ?? 0) + i);
  const days = DAYS.map((name, i) => ({ name, day: i + 1 })).filter(({ day }) => times[day]);
  const at = new Map(busy.map((b) => [`${b.day}|${b.hour}`, b]));
  const mean = (day: number, hour: number) => (at.get(`${day}|${hour}`)?.started ?? 0) / (times[day] ?? 1);
  const most = Math.max(1, ...days.flatMap(({ day }) => span.map((hour) => mean(day, hour))));
  const ofDay = (day: number) => span.reduce((n, hour) => n + mean(day, hour), 0);
  const ofHour = (hour: number) => days.reduce((n, { day }) => n + mean(day, hour), 0) / Math.max(1, days.length);
  return (
    <Panel className="p-4" label="When it was busy">
      <div className="flex items-baseline gap-2">
        <h2 className="text-panel whitespace-nowrap">When it was busy</h2>
        <span className="ml-auto flex gap-1" role="group" aria-label="What is shown">
          {offered.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={shown === one}
              onClick={() => setShown(one)}
              className={clsx(
                'rounded-full px-2 text-tiny whitespace-nowrap',
                shown === one ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk',
              )}
            >
              {SHOWN[one]}
            </button>
          ))}
        </span>
      </div>
      {span.length === 0 ? (
        <Empty title="No contact came in this range" />
      ) : (
        <table className="mt-1 w-full table-fixed border-separate border-spacing-[1px] text-center text-[9.5px] tabular-nums">
          <thead className="text-ink-2">
            <tr>
              <th className="w-7" />
              {span.map((h) => (
                <th key={h} scope="col" className="font-normal">
                  {h}
                </th>
              ))}
              {shown === 'started' && (
                <th scope="col" className="w-8 font-normal">
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
                {span.map((h) => {
                  const cell = at.get(`${day}|${h}`);
                  return shown === 'started' ? (
                    <Cell key={h} depth={mean(day, h) / most} text={rounded(mean(day, h))} />
                  ) : shown === 'inGoal' ? (
                    <GoalCell key={h} share={cell?.inGoal ?? null} />
                  ) : (
                    <StaffCell key={h} staff={cell?.staff ?? null} />
                  );
                })}
                {shown === 'started' && <td className="text-ink-2">{rounded(ofDay(day))}</td>}
              </tr>
            ))}
          </tbody>
          {shown === 'started' && days.length > 1 && (
            <tfoot className="text-ink-2">
              <tr>
                <th scope="row" className="text-left font-normal">
                  mean
                </th>
                {span.map((h) => (
                  <td key={h}>{rounded(ofHour(h))}</td>
                ))}
                <td />
              </tr>
            </tfoot>
          )}
        </table>
      )}
      {shown === 'staff' && (
        <p className="text-tiny text-ink-2">
          people on duty less people needed for what came, all queues together; planned so that people are busy 85%
        </p>
      )}
      {several && <p className="text-tiny text-ink-2">means of the days of the range</p>}
    </Panel>
  );
}
const rounded = (n: number): string => (n === 0 ? '' : n < 1 ? '<1' : String(Math.round(n)));

const Cell = ({ depth, text }: { depth: number; text: string }) => (
  <td className="relative h-[18px] overflow-hidden rounded-[4px] bg-sunk p-0">
    <span className="absolute inset-0 bg-plum" style={{ opacity: depth === 0 ? 0 : 0.1 + depth * 0.9 }} />
    <span className={clsx('relative', depth > 0.45 ? 'text-sheet' : 'text-ink')}>{text}</span>
  </td>
);
const GoalCell = ({ share }: { share: number | null }) => (
  <td
    className={clsx(
      'h-[18px] rounded-[4px] p-0',
      share === null
        ? 'bg-sunk'
        : share >= 0.8
          ? 'bg-moss-wash text-moss'
          : share >= 0.6
            ? 'bg-brass-wash text-brass-ink'
            : 'bg-clay-wash text-clay',
    )}
  >
    {share === null ? '' : Math.round(share * 100)}
  </td>
);

/** Fewer than needed is warm; nobody needed and nobody there is nothing. */
const StaffCell = ({ staff }: { staff: BusyHour['staff'] }) => {
  const more = staff ? Math.round(staff.onDuty) - Math.ceil(staff.needed) : 0;
  const none = !staff || (staff.onDuty < 0.5 && staff.needed < 0.5);
  return (
    <td
      title={staff ? `${staff.onDuty.toFixed(1)} on duty, ${staff.needed.toFixed(1)} needed` : undefined}
      className={clsx(
        'h-[18px] rounded-[4px] p-0',
        none
          ? 'bg-sunk'
          : more >= 0
            ? 'bg-moss-wash text-moss'
            : more >= -2
              ? 'bg-brass-wash text-brass-ink'
              : 'bg-clay-wash text-clay',
      )}
    >
      {none ? '' : more > 0 ? `+${more}` : more < 0 ? `−${-more}` : '0'}
    </td>
  );
};
