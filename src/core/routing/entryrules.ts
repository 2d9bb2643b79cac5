import { openAt } from '../hours/weekly';
import { expectedWait, inLine } from './expectedwait';
import { BITS, type FloorQueue, type WaitingVisit } from './floor';
import { addedBy } from './clock';
import { reachedBy, widest } from './horizon';
import { takesCalls } from './partners';
import type { EntryCondition, EntryRule } from './queue';
import { rosterOf, widestCohort } from './roster';
import { stagesOf } from './stages';
import type { Router } from './router';

/** Whether nobody on duty could take this visit at any stage of its clock, an outside number included. */
export function nobodyEver(router: Router, visit: WaitingVisit): boolean {
  const { needs, groups, elapsedMs } = widest(visit.queue, visit.channel, visit.handOver);
  const all = { needs, groups: [...visit.groups, ...groups], elapsedMs };
  const { members } = rosterOf(router, widestCohort(visit.queue.id, visit.channel, all));
  if (
    members.some(
      (m) =>
        ((router.bits[m.person.index] as number) & (BITS.off | BITS.away | BITS.unreachable)) === 0 &&
        m.person.load[visit.channel].most > 0,
    )
  )
    return false;
  if (visit.channel !== 'voice') return true;
  const stages = stagesOf(visit);
  const partners = [...visit.partners, ...addedBy(stages, reachedBy(stages, null).count, 'add-partner')];
  return !partners.some((id) => {
    const partner = router.floor.partners.get(id);
    return partner !== undefined && takesCalls(partner);
  });
}

/** How many others wait in the same queue on the same channel, offered to somebody or not. */
function othersIn(router: Router, visit: WaitingVisit): number {
  let count = 0;
  for (const other of router.floor.waiting.values())
    if (
      other !== visit &&
      other.kind !== 'message' &&
      other.queue.id === visit.queue.id &&
      other.channel === visit.channel
    )
      count++;
  return count;
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
      return othersIn(router, visit) >= condition.atLeast;
    case 'expected': {
      const seconds = expectedWait(router, visit, inLine(router, visit) + 1, now);
      return seconds !== null && seconds >= condition.atLeast;
    }
  }
}

/** The first entry rule that holds for a visit that begins, or null. */
export const ruleFor = (router: Router, queue: FloorQueue, visit: WaitingVisit, now: number): EntryRule | null =>
  queue.settings.entryRules.find((rule) => holds(router, rule.if, queue, visit, now)) ?? null;
