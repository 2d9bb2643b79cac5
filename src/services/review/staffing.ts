import { BUSY_SHARE } from '../../core/people/coverage';
import { DEFAULT_LOAD } from '../../core/people/load';
import type { Channel } from '../../core/channels';
import type { FactDay } from '../../core/measures/columns';
import { tally } from '../../core/measures/counting';
import { groupOf } from '../../core/measures/grouping';
import { readPeople } from '../../data/people';
import { statesOf } from '../../data/personstates';
import type { Host } from '../ground/host';
import type { Range } from './asking';

/** People in an hour of the week, means over such hours: who was on duty, and how many what came needed. */
export type HourStaff = { readonly onDuty: number; readonly needed: number };
export const hourKey = (weekday: number, hour: number): string => `${weekday}|${hour}`;

const HOUR_MS = 3_600_000;
/** Over more days than this it is not counted: everybody’s states would have to be read. */
const MOST_DAYS = 62;

/**
 * People on duty against people needed, by weekday and hour. Needed: what entered queues in the hour × the mean handle time
 * of its channel × what it takes of a person ÷ 0.85, as shifts are planned by. Null where the range is long, or narrowed:
 * people are there for all that comes.
 */
export function staffByHour(
  host: Host,
  days: readonly FactDay[],
  { narrowing }: Range,
): ReadonlyMap<string, HourStaff> | null {
  const { until: _until, ...narrowed } = narrowing;
  if (days.length > MOST_DAYS || Object.keys(narrowed).length > 0) return null;
  const times = new Map<string, number>();
  for (const { weekday, hours } of days)
    for (const hour of hours) times.set(hourKey(weekday, hour), (times.get(hourKey(weekday, hour)) ?? 0) + 1);
  const [needed, onDuty] = [neededByHour(days), onDutyByHour(host, days)];
  return new Map(
    [...times].map(([key, n]) => [key, { onDuty: (onDuty.get(key) ?? 0) / n, needed: (needed.get(key) ?? 0) / n }]),
  );
}

/** Person-hours that what entered in each hour of the week takes, added up. */
function neededByHour(days: readonly FactDay[]): ReadonlyMap<string, number> {
  const handled = tally(days, {}, { by: ['channel'], parts: ['legs'] });
  const needed = new Map<string, number>();
  for (const [name, { visits }] of tally(days, {}, { by: ['weekday', 'hour', 'channel'], parts: ['visits'] })) {
    const [weekday = '', hour = '', channel = ''] = groupOf(name);
    const { count, sum } = handled.get(channel)?.legs.handles ?? { count: 0, sum: 0 };
    if (count === 0) continue;
    const share = DEFAULT_LOAD[channel as Channel].cost / 100;
    const key = hourKey(Number(weekday), Number(hour));
    needed.set(key, (needed.get(key) ?? 0) + (visits.offered * (sum / count / HOUR_MS) * share) / BUSY_SHARE);
  }
  return needed;
}

/** Person-hours of people on duty in each hour of the week, added up. */
function onDutyByHour(host: Host, days: readonly FactDay[]): ReadonlyMap<string, number> {
  const onDuty = new Map<string, number>();
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last) return onDuty;
  const end = Math.min(last.to, host.times.floor());
  for (const { id } of readPeople(host.db)) {
    const ready = statesOf(host.db, id, first.from, end).filter((s) => s.duty === 'ready');
    let i = 0;
    for (const day of days)
      day.hours.forEach((hour, slot) => {
        const from = day.from + slot * HOUR_MS;
        const to = Math.min(from + HOUR_MS, day.to);
        while (i < ready.length && (ready[i]?.to ?? 0) <= from) i++;
        let there = 0;
        for (let k = i; k < ready.length && (ready[k]?.from ?? to) < to; k++)
          there += Math.min(ready[k]?.to ?? from, to) - Math.max(ready[k]?.from ?? to, from);
        const key = hourKey(day.weekday, hour);
        if (there > 0) onDuty.set(key, (onDuty.get(key) ?? 0) + there / HOUR_MS);
      });
  }
  return onDuty;
}
