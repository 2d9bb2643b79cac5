import type { Channel } from '../channels';
import { askedBy, groupsOf } from './able';
import { channelMask, type FloorPerson, ownBit, type WaitingVisit } from './floor';
import type { Widest } from './horizon';
import type { Barred, Cohort, Member, Roster } from './members';
import { distance, levelSum, type MergedNeed, unmetNeed } from './needs';
import { changedSince, peopleVersion } from './peoplechanges';
import type { Router } from './router';

const NOBODY: Roster = { members: [], of: [], barred: [], list: [] };

/** The roster as it is now: `old` with those who changed looked at anew, or all made anew where there is none. */
function makeRoster(
  router: Router,
  cohort: Omit<Cohort, 'roster'>,
  old: { readonly roster: Roster; readonly changed: ReadonlySet<FloorPerson> } | null,
): Roster {
  const { list } = router.floor;
  const groups = groupsOf(router.floor, cohort.groups);
  const of: (Member | undefined)[] = old ? old.roster.of.slice() : [];
  const barred: (Barred | undefined)[] = old ? old.roster.barred.slice() : [];
  const channelBits = channelMask(cohort.load);
  for (const person of old ? old.changed : list) {
    const i = person.index;
    of[i] = undefined;
    barred[i] = undefined;
    const asked = askedBy(person, cohort.queueId, cohort.channel, groups, cohort.elapsedMs);
    if ('why' in asked) {
      barred[i] = asked;
      continue;
    }
    const need = unmetNeed(cohort.needs, person.levels);
    if (need) {
      barred[i] = { why: 'skill', need, group: asked.group };
      continue;
    }
    const { shortfall, surplus } = distance(cohort.needs, person.levels);
    const mask = (asked.group?.instead ?? []).reduce((bits, kind) => bits & ~ownBit(kind), channelBits);
    of[i] = {
      person,
      ...asked,
      levelSum: levelSum(cohort.needs, person.levels),
      closeness: shortfall * 1000 + surplus,
      mask,
    };
  }
  return { members: of.filter((m) => m !== undefined), of, barred, list };
}

/** The cohort's roster, brought up to whoever changed in skills, profile or groups since. */
export function rosterOf(router: Router, cohort: Cohort): Roster {
  const version = peopleVersion(router);
  if (cohort.version !== version) {
    const changed = changedSince(router, cohort.version);
    cohort.roster = makeRoster(router, cohort, changed && { roster: cohort.roster, changed });
    cohort.version = version;
  }
  return cohort.roster;
}

/** The delays (ms) of duty rows for a queue and channel, ascending: where who is asked changes by time alone. */
export function delaysOf(router: Router, queueId: string, channel: Channel): readonly number[] {
  const key = `${queueId}|${channel}`;
  let delays = router.delays.get(key);
  if (!delays) {
    const all = new Set<number>();
    for (const rows of router.rowsHeld.keys()) {
      const row = rows.get(key);
      if (row && row.delaySeconds > 0) all.add(row.delaySeconds * 1000);
    }
    router.delays.set(key, (delays = [...all].sort((a, b) => a - b)));
  }
  return delays;
}

const needsKeys = new WeakMap<readonly MergedNeed[], string>();

const needsKey = (needs: readonly MergedNeed[]): string => {
  let key = needsKeys.get(needs);
  if (key === undefined)
    needsKeys.set(needs, (key = needs.map((n) => `${n.skillId}:${n.atLeast}:${n.atMost ?? ''}`).join(',')));
  return key;
};

/** The cohort that a visit stands in now. */
export function cohortOf(router: Router, visit: WaitingVisit, now: number): Cohort {
  const { queue, channel, load } = visit;
  let own = router.cohorts.get(queue);
  if (!own) router.cohorts.set(queue, (own = new Map()));
  const delays = delaysOf(router, queue.id, channel);
  let elapsedMs = 0;
  for (const delay of delays) if (delay <= now - visit.enteredAt) elapsedMs = delay;
  const key = `${channel} ${load} ${visit.stage} ${elapsedMs} ${needsKey(visit.needs)}${visit.groups.length > 0 ? ` ${visit.groups.join(' ')}` : ''}`;
  let cohort = own.get(key);
  if (!cohort) {
    const early = queue.clocks[channel]?.[visit.stage]?.early ?? false;
    cohort = {
      queueId: queue.id,
      channel,
      load,
      needs: visit.needs,
      groups: visit.groups,
      elapsedMs,
      waiting: [],
      early,
      version: -1,
      roster: NOBODY,
    };
    own.set(key, cohort);
  }
  return cohort;
}

/** What every person prefers among the visits of one cohort: higher priority, earlier placedAt, lower entry number. */
export const before = (a: WaitingVisit, b: WaitingVisit): number =>
  b.priority - a.priority || a.placedAt - b.placedAt || a.entry - b.entry;

/** Where a visit is, or belongs, in a line. */
function placeIn(line: readonly WaitingVisit[], visit: WaitingVisit): number {
  let [low, high] = [0, line.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (before(line[middle] as WaitingVisit, visit) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

const stands = (visit: WaitingVisit): boolean =>
  visit.offers.length === 0 &&
  visit.dials.size === 0 &&
  visit.choosingUntil === null &&
  visit.queue.offering.way !== 'claim';

/** Takes a visit out of its line. Call it before changing what its place depends on. */
export function leaveLine(router: Router, visit: WaitingVisit): void {
  const cohort = router.lineOf.get(visit);
  if (!cohort) return;
  router.lineOf.delete(visit);
  const { waiting } = cohort;
  if (waiting[0] === visit) waiting.shift();
  else waiting.splice(placeIn(waiting, visit), 1);
  if (waiting.length === 0) router.busy.delete(cohort);
}

/** Puts a visit where it belongs, unless it is being offered, asked what it wants, or to be claimed by hand. */
export function joinLine(router: Router, visit: WaitingVisit, now: number): void {
  leaveLine(router, visit);
  if (!stands(visit) || !router.floor.waiting.has(visit.id)) return;
  const cohort = cohortOf(router, visit, now);
  const { waiting } = cohort;
  const last = waiting[waiting.length - 1];
  if (!last || before(last, visit) < 0) waiting.push(visit);
  else waiting.splice(placeIn(waiting, visit), 0, visit);
  if (waiting.length === 1) router.busy.add(cohort);
  router.lineOf.set(visit, cohort);
}

/** Everybody whom a visit of this queue and channel could ever reach: all stages passed and all delays over. */
export const widestCohort = (queueId: string, channel: Channel, { needs, groups, elapsedMs }: Widest): Cohort => ({
  queueId,
  channel,
  load: channel,
  needs,
  groups,
  elapsedMs,
  waiting: [],
  early: false,
  version: -1,
  roster: NOBODY,
});
