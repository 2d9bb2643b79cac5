import type { NewVisit } from './acts';
import { ruleFor } from './entryrules';
import type { WaitingVisit } from './floor';
import { finish } from './leaving';
import type { Onward } from './onward';
import { joinLine } from './roster';
import type { Router } from './router';
import { nextStage, stagesOf } from './stages';
import { newVisit } from './visit';

/**
 * Crosses one stage that is due, at its second or early since everybody asked is full. Gives whether one was crossed.
 */
export function stageDue(router: Router, visit: WaitingVisit, now: number, early: boolean): boolean {
  const move = nextStage(router, visit, now, early);
  if (router.options.trails) router.touched.trails.set(visit, 'stage');
  // Nobody is there to hear the last words of a queue that is to call or write back; only to another queue it may move.
  const moves = move?.does === 'move' && (visit.kind === 'live' || move.onward.to === 'queue') ? move : null;
  if (moves && !onward(router, visit, moves.onward, now)) return false;
  joinLine(router, visit, now);
  router.touched.visits.add(visit);
  return true;
}

/** A contact comes to a queue: its entry rules answer first, and only who is told to wait joins the line. */
export function enter(router: Router, now: number, n: NewVisit): void {
  const queue = router.floor.queues.get(n.queueId);
  if (!queue) throw new RangeError(`there is no queue ${n.queueId} on the floor`);
  const { visit, crossed } = newVisit(queue.settings, queue.version, router.nextEntry++, n, now);
  router.floor.waiting.set(visit.id, visit);
  router.acts.push({ do: 'began', visit, because: n.because, crossed });
  if (visit.familiarId !== null) {
    const held = router.heldFor.get(visit.familiarId);
    if (held) held.add(visit);
    else router.heldFor.set(visit.familiarId, new Set([visit]));
  }
  if (n.opens) onward(router, visit, n.opens, now);
  // A call we promised, or a message we took, is not turned away at the door of its own queue.
  const rule =
    visit.kind !== 'live' || queue.settings.entryRules.length === 0 ? null : ruleFor(router, queue, visit, now);
  if (rule && !onward(router, visit, rule.then, now)) return;
  while ((stagesOf(visit)[visit.stage]?.atSeconds ?? 1) <= 0) if (!stageDue(router, visit, now, false)) return;
  joinLine(router, visit, now);
  router.touched.visits.add(visit);
  if (router.options.trails) router.touched.trails.set(visit, 'entry');
}

/** Sends a visit where a rule or a stage says. Gives whether it still waits here. */
export function onward(router: Router, visit: WaitingVisit, to: Onward, now: number): boolean {
  switch (to.to) {
    case 'group':
      visit.groups = [...new Set([...visit.groups, to.groupId])];
      router.acts.push({ do: 'opened', visit, to: 'group', id: to.groupId });
      return true;
    case 'partner':
      visit.partners = [...new Set([...visit.partners, to.partnerId])];
      router.acts.push({ do: 'opened', visit, to: 'partner', id: to.partnerId });
      return true;
    case 'queue': {
      const target = router.floor.queues.get(to.queueId);
      const passed = [...visit.passed, visit.queue.id];
      // Overflow never goes in a circle, and never to where the channel is not taken: then the contact stays.
      if (!target || passed.includes(to.queueId) || !target.settings.channels.includes(visit.channel)) return true;
      finish(router, visit, 'moved-on', to, now);
      enter(router, now, {
        id: router.options.newId('visit'),
        contactId: visit.contactId,
        queueId: to.queueId,
        channel: visit.channel,
        placedAt: visit.placedAt,
        handOver: visit.handOver,
        priority: visit.basePriority,
        familiarId: visit.familiarId,
        kind: visit.kind,
        because: `overflow from ${visit.queue.name}`,
        passed,
      });
      return false;
    }
    case 'end':
      finish(router, visit, 'closed-by-us', to, now);
      return false;
    case 'message':
      finish(router, visit, 'message-left', to, now);
      return false;
    case 'callback':
      finish(router, visit, 'callback-asked', to, now);
      return false;
    case 'scene':
      finish(router, visit, 'moved-on', to, now);
      return false;
  }
}
