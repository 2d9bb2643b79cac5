import type { Goal } from '../routing/queue';
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
 * Service level: accepted within goal ÷ (accepted + gave up − short give-ups), over visits that ended in one of these
 * ways. Null when there are none.
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

/** Whether somebody still waiting has waited longer than the goal in force when they came. `now` is floor ms. */
export const isPastGoal = (visit: Pick<VisitFact, 'placedAt' | 'goalSeconds'>, now: number): boolean =>
  now - visit.placedAt > visit.goalSeconds * 1000;

/** Visits of one queue and channel so far: those that count for the service level, and those accepted within goal. */
export type GoalCount = { readonly good: number; readonly all: number };

/**
 * The service level of what is not over: a wait that is past its goal already counts as missed. Null when nothing
 * counts.
 */
export const levelSoFar = ({ good, all }: GoalCount, late: number): number | null =>
  all + late === 0 ? null : good / (all + late);

/** How a share stands to what was meant: met, short by at most ten points, or missed. */
export type GoalStanding = 'met' | 'near' | 'missed';
export const goalStanding = (share: number, wanted: number): GoalStanding =>
  share >= wanted ? 'met' : share >= wanted - 0.1 ? 'near' : 'missed';

/**
 * The share to be reached over several channels: each channel's percent weighs as many visits as it had. Null without
 * visits.
 */
export function wantedShare(counts: readonly (Pick<GoalCount, 'all'> & { readonly goal: Goal })[]): number | null {
  const all = counts.reduce((n, c) => n + c.all, 0);
  return all === 0 ? null : counts.reduce((n, c) => n + c.all * c.goal.percent, 0) / (all * 100);
}
