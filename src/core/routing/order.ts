import { hash32 } from '../chance';
import { usedLoad } from '../people/load';
import { dutyRow } from '../people/duty';
import { heldBy, type FloorPerson, type WaitingVisit } from './floor';
import { levelSum } from './needs';
import type { PickingRule } from './queue';

/** What decided between the person chosen and the next in order. */
export type Decider = PickingRule | 'only-one' | 'tie';

/** Lower comes first. A person who never had a contact has been idle the longest. */
const KEYS: Readonly<Record<PickingRule, (person: FloorPerson, visit: WaitingVisit) => number>> = {
  'longest-idle': (person) => person.lastContactAt ?? -1,
  'lightest-load': (person) => usedLoad(heldBy(person)),
  'highest-level': (person, visit) => -levelSum(visit.needs, person.levels),
};

/** The rules a visit's order is made of: the queue's, then longest since last contact. */
const rulesOf = (visit: WaitingVisit): readonly PickingRule[] =>
  visit.queue.order.includes('longest-idle') ? visit.queue.order : [...visit.queue.order, 'longest-idle'];

export type Ranked = { readonly person: FloorPerson; readonly keys: readonly number[] };

/**
 * Able people in the order in which a visit prefers them: the queue's picking order, then longest since last contact,
 * then the lowest hash of contact and person, then the id, so that the order is strict.
 */
export function rank(visit: WaitingVisit, able: readonly FloorPerson[]): Ranked[] {
  const rules = rulesOf(visit);
  return able
    .map((person) => ({ person, keys: [...rules.map((rule) => KEYS[rule](person, visit)), hash32(`${visit.contactId}|${person.id}`)] }))
    .sort((a, b) => firstDifference(a.keys, b.keys) || (a.person.id < b.person.id ? -1 : 1));
}

const firstDifference = (a: readonly number[], b: readonly number[]): number => {
  for (let i = 0; i < a.length; i++) {
    const d = (a[i] ?? 0) - (b[i] ?? 0);
    if (d !== 0) return d;
  }
  return 0;
};

/** Which rule set the earlier of two ranked people before the later. */
export function decidedBy(visit: WaitingVisit, earlier: Ranked, later: Ranked): Decider {
  const rules = rulesOf(visit);
  return rules.find((_, i) => earlier.keys[i] !== later.keys[i]) ?? 'tie';
}

/** What a person prefers, as a comparison: lower band, higher priority, earlier placedAt, lower entry number. */
export function personPrefers(person: FloorPerson, a: WaitingVisit, b: WaitingVisit): number {
  const band = (visit: WaitingVisit) => dutyRow(person.profile, visit.queue.id, visit.channel)?.band ?? Number.MAX_SAFE_INTEGER;
  return band(a) - band(b) || b.priority - a.priority || a.placedAt - b.placedAt || a.entry - b.entry;
}
