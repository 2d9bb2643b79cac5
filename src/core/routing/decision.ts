import { heldUntil, type Unable } from './able';
import { BITS, type FloorPerson, misfitIn, OWN_MASK, ownBit, type WaitingVisit } from './floor';
import { LIMIT_KINDS, type LimitKind } from './limits';
import { type Member, type Roster, unableFrom } from './members';
import type { Decider, DecisionKind, NotChosen, Trail } from './trail';

/**
 * A decision as the router keeps it: what it looked at, by reference, and everybody's bits at that moment. It is
 * turned into a readable trail (`expand`) only when one is stored or shown, so that keeping it costs little.
 */
export type Decision = {
  readonly kind: DecisionKind;
  readonly at: number;
  readonly visit: WaitingVisit;
  readonly stage: number;
  /** What was needed at that moment. */
  readonly needs: WaitingVisit['needs'];
  readonly roster: Roster;
  readonly bits: Uint32Array;
  readonly chosen: Member | null;
  readonly rank: number;
  readonly able: number;
  readonly decidedBy: Decider | null;
  /** Everybody else who was able, by id: the rule that put them after the chosen one. */
  readonly later: ReadonlyMap<string, Decider> | null;
  /** People who took another visit in the same round; in what is able, nobody else is missing. */
  readonly tookAnother: ReadonlySet<FloorPerson> | null;
  readonly refused: ReadonlyMap<string, number> | null;
  readonly limits: ReadonlyMap<string, LimitKind> | null;
  readonly familiarId: string | null;
};

/** Why one person could not take the visit when it was decided; null when they were able. */
export function reasonIn(d: Decision, person: FloorPerson): Unable | null {
  const bits = d.bits[person.index] ?? BITS.off;
  if (bits & BITS.off) return { why: 'off-duty' };
  if (bits & BITS.away) return { why: 'away' };
  if (bits & BITS.unreachable) return { why: 'unreachable' };
  const barred = d.roster.barred[person.index];
  if (barred && barred.why !== 'skill') return unableFrom(barred, d.visit);
  const member = d.roster.of[person.index];
  const group = member?.group ?? (barred?.why === 'skill' ? barred.group : null);
  const groupLimit = group ? d.limits?.get(group.id) : undefined;
  if (group && groupLimit) return { why: 'limit', groupId: group.id, kind: groupLimit, at: null };
  const own =
    bits & OWN_MASK ? LIMIT_KINDS.find((kind) => bits & ownBit(kind) && !group?.instead.includes(kind)) : undefined;
  if (own) return { why: 'limit', groupId: null, kind: own, at: null };
  if (barred) return unableFrom(barred, d.visit);
  const full = misfitIn(bits, d.visit.load);
  if (full) return { why: full };
  return bits & BITS.pending ? { why: 'offer-pending' } : null;
}

/** The trail of a decision: everybody who was not chosen under the first check they failed. */
export function expand(d: Decision): Trail {
  const others: Partial<Record<NotChosen, string[]>> = {};
  const add = (why: NotChosen, id: string) => (others[why] ??= []).push(id);
  const lacking: Record<string, string> = {};
  const limits: Record<string, LimitKind> = {};
  let asked = 0;
  const able: FloorPerson[] = [];
  for (let i = 0; i < d.bits.length; i++) {
    const person = d.roster.list[i];
    if (!person) continue;
    const there = ((d.bits[i] ?? BITS.off) & (BITS.off | BITS.away)) === 0;
    const barred = d.roster.barred[i];
    if (there && (!barred || barred.why === 'skill')) asked++;
    const reason = reasonIn(d, person);
    if (reason === null) able.push(person);
    else if (person !== d.chosen?.person) {
      add(reason.why, person.id);
      if (reason.why === 'skill') lacking[person.id] = reason.need.skillId;
      if (reason.why === 'limit') limits[person.id] = reason.kind;
    }
  }
  const fresh = able.filter((p) => !d.refused?.has(p.id));
  const until = heldUntil(d.visit);
  const held =
    d.chosen === null &&
    until !== null &&
    d.at < until &&
    d.familiarId !== null &&
    fresh.every((p) => p.id !== d.familiarId);
  for (const person of able) {
    if (person === d.chosen?.person) continue;
    const passedOver = d.refused?.has(person.id) && (fresh.length > 0 || d.chosen === null);
    add(
      passedOver
        ? 'refused'
        : d.tookAnother?.has(person)
          ? 'took-another'
          : d.chosen
            ? 'later-in-order'
            : held
              ? 'held'
              : 'left-unasked',
      person.id,
    );
  }
  const later = Object.fromEntries(
    (others['later-in-order'] ?? []).flatMap((id) => {
      const rule = d.later?.get(id);
      return rule ? [[id, rule]] : [];
    }),
  );
  const { visit } = d;
  return {
    kind: d.kind,
    at: d.at,
    settingsVersion: visit.settingsVersion,
    waitedSeconds: Math.max(0, Math.round((d.at - visit.placedAt) / 1000)),
    stage: d.stage,
    // A visit says itself what it needs until a stage asks for less.
    ...(d.needs === visit.merged ? {} : { needs: d.needs }),
    ...(visit.queue.offering.way === 'claim' ? { toTake: true } : {}),
    asked,
    able: d.chosen ? Math.max(d.able, 1) : (others['left-unasked']?.length ?? 0),
    chosen: d.chosen?.person.id ?? null,
    rank: d.chosen ? d.rank : null,
    decidedBy: d.decidedBy,
    levelSum: d.chosen && visit.needs.length > 0 ? d.chosen.levelSum : null,
    groupId: d.chosen?.group?.id ?? null,
    others,
    lacking,
    ...(Object.keys(limits).length > 0 ? { limits } : {}),
    ...(Object.keys(later).length > 0 ? { later } : {}),
  };
}
