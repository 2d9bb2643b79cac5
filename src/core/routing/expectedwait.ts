import type { Channel } from '../channels';
import { FULL } from '../people/load';
import { type Unable, unable } from './able';
import { BITS, type FloorPerson, type WaitingVisit } from './floor';
import type { LaneFigures } from './lanefigures';
import { reachedBy, widest } from './horizon';
import type { Roster } from './members';
import type { QueueSettings } from './queue';
import { delaysOf, rosterOf, widestCohort } from './roster';
import { afterWaiting, stagesOf } from './stages';
import type { Router } from './router';

/** How fast old figures fade: after so many ms they count 1/e. */
const FADES_MS = 3 * 3_600_000;

/** What is known from handle times counts as much as this many contacts seen to be taken. */
const PRIOR = 25;

/** Contacts over which the mean handle time looks back. */
const HANDLE_MEMORY = 200;

const laneKey = (queueId: string, channel: Channel): string => `${queueId}|${channel}`;

export function laneOf(router: Router, queueId: string, channel: Channel): LaneFigures {
  const key = laneKey(queueId, channel);
  router.learned.add(key);
  let lane = router.lanes.get(key);
  if (!lane)
    router.lanes.set(
      key,
      (lane = {
        at: 0,
        waiting: 0,
        taken: 0,
        slotMs: 0,
        gaveUp: 0,
        waitedMs: 0,
        handleMs: 0,
        handled: 0,
        answerMs: 0,
        answered: 0,
        slots: 0,
        slotsVersion: -1,
      }),
    );
  return lane;
}

/** Everybody who could be asked for this queue's own needs at some stage of its clock, whatever they are doing. */
export function everAsked(router: Router, queue: QueueSettings, channel: Channel): Roster {
  let byChannel = router.widest.get(queue);
  if (!byChannel) router.widest.set(queue, (byChannel = new Map()));
  let cohort = byChannel.get(channel);
  if (!cohort) {
    cohort = widestCohort(queue.id, channel, widest(queue, channel));
    byChannel.set(channel, cohort);
  }
  return rosterOf(router, cohort);
}

const onDuty = (router: Router, person: FloorPerson): boolean =>
  ((router.bits[person.index] as number) & (BITS.off | BITS.away | BITS.unreachable)) === 0;

const slotsOf = (person: FloorPerson, channel: Channel): number => {
  const { cost, most } = person.load[channel];
  return Math.min(most, cost > 0 ? Math.floor(FULL / cost) : most);
};

/** How many contacts of this queue and channel the people on duty could hold at once. */
export function slotsOnDuty(router: Router, queue: QueueSettings, channel: Channel): number {
  let slots = 0;
  for (const { person } of everAsked(router, queue, channel).members)
    if (onDuty(router, person)) slots += slotsOf(person, channel);
  return slots;
}

/** Brings a lane's figures up to now; call it before whatever changes how many wait. */
function advance(router: Router, visit: Pick<WaitingVisit, 'queue' | 'channel'>, now: number): LaneFigures {
  const lane = laneOf(router, visit.queue.id, visit.channel);
  const passed = now - lane.at;
  if (passed > 0) {
    if (lane.waiting > 0) {
      // Coming and going while somebody waits is noticed at the line's next change: soon enough for a rate over hours.
      if (lane.slotsVersion !== router.dutyVersion) {
        lane.slots = slotsOnDuty(router, visit.queue, visit.channel);
        lane.slotsVersion = router.dutyVersion;
      }
      lane.slotMs += lane.slots * passed;
      lane.waitedMs += lane.waiting * passed;
    }
    if (lane.taken + lane.gaveUp > 0) {
      const fade = Math.exp(-passed / FADES_MS);
      lane.taken *= fade;
      lane.slotMs *= fade;
      lane.gaveUp *= fade;
      lane.waitedMs *= fade;
    }
    lane.at = now;
  }
  return lane;
}

/** Somebody stands in line from now on. */
export function noteJoined(router: Router, visit: WaitingVisit, now: number): void {
  // A message waits by itself: nobody's wait is told from it.
  if (visit.kind === 'message' || router.standing.has(visit)) return;
  router.standing.add(visit);
  advance(router, visit, now).waiting++;
}

/**
 * Somebody stood in line already when what was known of the line was kept: the time since then counts with them in it, as
 * it would have without a stop.
 */
export function noteStillStanding(router: Router, visit: WaitingVisit, now: number): void {
  if (visit.kind === 'message' || router.standing.has(visit)) return;
  router.standing.add(visit);
  const lane = laneOf(router, visit.queue.id, visit.channel);
  if (lane.at === 0) lane.at = now;
  lane.waiting++;
}

/**
 * Somebody stands in line no longer: taken by a person, gave up, or left otherwise. Whoever never stood in it does
 * not count.
 */
export function noteLeft(
  router: Router,
  visit: WaitingVisit,
  now: number,
  how: 'taken' | 'gave-up' | 'otherwise',
): void {
  if (!router.standing.delete(visit)) return;
  const lane = advance(router, visit, now);
  lane.waiting = Math.max(0, lane.waiting - 1);
  if (how === 'taken') lane.taken++;
  else if (how === 'gave-up') lane.gaveUp++;
}

const learn = (mean: number, count: number, value: number): number =>
  mean + (value - mean) / Math.min(count + 1, HANDLE_MEMORY);

/** A person was so long in answering an offer they took (ms). */
export function noteAnswer(router: Router, visit: WaitingVisit, ms: number): void {
  const lane = laneOf(router, visit.queue.id, visit.channel);
  lane.answerMs = learn(lane.answerMs, lane.answered++, ms);
}

/** A leg was so long from acceptance to the end of its wrap-up (ms). */
export function noteHandled(router: Router, queueId: string, channel: Channel, ms: number): void {
  const lane = laneOf(router, queueId, channel);
  lane.handleMs = learn(lane.handleMs, lane.handled++, ms);
}

/** How many others stand in line for the same queue on the same channel. */
export const inLine = (router: Router, visit: WaitingVisit): number =>
  laneOf(router, visit.queue.id, visit.channel).waiting - (router.standing.has(visit) ? 1 : 0);

/** People on duty who could take a visit at some stage of its clock, all else held still: with room for it, and all of them. */
type Takers = { readonly free: readonly FloorPerson[]; readonly all: readonly FloorPerson[] };
function takersOf(router: Router, visit: WaitingVisit, now: number): Takers {
  const last = afterWaiting(visit, null, now);
  const [free, all]: [FloorPerson[], FloorPerson[]] = [[], []];
  for (const person of router.floor.people.values()) {
    const why = unable(router.floor, person, last, now)?.why;
    if (why !== undefined && !BUSY.includes(why)) continue;
    all.push(person);
    if (why === undefined && !visit.refused.has(person.id)) free.push(person);
  }
  return { free, all };
}
/** Why somebody cannot take one now who takes such contacts and knows what they ask for. */
const BUSY: readonly Unable['why'][] = ['offer-pending', 'load', 'channel-most', 'limit'];

/** In how many ms so many of some people with room for a visit have joined who are asked for it; null where so many never do. */
function joinsIn(
  router: Router,
  visit: WaitingVisit,
  free: readonly FloorPerson[],
  many: number,
  now: number,
): number | null {
  if (free.length < many) return null;
  const waited = now - visit.enteredAt;
  const stages = stagesOf(visit);
  const { elapsedMs } = reachedBy(stages, null);
  const moments = [...delaysOf(router, visit.queue.id, visit.channel), ...stages.map((s) => s.atSeconds * 1000)]
    .filter((ms) => ms > waited && ms <= elapsedMs)
    .sort((a, b) => a - b);
  const then = [waited, ...moments].map((ms) => ({ in: ms - waited, visit: afterWaiting(visit, ms / 1000, now) }));
  // Whoever is able at one moment is at all later ones, so that few are looked at for each person.
  const joins = free.map((person) => {
    let [low, high] = [0, then.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      const at = then[middle];
      if (at && unable(router.floor, person, at.visit, now) === null) high = middle;
      else low = middle + 1;
    }
    return then[low]?.in ?? Infinity;
  });
  const last = joins.sort((a, b) => a - b)[many - 1] ?? Infinity;
  return last === Infinity ? null : last;
}

/**
 * Expected wait (seconds) of a visit that stands, or would stand, k-th in line (k = 1 is next). Nothing where k people are
 * able to take it now; where they have room and join later, no longer than until they do. Else: the places of the people on
 * duty become free at rate r together, and each of those ahead gives up at rate θ, so the j contacts ahead thin out
 * one after another at r + jθ: Σ_{j=0}^{k−1} 1 ÷ (r + jθ) (the virtual wait in M/M/n+M; Whitt, "Improving service by
 * informing customers about anticipated delays", 1999). r per place is what was seen lately, weighed with 1 ÷ (handle
 * time + time to answer); θ is give-ups ÷ time waited (the maximum-likelihood rate of patience that is cut off by
 * being served). Null when nobody on duty could ever take it or nothing is known yet.
 */
export function expectedWait(router: Router, visit: WaitingVisit, k: number, now: number): number | null {
  const takers = takersOf(router, visit, now);
  const joins = joinsIn(router, visit, takers.free, k, now);
  const rated = joins === 0 ? null : byRate(router, visit, takers.all, k, now);
  if (joins === null || rated === null) return rated ?? (joins === null ? null : joins / 1000);
  return Math.min(joins / 1000, rated);
}
/** The same by the rate at which places became free lately. */
function byRate(
  router: Router,
  visit: WaitingVisit,
  takers: readonly FloorPerson[],
  k: number,
  now: number,
): number | null {
  const slots = takers.reduce((n, person) => n + slotsOf(person, visit.channel), 0);
  if (slots === 0) return null;
  const lane = advance(router, visit, now);
  const busyMs = lane.handleMs + lane.answerMs;
  const known = lane.handled === 0 ? 0 : PRIOR;
  const seenMs = known * busyMs + lane.slotMs;
  // Contacts that were taken the moment they came say nothing about how long places take to become free.
  if ((known === 0 && lane.taken < 1) || seenMs <= 0) return null;
  const perSlotMs = (known + lane.taken) / seenMs;
  const rate = perSlotMs * slots;
  const leaving = lane.waitedMs > 0 ? lane.gaveUp / lane.waitedMs : 0;
  let ms = lane.answerMs;
  for (let ahead = 0; ahead < k; ahead++) ms += 1 / (rate + ahead * leaving);
  return ms / 1000;
}

/**
 * A wait as it is spoken: to the nearest 10 s below a minute, to the half minute below 5, to the minute after; never
 * "0".
 */
export function spokenWait(seconds: number): number {
  if (seconds < 55) return Math.max(10, Math.round(seconds / 10) * 10);
  return seconds < 300 ? Math.round(seconds / 30) * 30 : Math.round(seconds / 60) * 60;
}
