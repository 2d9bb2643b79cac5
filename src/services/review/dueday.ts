import { plusDays } from '../../core/hours/dates';
import { localDate } from '../../core/hours/weekly';
import { daySpan } from '../../core/measures/calendar';
import { firstContactAt } from '../../data/facts';
import { keptDays, SETTLED_MS, stillHolds } from '../../data/factdays';
import { lastFloorInstant } from '../../data/floortime';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';
import { makeDay, type MadeDay } from './factdays';

const DAY_MS = 86_400_000;

/**
 * The latest day that is over and not kept as it is now (once more when it is known who of it came back), made from the tables; null when there is none. Looks at every day
 * there is and reads one whole: for a thread of its own.
 */
export function makeDueDay(host: Host): MadeDay | null {
  const first = firstContactAt(host.db);
  if (first === null) return null;
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const now = host.times.floor();
  const latest = lastFloorInstant(host.db) ?? 0;
  const kept = new Map(keptDays(host.db, first - 2 * DAY_MS, now).map((day) => [day.fromAt, day]));
  for (let date = plusDays(localDate(now, zone), -1); ; date = plusDays(date, -1)) {
    const span = daySpan(date, zone);
    const { from, to } = span;
    if (to <= first) return null;
    const day = kept.get(from);
    const newlySettled = day?.settled === false && latest >= to + SETTLED_MS;
    if (!day || day.toAt !== to || newlySettled || !stillHolds(host.db, day)) return makeDay(host, span);
  }
}
