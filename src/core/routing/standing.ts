import { type Decision, expand } from './decision';
import type { WaitingVisit } from './floor';
import type { LimitKind } from './limits';
import { cohortOf, rosterOf } from './roster';
import type { Router } from './router';
import type { DecisionKind, Trail } from './trail';

/** Everybody's bits as they are now; shared by decisions made before they change. */
export function snapshot(router: Router): Uint32Array {
  return (router.snapshot ??= router.bits.slice(0, router.floor.list.length));
}

/** The first limit reached of each group that a visit has been opened to; null when there is none. */
export function limitsOf(router: Router, visit: WaitingVisit): ReadonlyMap<string, LimitKind> | null {
  if (visit.groups.length === 0) return null;
  const limits = new Map<string, LimitKind>();
  for (const id of visit.groups) {
    const first = router.floor.groups.get(id)?.reached[0];
    if (first) limits.set(id, first);
  }
  return limits.size > 0 ? limits : null;
}

/** Notes how things stand for a visit without anybody being chosen. */
export function noteStanding(router: Router, kind: DecisionKind, visit: WaitingVisit, now: number): Decision {
  return {
    kind,
    at: now,
    visit,
    stage: visit.stage,
    needs: visit.needs,
    roster: rosterOf(router, cohortOf(router, visit, now)),
    bits: snapshot(router),
    chosen: null,
    rank: 0,
    able: 0,
    decidedBy: null,
    later: null,
    tookAnother: null,
    refused: visit.refused.size > 0 ? visit.refused : null,
    limits: limitsOf(router, visit),
    familiarId: visit.familiarId,
  };
}

/** What the floor would say of a visit now: by the rule itself, looked at anew. */
export const explain = (router: Router, visit: WaitingVisit, now: number): Trail =>
  expand(noteStanding(router, 'entry', visit, now));
