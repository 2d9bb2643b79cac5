import { startOfToday } from '../../core/hours/weekly';
import { openAt } from '../../core/hours/weekly';
import { NO_SHIFT } from '../../core/people/coverage';
import { SHIFTS } from '../../data/duty';
import { readPeople } from '../../data/people';
import { busiestHourOf } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';
import { zoneOfPerson } from '../people/peoplebook';

/**
 * The hour of the last four weeks in which most contacts entered a queue, and who is planned for the same hour this
 * week.
 */
export type BusiestHour = { readonly at: number; readonly contacts: number; readonly planned: ReadonlySet<string> };

const WEEK = 7 * 86_400_000;
const HOUR = 3_600_000;

/** Finds a queue's busiest hour; null when nothing has come yet. */
export function busiestHour(host: Host, queueId: string): BusiestHour | null {
  const now = host.times.floor();
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const found = busiestHourOf(host.db, queueId, now - 4 * WEEK);
  if (!found) return null;
  // The same hour in the week that begins today, so that dated days count as they are planned.
  const today = startOfToday(now, zone);
  let at = found.hour * HOUR;
  while (at < today) at += WEEK;
  const shifts = new Map(SHIFTS.all(host.db).map((s) => [s.id, s]));
  const planned = new Set(
    readPeople(host.db)
      .filter((p) => p.active)
      .flatMap((p) => {
        const shift = shifts.get(p.id) ?? shifts.get(p.teamId) ?? NO_SHIFT;
        return openAt({ zone: zoneOfPerson(host, p), ...shift }, at + HOUR / 2).open ? [p.id] : [];
      }),
  );
  return { at, contacts: found.n, planned };
}
