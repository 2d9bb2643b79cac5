import { GROUP_BAND } from './able';
import { type FloorPerson, rowKey, type WaitingVisit } from './floor';
import type { Member } from './members';
import type { PickingRule } from './queue';
import type { Router } from './router';
import type { Decider } from './trail';

/** The rules a visit's order is made of: the queue's, then longest since last contact. */
const tails = new WeakMap<readonly PickingRule[], readonly PickingRule[]>();

export function rulesOf(visit: WaitingVisit): readonly PickingRule[] {
  const { order } = visit.queue;
  let rules = tails.get(order);
  if (!rules) tails.set(order, (rules = order.includes('longest-idle') ? order : [...order, 'longest-idle']));
  return rules;
}

/** Lower comes first. A person who never had a contact has been idle the longest. */
function keyOf(
  router: Router,
  rule: PickingRule,
  { person, levelSum, closeness }: Member,
  visit: WaitingVisit,
): number {
  switch (rule) {
    case 'longest-idle':
      return person.lastContactAt ?? -1e15;
    case 'lightest-load':
      return person.used;
    case 'fewest-open':
      return person.count;
    case 'fewest-today':
      return person.today;
    case 'highest-level':
      return -levelSum;
    case 'closest-level':
      return closeness;
    case 'share-by-weight':
    case 'in-turn':
      return shareOf(router, visit.queue.id, person.id);
  }
}

/** A person's stride in a queue that shares: how much they have had, in units of their weight. */
export const shareOf = (router: Router, queueId: string, personId: string): number =>
  router.floor.shares.get(queueId)?.get(personId) ?? 0;

const sharing = (order: readonly PickingRule[]): boolean =>
  order.includes('share-by-weight') || order.includes('in-turn');

/**
 * Somebody accepted: v += 1 ÷ weight (stride scheduling; Waldspurger and Weihl, 1995). In turn is a share with
 * weights 1.
 */
export function countShare(router: Router, visit: WaitingVisit, personId: string, weight: number): void {
  if (!sharing(visit.queue.order)) return;
  let shares = router.floor.shares.get(visit.queue.id);
  if (!shares) router.floor.shares.set(visit.queue.id, (shares = new Map()));
  router.learned.add(`share ${visit.queue.id}`);
  shares.set(personId, (shares.get(personId) ?? 0) + (visit.queue.order.includes('in-turn') ? 1 : 1 / weight));
}

/** Somebody became ready: v := max(v, least v among the ready), so that a newcomer does not get everything at once. */
export function joinShares(router: Router, person: FloorPerson): void {
  for (const { settings } of router.floor.queues.values()) {
    if (!sharing(settings.order) || !takes(router, person, settings)) continue;
    let shares = router.floor.shares.get(settings.id);
    if (!shares) router.floor.shares.set(settings.id, (shares = new Map()));
    let least = Infinity;
    for (const [id, share] of shares)
      if (id !== person.id && router.floor.people.get(id)?.duty === 'ready') least = Math.min(least, share);
    router.learned.add(`share ${settings.id}`);
    shares.set(person.id, Math.max(shares.get(person.id) ?? 0, least === Infinity ? 0 : least));
  }
}

const takes = (router: Router, person: FloorPerson, queue: WaitingVisit['queue']): boolean =>
  queue.channels.some((c) => person.rows.has(rowKey(queue.id, c))) ||
  [...router.floor.groups.values()].some((g) => g.members.has(person.id));

/** A stable number for a contact and a person: the lower one wins a tie, the same way every time. */
export function pairHash(contact: number, person: number): number {
  let h = Math.imul(contact ^ ((person << 13) | (person >>> 19)), 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  return (h ^ (h >>> 13)) >>> 0;
}

/**
 * Which of two able people a visit prefers (negative: the first): a familiar person, the queue's picking order, then
 * longest since the last contact, then the lowest hash of contact and person, then the place on the floor, so that
 * the order is strict.
 */
export function prefers(router: Router, visit: WaitingVisit, a: Member, b: Member): number {
  if (visit.familiarId !== null && a.person !== b.person) {
    if (a.person.id === visit.familiarId) return -1;
    if (b.person.id === visit.familiarId) return 1;
  }
  const rules = rulesOf(visit);
  for (let i = 0; i < rules.length; i++) {
    const rule = rules[i] as PickingRule;
    const d = keyOf(router, rule, a, visit) - keyOf(router, rule, b, visit);
    if (d !== 0) return d;
  }
  return pairHash(visit.hash, a.person.hash) - pairHash(visit.hash, b.person.hash) || a.person.index - b.person.index;
}

/** Which rule set the earlier of two able people before the later. */
export function decidedBy(router: Router, visit: WaitingVisit, earlier: Member, later: Member): Decider {
  if (visit.familiarId === earlier.person.id) return 'familiar';
  return (
    rulesOf(visit).find((rule) => keyOf(router, rule, earlier, visit) !== keyOf(router, rule, later, visit)) ?? 'tie'
  );
}

/** The band in which a person would take a visit: their row's, or the last one when only a group asks them. */
export const bandOf = (person: FloorPerson, visit: WaitingVisit): number =>
  person.rows.get(rowKey(visit.queue.id, visit.channel))?.band ?? GROUP_BAND;

/** What a person prefers, as a comparison: lower band, higher priority, earlier placedAt, lower entry number. */
export const personPrefers = (person: FloorPerson, a: WaitingVisit, b: WaitingVisit): number =>
  bandOf(person, a) - bandOf(person, b) || b.priority - a.priority || a.placedAt - b.placedAt || a.entry - b.entry;
