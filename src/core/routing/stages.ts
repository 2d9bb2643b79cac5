import { ASK_AGAIN_SECONDS, heldUntil } from './able';
import { addedBy, loweredBy, raisedBy, type Stage, type StageAct } from './clock';
import { BITS, channelMask, type WaitingVisit } from './floor';
import { type Horizon, reachedBy } from './horizon';
import { needsAfter, type MergedNeed } from './needs';
import { cohortOf, delaysOf, leaveLine, rosterOf } from './roster';
import type { Router } from './router';

/** How long a caller has to answer a question before keeping on waiting is taken as the answer. */
export const ANSWER_SECONDS = 10;

export const stagesOf = (visit: WaitingVisit): readonly Stage[] => visit.queue.clocks[visit.channel] ?? [];

/**
 * The needs after so many stages are the same object for all visits that share the merged needs, so that they share
 * cohorts.
 */
const loosened = new WeakMap<readonly MergedNeed[], Map<readonly Stage[], (readonly MergedNeed[])[]>>();
function needsAt(visit: WaitingVisit, count: number): readonly MergedNeed[] {
  let byClock = loosened.get(visit.merged);
  if (!byClock) loosened.set(visit.merged, (byClock = new Map()));
  const stages = stagesOf(visit);
  let known = byClock.get(stages);
  if (!known) byClock.set(stages, (known = []));
  return (known[count] ??= needsAfter(visit.merged, loweredBy(stages, count)));
}

const united = (a: readonly string[], b: readonly string[]): readonly string[] =>
  b.length === 0 ? a : [...new Set([...a, ...b])];

/** Puts a visit at a stage: what is needed, how urgent it is and who has been added follow from the stages so far. */
export function placeAtStage(
  visit: WaitingVisit,
  stage: number,
  groups: readonly string[],
  partners: readonly string[],
): void {
  const stages = stagesOf(visit);
  visit.stage = stage;
  visit.needs = needsAt(visit, stage);
  visit.priority = visit.basePriority + raisedBy(stages, stage);
  visit.groups = united(groups, addedBy(stages, stage, 'add-group'));
  visit.partners = united(partners, addedBy(stages, stage, 'add-partner'));
}

/**
 * A visit as it will stand when it has waited so long, all else held still: whom it asks, and what it needs. Waiting only
 * ever loosens, so that whoever could take it at some moment until then can take it then.
 */
export function afterWaiting(visit: WaitingVisit, within: Horizon, now: number): WaitingVisit {
  const { elapsedMs, count } = reachedBy(stagesOf(visit), within);
  const later = { ...visit };
  if (count > later.stage) placeAtStage(later, count, later.groups, later.partners);
  // One that is moved on at once asks nobody here.
  later.enteredAt = elapsedMs < 0 ? now - elapsedMs : Math.min(visit.enteredAt, now - elapsedMs);
  return later;
}

/**
 * The next stage happens. Gives the acts it asks of the driver, and where the contact is to go when the stage moves
 * it on. The caller puts the visit back in line.
 */
export function nextStage(router: Router, visit: WaitingVisit, now: number, early: boolean): StageAct | null {
  const stage = stagesOf(visit)[visit.stage];
  if (!stage) return null;
  leaveLine(router, visit);
  placeAtStage(visit, visit.stage + 1, visit.groups, visit.partners);
  visit.stagedAt = [...visit.stagedAt, now];
  router.acts.push({ do: 'stage', visit, stage: visit.stage, early });
  // Nothing is played to somebody who is not there.
  if (visit.kind === 'live')
    for (const act of stage.acts)
      if (act.does === 'say' || act.does === 'play' || act.does === 'ask') perform(router, visit, act, now);
  return stage.acts.find((act) => act.does === 'move') ?? null;
}

/** Says, plays or asks something. A new sound or question takes the place of the one before. */
function perform(router: Router, visit: WaitingVisit, act: StageAct, now: number): void {
  visit.repeats = visit.repeats.filter((r) => r.act.does !== act.does);
  const everySeconds = act.does === 'say' || act.does === 'ask' ? act.everySeconds : null;
  if (everySeconds !== null) visit.repeats = [...visit.repeats, { act, nextAt: now + everySeconds * 1000 }];
  carryOut(router, visit, act, now);
}
function carryOut(router: Router, visit: WaitingVisit, act: StageAct, now: number): void {
  // Somebody is being asked to take it this moment: the question would only keep them waiting.
  if (act.does === 'ask' && (visit.offers.length > 0 || visit.dials.size > 0)) return;
  router.acts.push({ do: 'perform', visit, act });
  if (act.does !== 'ask' || visit.channel !== 'voice') return;
  visit.choosingUntil = now + ANSWER_SECONDS * 1000;
  router.acts.push({ do: 'choosing', visit, until: visit.choosingUntil });
}
/** Says or asks again what is due. */
export function repeatDue(router: Router, visit: WaitingVisit, now: number): void {
  visit.repeats = visit.repeats.map((repeat) => {
    const { act } = repeat;
    if (repeat.nextAt > now || (act.does !== 'say' && act.does !== 'ask') || act.everySeconds === null) return repeat;
    carryOut(router, visit, act, now);
    const every = act.everySeconds * 1000;
    return { act, nextAt: repeat.nextAt + (Math.floor((now - repeat.nextAt) / every) + 1) * every };
  });
}

/** Whether everybody asked so far who is there is full, by the index (see `everybodyFull` for the rule). */
export function allFull(router: Router, visit: WaitingVisit, now: number): boolean {
  const pendingAside = channelMask(visit.load) & ~BITS.pending;
  return !rosterOf(router, cohortOf(router, visit, now)).members.some(
    (m) =>
      ((router.bits[m.person.index] as number) & m.mask & pendingAside) === 0 &&
      (m.group === null || m.group.reached.length === 0) &&
      !visit.refused.has(m.person.id),
  );
}

/** The next instant (floor ms) at which time alone changes something for a visit, or null. */
export function nextMoment(router: Router, visit: WaitingVisit, now: number): number | null {
  let next = Infinity;
  const stage = stagesOf(visit)[visit.stage];
  if (stage) next = visit.enteredAt + stage.atSeconds * 1000;
  for (const delay of delaysOf(router, visit.queue.id, visit.channel))
    if (visit.enteredAt + delay > now) {
      next = Math.min(next, visit.enteredAt + delay);
      break;
    }
  if (visit.refused.size > 0)
    for (const at of visit.refused.values())
      if (at + ASK_AGAIN_SECONDS * 1000 > now) next = Math.min(next, at + ASK_AGAIN_SECONDS * 1000);
  const held = heldUntil(visit);
  if (held !== null && held > now) next = Math.min(next, held);
  if (visit.choosingUntil !== null) next = Math.min(next, visit.choosingUntil);
  for (const repeat of visit.repeats) next = Math.min(next, repeat.nextAt);
  return next === Infinity ? null : Math.max(next, now);
}
