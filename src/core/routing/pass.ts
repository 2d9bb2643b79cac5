import { dutyRow } from '../people/duty';
import { ableFor, type Ability } from './able';
import type { Floor, FloorPerson, WaitingVisit } from './floor';
import { levelSum } from './needs';
import { decidedBy, personPrefers, rank, type Decider, type Ranked } from './order';
import type { NotChosen, Trail } from './trail';

/** One offer that a pass decided on, with the trail that explains it. */
export type Decision = { readonly visit: WaitingVisit; readonly person: FloorPerson; readonly trail: Trail };

type Round = { readonly visit: WaitingVisit; readonly ability: Ability; readonly ranked: Ranked[]; next: number };

/**
 * One pass over some waiting visits and some people, in rounds. In a round all ranking keys are frozen and each person
 * takes at most one visit: contact-proposing deferred acceptance (Gale and Shapley, 1962) over the able pairs. So no
 * visit and person would both rather have had each other. Matches are committed in entry order by `commit`, which must
 * set the person's `pending`; then the next round runs, until no able pair is left.
 */
export function runPass(
  floor: Floor, visits: readonly WaitingVisit[], people: readonly FloorPerson[], now: number, commit: (decision: Decision) => void,
): Decision[] {
  const decisions: Decision[] = [];
  for (;;) {
    const rounds: Round[] = [];
    for (const visit of visits) {
      if (visit.offeredTo !== null || !floor.waiting.has(visit.id)) continue;
      const ability = abilityAmong(floor, visit, now, people);
      if (ability.able.length > 0) rounds.push({ visit, ability, ranked: rank(visit, ability.able), next: 0 });
    }
    if (rounds.length === 0) return decisions;
    const matched = deferredAcceptance(rounds);
    const inEntryOrder = [...matched].sort((a, b) => a[1].visit.entry - b[1].visit.entry);
    const taken = new Set(inEntryOrder.map(([person]) => person.id));
    const made = inEntryOrder.map(([person, round]) => ({ visit: round.visit, person, trail: trailOf(floor, round, person, taken, now) }));
    for (const decision of made) {
      decisions.push(decision);
      commit(decision);
    }
  }
}

/** Refusals depend on everybody who is able, not only on those in this pass. */
function abilityAmong(floor: Floor, visit: WaitingVisit, now: number, people: readonly FloorPerson[]): Ability {
  const all = visit.refused.size > 0 ? ableFor(floor, visit, now) : ableFor(floor, visit, now, people);
  if (visit.refused.size === 0) return all;
  const inPass = new Set(people.map((p) => p.id));
  return { able: all.able.filter((p) => inPass.has(p.id)), unable: all.unable };
}

function deferredAcceptance(rounds: Round[]): Map<FloorPerson, Round> {
  const holds = new Map<FloorPerson, Round>();
  const proposing = [...rounds];
  for (let round = proposing.pop(); round; round = proposing.pop()) {
    const choice = round.ranked[round.next++];
    if (!choice) continue;
    const held = holds.get(choice.person);
    if (!held) holds.set(choice.person, round);
    else if (personPrefers(choice.person, round.visit, held.visit) < 0) {
      holds.set(choice.person, round);
      proposing.push(held);
    } else proposing.push(round);
  }
  return holds;
}

function trailOf(floor: Floor, round: Round, chosen: FloorPerson, taken: ReadonlySet<string>, now: number): Trail {
  const { visit, ranked } = round;
  const place = ranked.findIndex((r) => r.person === chosen);
  const mine = ranked[place];
  const nextFree = ranked.slice(place + 1)[0];
  const decider: Decider = ranked.length === 1 || !mine ? 'only-one' : nextFree ? decidedBy(visit, mine, nextFree) : rulesFirst(visit);
  // The whole floor is looked at here, so that the trail answers for people outside this pass as well.
  const everyone = ableFor(floor, visit, now);
  const others = groupReasons(everyone, (person) =>
    person === chosen ? null : taken.has(person.id) ? 'took-another' : 'later-in-order');
  return { ...trailFrame(floor, visit, now, everyone), chosen: chosen.id, decidedBy: decider, levelSum: visit.needs.length > 0 ? levelSum(visit.needs, chosen.levels) : null, others };
}

const rulesFirst = (visit: WaitingVisit): Decider => visit.queue.order[0] ?? 'longest-idle';

/** The trail of "nobody yet", or what the floor would say of a visit now. */
export function explain(floor: Floor, visit: WaitingVisit, now: number): Trail {
  const everyone = ableFor(floor, visit, now);
  return { ...trailFrame(floor, visit, now, everyone), chosen: null, decidedBy: null, levelSum: null, others: groupReasons(everyone, () => 'left-unasked') };
}

function trailFrame(floor: Floor, visit: WaitingVisit, now: number, everyone: Ability) {
  let asked = 0;
  const lacking: Record<string, string> = {};
  for (const person of floor.people.values()) {
    const row = person.duty === 'ready' ? dutyRow(person.profile, visit.queue.id, visit.channel) : undefined;
    if (row && visit.enteredAt + row.delaySeconds * 1000 <= now) asked++;
    const reason = everyone.unable.get(person.id);
    if (reason?.why === 'skill') lacking[person.id] = reason.need.skillId;
  }
  const waitedSeconds = Math.max(0, Math.round((now - visit.placedAt) / 1000));
  return { at: now, settingsVersion: visit.settingsVersion, waitedSeconds, asked, able: everyone.able.length, lacking };
}

function groupReasons(everyone: Ability, ofAble: (person: FloorPerson) => NotChosen | null): Trail['others'] {
  const groups: Partial<Record<NotChosen, string[]>> = {};
  const add = (why: NotChosen, id: string) => (groups[why] ??= []).push(id);
  for (const [id, reason] of everyone.unable) add(reason.why, id);
  for (const person of everyone.able) {
    const why = ofAble(person);
    if (why) add(why, person.id);
  }
  return groups;
}
