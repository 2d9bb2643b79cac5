import { ASK_AGAIN_SECONDS, heldUntil } from './able';
import { type Decision, reasonIn } from './decision';
import { BITS, type FloorPerson, loadMask, type WaitingVisit } from './floor';
import { deferredAcceptance, type Match, type Wish } from './match';
import type { Member } from './members';
import { makeOffer } from './offers';
import { decidedBy, prefers, rulesOf } from './order';
import { before, cohortOf, rosterOf } from './roster';
import type { Router } from './router';
import { limitsOf, snapshot } from './standing';
import type { Decider } from './trail';

const free = (router: Router, m: Member): boolean =>
  ((router.bits[m.person.index] as number) & m.mask) === 0 && (m.group === null || m.group.reached.length === 0);
const isOpen = (router: Router, visit: WaitingVisit): boolean => router.lineOf.has(visit);

/** Whether a visit is held for its familiar person now: on duty, able but for being full. */
function isHeld(router: Router, visit: WaitingVisit, now: number): boolean {
  const until = heldUntil(visit);
  if (until === null || until <= now || visit.familiarId === null || visit.refused.has(visit.familiarId)) return false;
  const familiar = router.floor.people.get(visit.familiarId);
  const cohort = router.lineOf.get(visit);
  const m = familiar && cohort && rosterOf(router, cohort).of[familiar.index];
  if (!familiar || !m || (m.group && m.group.reached.length > 0)) return false;
  const trouble = (router.bits[familiar.index] as number) & m.mask;
  const full = trouble & loadMask(visit.load);
  // A channel switched off is not being full.
  return trouble !== 0 && full === trouble && familiar.load[visit.load].most > 0;
}

const aged = (visit: WaitingVisit, person: FloorPerson, now: number): boolean =>
  (visit.refused.get(person.id) ?? 0) + ASK_AGAIN_SECONDS * 1000 <= now;

/** Everybody able to take a visit now, refusals and holding included, in no order. */
export function ableMembers(router: Router, visit: WaitingVisit, now: number): Member[] {
  const cohort = router.lineOf.get(visit) ?? cohortOf(router, visit, now);
  let able = rosterOf(router, cohort).members.filter((m) => free(router, m));
  if (visit.refused.size > 0) {
    const fresh = able.filter((m) => !visit.refused.has(m.person.id));
    able = fresh.length > 0 ? fresh : able.filter((m) => aged(visit, m.person, now));
  }
  return able.length > 0 && isHeld(router, visit, now) ? [] : able;
}

/**
 * For visits the event did not touch: which of the people it touched can take each. Only so many of each line can win
 * a person.
 */
function wishesOfPeople(router: Router, now: number): Map<WaitingVisit, Member[]> {
  const { visits, people } = router.touched;
  const wishes = new Map<WaitingVisit, Member[]>();
  for (const person of people) {
    if ((router.bits[person.index] as number) & (BITS.off | BITS.away | BITS.unreachable | BITS.pending)) continue;
    for (const cohort of router.busy) {
      const m = rosterOf(router, cohort).of[person.index];
      if (!m || !free(router, m)) continue;
      let left = people.size;
      for (const visit of cohort.waiting) {
        if (visits.has(visit) || isHeld(router, visit, now)) continue;
        if (visit.refused.has(person.id) && !mayAskAgain(router, visit, person, people, now)) continue;
        const list = wishes.get(visit);
        if (list) list.push(m);
        else wishes.set(visit, [m]);
        if (--left === 0) break;
      }
    }
  }
  return wishes;
}

/**
 * Whether somebody who refused may be asked again: 30 s on, and nobody fresh is able. Only those touched by the event
 * can be.
 */
function mayAskAgain(
  router: Router,
  visit: WaitingVisit,
  person: FloorPerson,
  people: Iterable<FloorPerson>,
  now: number,
): boolean {
  if (!aged(visit, person, now)) return false;
  const cohort = router.lineOf.get(visit);
  if (!cohort) return false;
  const { of } = rosterOf(router, cohort);
  for (const other of people) {
    const m = visit.refused.has(other.id) ? undefined : of[other.index];
    if (m && free(router, m)) return false;
  }
  return true;
}

/**
 * Makes the offers that an event calls for, in rounds, until no able pair is left. Before an event no able pair is
 * left, so every pair that is able now has a touched visit or a touched person in it; nothing else is looked at. An
 * offer adds to the touched visits those that are not held for its person any more.
 */
export function decide(router: Router, now: number): void {
  const { visits, people } = router.touched;
  const [alone] = visits.size === 1 && people.size === 0 ? visits : [];
  const [single] = people.size === 1 && visits.size === 0 ? people : [];
  if (alone && isOpen(router, alone) && alone.refused.size === 0 && alone.familiarId === null) {
    offerBest(router, alone, now);
    if (visits.size === 1) return;
  } else if (single) {
    takeBest(router, single, now);
    if (visits.size === 0) return;
  }
  for (;;) {
    const wishes: Wish<Member>[] = [];
    const rank = (visit: WaitingVisit, able: Member[]): void => {
      if (able.length > 0)
        wishes.push({ visit, ranked: able.length === 1 ? able : able.sort((a, b) => prefers(router, visit, a, b)) });
    };
    for (const visit of visits) if (isOpen(router, visit)) rank(visit, ableMembers(router, visit, now));
    for (const [visit, able] of wishesOfPeople(router, now)) rank(visit, able);
    if (wishes.length === 0) return;
    const matches = deferredAcceptance(wishes);
    const tookAnother = new Set(matches.map((m) => m.member.person));
    const decisions = matches.map((match) => decisionOf(router, match, tookAnother, now));
    matches.forEach(({ wish, member }, i) => {
      // Limits are shared by many people, so another match of this round may have used the last place.
      if (member.group === null || member.group.reached.length === 0)
        makeOffer(router, wish.visit, member, now, decisions[i] ?? null);
    });
  }
}

function decisionOf(
  router: Router,
  { wish, member }: Match<Member>,
  tookAnother: ReadonlySet<FloorPerson>,
  now: number,
): Decision | null {
  if (!router.options.trails) return null;
  const { visit, ranked } = wish;
  const place = ranked.indexOf(member);
  const next = ranked[place + 1];
  const decider: Decider =
    ranked.length === 1
      ? 'only-one'
      : next
        ? decidedBy(router, visit, member, next)
        : (rulesOf(visit)[0] ?? 'longest-idle');
  const others = new Set(tookAnother);
  others.delete(member.person);
  return decision(router, visit, member, now, place + 1, ranked.length, decider, others.size > 0 ? others : null);
}

/** The rule that put each other able person after the chosen one, as the keys are now. */
function laterBy(router: Router, standing: Decision, chosen: Member): ReadonlyMap<string, Decider> {
  const later = new Map<string, Decider>();
  for (const m of standing.roster.of)
    if (m && m.person !== chosen.person && reasonIn(standing, m.person) === null)
      later.set(m.person.id, decidedBy(router, standing.visit, chosen, m));
  return later;
}

function decision(
  router: Router,
  visit: WaitingVisit,
  chosen: Member,
  now: number,
  rank: number,
  able: number,
  decider: Decider,
  tookAnother: ReadonlySet<FloorPerson> | null,
): Decision {
  const standing: Decision = {
    kind: 'offer',
    at: now,
    visit,
    stage: visit.stage,
    needs: visit.needs,
    roster: rosterOf(router, router.lineOf.get(visit) ?? cohortOf(router, visit, now)),
    bits: snapshot(router),
    chosen,
    rank,
    able,
    decidedBy: decider,
    later: null,
    tookAnother,
    refused: visit.refused.size > 0 ? visit.refused : null,
    limits: limitsOf(router, visit),
    familiarId: visit.familiarId,
  };
  return { ...standing, later: laterBy(router, standing, chosen) };
}

/** The usual case of one visit alone: its best person has it, since nobody else wants them now. */
function offerBest(router: Router, visit: WaitingVisit, now: number): void {
  const { members } = rosterOf(router, router.lineOf.get(visit) ?? cohortOf(router, visit, now));
  const { bits } = router;
  let best: Member | null = null;
  let second: Member | null = null;
  let able = 0;
  for (let i = 0; i < members.length; i++) {
    const m = members[i] as Member;
    if (((bits[m.person.index] as number) & m.mask) !== 0 || (m.group !== null && m.group.reached.length > 0)) continue;
    able++;
    if (best === null || prefers(router, visit, m, best) < 0) {
      second = best;
      best = m;
    } else if (second === null || prefers(router, visit, m, second) < 0) second = m;
  }
  if (best === null) return;
  const decider: Decider =
    second === null ? 'only-one' : router.options.trails ? decidedBy(router, visit, best, second) : 'tie';
  makeOffer(
    router,
    visit,
    best,
    now,
    router.options.trails ? decision(router, visit, best, now, 1, able, decider, null) : null,
  );
}

/**
 * The usual case of one person alone: they have the visit they like best, since for each of these nobody else is
 * able.
 */
function takeBest(router: Router, person: FloorPerson, now: number): void {
  if ((router.bits[person.index] as number) & (BITS.off | BITS.away | BITS.unreachable | BITS.pending)) return;
  let best: WaitingVisit | null = null;
  let member: Member | null = null;
  for (const cohort of router.busy) {
    const m = rosterOf(router, cohort).of[person.index];
    if (!m || !free(router, m) || (member !== null && m.band > member.band)) continue;
    for (const visit of cohort.waiting) {
      if (visit.familiarId !== null && isHeld(router, visit, now)) continue;
      if (visit.refused.size > 0 && visit.refused.has(person.id) && !mayAskAgain(router, visit, person, [person], now))
        continue;
      if (best === null || member === null || m.band < member.band || before(visit, best) < 0) {
        best = visit;
        member = m;
      }
      break;
    }
  }
  if (best && member)
    makeOffer(
      router,
      best,
      member,
      now,
      router.options.trails ? decision(router, best, member, now, 1, 1, 'only-one', null) : null,
    );
}
