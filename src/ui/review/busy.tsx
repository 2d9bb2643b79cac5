'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { BusyHour } from '@/services/review/figures';
import { Empty, Panel } from '../kit/panel';
import { DepthCell, ShownChoice, spanOf, timesOf, WeekGrid } from './weekgrid';

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
  const times = timesOf(from, to);
  const several = Object.values(times).some((n) => n > 1);
  const span = spanOf(busy.filter((b) => b.started + b.offered > 0).map((b) => b.hour));
  const at = new Map(busy.map((b) => [`${b.day}|${b.hour}`, b]));
  const mean = (day: number, hour: number) => (at.get(`${day}|${hour}`)?.started ?? 0) / (times[day] ?? 1);
  const most = Math.max(1, ...Object.keys(times).flatMap((day) => span.map((hour) => mean(Number(day), hour))));
  return (
    <Panel className="p-4" label="When it was busy">
      <div className="flex items-baseline gap-2">
        <h2 className="text-panel whitespace-nowrap">When it was busy</h2>
        <ShownChoice names={offered.map((one) => [one, SHOWN[one]])} shown={shown} onChoose={setShown} />
      </div>
      {span.length === 0 ? (
        <Empty title="No contact came in this range" />
      ) : (
        <WeekGrid
          times={times}
          span={span}
          totals={shown === 'started' ? mean : undefined}
          cell={(day, hour) => {
            const found = at.get(`${day}|${hour}`);
            return shown === 'started' ? (
              <DepthCell key={hour} depth={mean(day, hour) / most} n={mean(day, hour)} />
            ) : shown === 'inGoal' ? (
              <GoalCell key={hour} share={found?.inGoal ?? null} />
            ) : (
              <StaffCell key={hour} staff={found?.staff ?? null} />
            );
          }}
        />
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
