import { openAt, openings, type WeekPattern } from '../hours/weekly';

/** A stretch of time in which a customer wants to be called, UTC ms. */
export type CallWindow = { readonly from: number; readonly to: number };

const TWO_HOURS = 2 * 3_600_000;
/** No window begins sooner than this: "as soon as possible" is there for that. */
const SOONEST = 3_600_000;

/**
 * The next windows of two hours within opening hours, in the week from when they are open. Without hours they begin on
 * the next full hours.
 */
export function callWindows(hours: WeekPattern | null, now: number, count: number): CallWindow[] {
  const opening = hours && openAt(hours, now);
  const openFrom = !opening || opening.open ? now : opening.opensAt;
  if (openFrom === null) return [];
  const open = hours ? openings(hours, openFrom, -1, 7) : [{ start: now, end: now + 2 * 86_400_000 }];
  const found: CallWindow[] = [];
  for (const { start, end } of open) {
    const first = Math.max(start, Math.ceil((now + SOONEST) / 3_600_000) * 3_600_000);
    for (let from = first; from + TWO_HOURS / 2 <= end && found.length < count; from += TWO_HOURS)
      found.push({ from, to: Math.min(end, from + TWO_HOURS) });
    if (found.length >= count) break;
  }
  return found;
}
