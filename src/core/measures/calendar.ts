import { TZDate } from '@date-fns/tz';
import { weekdayOf } from '../hours/dates';
import { endOfDay, startOfDay } from '../hours/weekly';
import type { DaySpan } from './columns';

const HOUR_MS = 3_600_000;
const ORDINARY = Array.from({ length: 24 }, (_, hour) => hour);

/** A local day (`YYYY-MM-DD`) of a zone. */
export function daySpan(date: string, zone: string): DaySpan {
  const [from, to] = [startOfDay(date, zone), endOfDay(date, zone)];
  const hours =
    to - from === 24 * HOUR_MS
      ? ORDINARY
      : Array.from({ length: Math.ceil((to - from) / HOUR_MS) }, (_, i) =>
          new TZDate(from + i * HOUR_MS, zone).getHours(),
        );
  return { from, to, weekday: weekdayOf(date), hours };
}
