import { hash32 } from '../chance';
import type { NewVisit } from './acts';
import { loadOf, type WaitingVisit } from './floor';
import { mergeNeeds, type MergedNeed } from './needs';
import type { QueueSettings } from './queue';
import type { Router } from './router';
import { placeAtStage } from './stages';

const plainNeeds = new WeakMap<QueueSettings, { needs: MergedNeed[]; crossed: string[] }>();

function merged(queue: QueueSettings, handOver: NewVisit['handOver']): { needs: MergedNeed[]; crossed: string[] } {
  if (handOver.length > 0) return mergeNeeds(queue.needs, handOver);
  let plain = plainNeeds.get(queue);
  if (!plain) plainNeeds.set(queue, (plain = mergeNeeds(queue.needs, [])));
  return plain;
}

/** What most visits have none of is shared, since it is only ever replaced. */
const NONE: readonly never[] = [];

/** The one empty list of offers, shared by all who are being offered to nobody. */
export const NO_OFFERS: WaitingVisit['offers'] = [];

const NO_REFUSALS: WaitingVisit['refused'] = new Map();

const NO_DIALS: WaitingVisit['dials'] = new Map();

/** A visit as it stands at its beginning. */
export function newVisit(
  queue: QueueSettings,
  version: number,
  entry: number,
  n: NewVisit,
  now: number,
): { visit: WaitingVisit; crossed: readonly string[] } {
  const { needs, crossed } = merged(queue, n.handOver);
  return {
    crossed,
    visit: {
      id: n.id,
      contactId: n.contactId,
      hash: hash32(n.contactId),
      channel: n.channel,
      queue,
      settingsVersion: version,
      handOver: n.handOver,
      merged: needs,
      needs,
      basePriority: n.priority,
      priority: n.priority,
      placedAt: n.placedAt,
      enteredAt: now,
      entry,
      passed: n.passed,
      kind: n.kind,
      load: loadOf(n.kind, n.channel),
      familiarId: n.personId ?? (queue.familiar ? n.familiarId : null),
      stage: 0,
      stagedAt: NONE,
      groups: NONE,
      partners: NONE,
      refused: NO_REFUSALS,
      offers: NO_OFFERS,
      dials: NO_DIALS,
      choosingUntil: null,
      repeats: NONE,
      timerAt: null,
    },
  };
}

/** Restores a visit that was waiting before a stop, at the stage it had reached. */
export function restoreVisit(router: Router, visit: WaitingVisit): void {
  placeAtStage(visit, visit.stage, visit.groups, visit.partners);
  router.floor.waiting.set(visit.id, visit);
  router.nextEntry = Math.max(router.nextEntry, visit.entry + 1);
  if (visit.familiarId !== null)
    router.heldFor.set(visit.familiarId, (router.heldFor.get(visit.familiarId) ?? new Set()).add(visit));
}
