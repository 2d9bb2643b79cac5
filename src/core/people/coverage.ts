import { openingsBetween, type DatedDay, type WeeklyInterval, type WeekPattern } from '../hours/weekly';

/** When somebody should be on duty: a week with dated exceptions, in local time. */
export type Shift = { readonly weekly: readonly WeeklyInterval[]; readonly exceptions: readonly DatedDay[] };
export const NO_SHIFT: Shift = { weekly: [], exceptions: [] };

export const HALF_HOUR = 1_800_000;

/**
 * How many people should be on duty in each half-hour from an instant: whole people, counted where they are there for
 * at least half of it.
 */
export function plannedPerHalfHour(patterns: readonly WeekPattern[], from: number, halfHours: number): number[] {
  const counts = new Array<number>(halfHours).fill(0);
  for (const pattern of patterns) {
    for (const { start, end } of openingsBetween(pattern, from, from + halfHours * HALF_HOUR)) {
      for (let i = Math.floor((start - from) / HALF_HOUR); i * HALF_HOUR + from < end; i++) {
        const covered = Math.min(end, from + (i + 1) * HALF_HOUR) - Math.max(start, from + i * HALF_HOUR);
        if (covered >= HALF_HOUR / 2) counts[i] = (counts[i] ?? 0) + 1;
      }
    }
  }
  return counts;
}

/** One stretch of work: `share` is how much of a person it held (load / 100). */
export type Work = { readonly from: number; readonly to: number; readonly share: number };

/** Person-equivalents at work per slot: handled seconds × share ÷ slot length (offered load, in erlangs of people). */
export function workPerSlot(work: Iterable<Work>, from: number, slots: number, slotMs: number): Float64Array {
  const sums = new Float64Array(slots);
  for (const { from: start, to: end, share } of work) {
    const first = Math.max(0, Math.floor((start - from) / slotMs));
    for (let i = first; i < slots && from + i * slotMs < end; i++) {
      const covered = Math.min(end, from + (i + 1) * slotMs) - Math.max(start, from + i * slotMs);
      if (covered > 0) sums[i] = (sums[i] ?? 0) + (covered / slotMs) * share;
    }
  }
  return sums;
}

/** The share of their time that people can be busy without queues growing out of hand: what needs are sized by. */
export const BUSY_SHARE = 0.85;
/** People needed for an offered load: load ÷ 0.85, rounded up; no load needs nobody. */
export const peopleNeeded = (load: number): number => (load <= 0.005 ? 0 : Math.ceil(load / BUSY_SHARE - 1e-9));
