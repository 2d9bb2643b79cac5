import type { VisitFact } from './facts';

/** Give-ups within this many seconds of entering are short: shown, but left out of rates. */
export const SHORT_SECONDS = 5;

export const waitSeconds = (visit: Pick<VisitFact, 'placedAt' | 'endedAt'>): number =>
  ((visit.endedAt ?? visit.placedAt) - visit.placedAt) / 1000;
export const isShortGiveUp = (visit: VisitFact): boolean =>
  visit.end === 'gave-up' && ((visit.endedAt ?? visit.enteredAt) - visit.enteredAt) / 1000 <= SHORT_SECONDS;

/** Accepted within goal. */
export const inGoal = (visit: Pick<VisitFact, 'end' | 'placedAt' | 'endedAt' | 'goalSeconds'>): boolean =>
  visit.end === 'accepted' && waitSeconds(visit) <= visit.goalSeconds;

/**
 * Service level: accepted within goal ÷ (accepted + gave up − short give-ups), over visits that ended in one of these ways.
 * Null when there are none.
 */
export function serviceLevel(visits: readonly VisitFact[]): number | null {
  let good = 0;
  let all = 0;
  for (const visit of visits) {
    if (visit.end !== 'accepted' && !(visit.end === 'gave-up' && !isShortGiveUp(visit))) continue;
    all++;
    if (inGoal(visit)) good++;
  }
  return all === 0 ? null : good / all;
}
