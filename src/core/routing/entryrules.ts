import { openAt } from '../hours/weekly';
import { expectedWait, laneOf } from './expectedwait';
import { BITS, type FloorQueue, type WaitingVisit } from './floor';
import { addedBy, loweredBy } from './clock';
import { needsAfter } from './needs';
import { ableMembers } from './pass';
import type { EntryCondition, EntryRule } from './queue';
import { rosterOf, widestCohort } from './roster';
import { stagesOf } from './stages';
import type { Router } from './router';

/** Whether nobody on duty could take this visit at any stage of its clock, an outside number included. */
export function nobodyEver(router: Router, visit: WaitingVisit): boolean {
  const stages = stagesOf(visit);
  const needs = needsAfter(visit.merged, loweredBy(stages, stages.length));
  const groups = [...visit.groups, ...addedBy(stages, stages.length, 'add-group')];
  const { members } = rosterOf(router, widestCohort(visit.queue, visit.channel, needs, groups));
  if (
    members.some(
      (m) =>
        ((router.bits[m.person.index] as number) & (BITS.off | BITS.away | BITS.unreachable)) === 0 &&
        m.person.load[visit.channel].most > 0,
    )
  )
    return false;
  if (visit.channel !== 'voice') return true;
  const partners = [...visit.partners, ...addedBy(stages, stages.length, 'add-partner')];
  return !partners.some((id) => router.floor.partners.get(id)?.numbers.some((n) => n.reached.length === 0));
}

function holds(
  router: Router,
  condition: EntryCondition,
  queue: FloorQueue,
  visit: WaitingVisit,
  now: number,
): boolean {
  switch (condition.when) {
    case 'closed':
      return queue.hours !== null && !openAt(queue.hours, now).open;
    case 'nobody':
      return nobodyEver(router, visit);
    case 'waiting':
      return waitingIn(router, visit) >= condition.atLeast;
    case 'expected': {
      if (ableMembers(router, visit, now).length > 0) return false;
      const seconds = expectedWait(
        router,
        visit.queue,
        visit.channel,
        laneOf(router, visit.queue.id, visit.channel).waiting + 1,
        now,
      );
      return seconds !== null && seconds >= condition.atLeast;
    }
  }
}

/** How many others wait in the same queue on the same channel. */
export function waitingIn(router: Router, visit: WaitingVisit): number {
  let count = 0;
  for (const other of router.floor.waiting.values())
    if (other !== visit && other.queue.id === visit.queue.id && other.channel === visit.channel) count++;
  return count;
}

/** The first entry rule that holds for a visit that begins, or null. */
export const ruleFor = (router: Router, queue: FloorQueue, visit: WaitingVisit, now: number): EntryRule | null =>
  queue.settings.entryRules.find((rule) => holds(router, rule.if, queue, visit, now)) ?? null;
