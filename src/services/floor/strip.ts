import { openAt, startOfToday } from '../../core/hours/weekly';
import { isPastGoal, levelSoFar } from '../../core/measures/servicelevel';
import { LANE_RIGHTS } from '../../core/people/rights';
import type { WaitingVisit } from '../../core/routing/floor';
import { goalOf } from '../../core/routing/queue';
import { readBots } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { lastSeq } from '../../data/events';
import { goalCountsSince } from '../../data/facts';
import { readAllHours } from '../../data/hours';
import { activePeople } from '../../data/people';
import { readWorkspace } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHoldOne } from '../ground/actor';
import type { Host } from '../ground/host';
import { scopeOf } from '../ground/scope';

export type StripView = {
  readonly seq: number;
  readonly doorsOpen: number;
  readonly doors: number;
  readonly botsLive: number;
  readonly drafts: number;
  readonly waiting: number;
  readonly late: number;
  readonly onDuty: number;
  readonly people: number;
  readonly inGoal: number | null;
};

/** What the functions of this file are given first. */
export type FloorViewDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly drafts: () => number;
  readonly rate: () => number;
};

/** Live shares count what came since the workspace's day began. */
export const goalCountsToday = ({ host }: FloorViewDeps) =>
  goalCountsSince(host.db, startOfToday(host.times.floor(), readWorkspace(host.db)?.zone ?? 'UTC'));

/** Somebody who waits, as the service level sees them. */
export const waitOf = (v: WaitingVisit) => ({
  placedAt: v.placedAt,
  goalSeconds: goalOf(v.queue, v.channel).seconds,
});

/** Where the log stands: what a page was rendered with, so that the stream can go on from there. */
export const positionOf = ({ host }: FloorViewDeps): number => lastSeq(host.db);

export function stripOf(deps: FloorViewDeps, actor: Actor): StripView {
  mustHoldOne(actor, LANE_RIGHTS);
  const now = deps.host.times.floor();
  const hours = new Map(readAllHours(deps.host.db).map((h) => [h.id, openAt(h, now).open]));
  const doors = readDoors(deps.host.db);
  const bots = readBots(deps.host.db);
  const scope = scopeOf(deps.host, actor);
  const people = [...deps.floor.router.floor.people.values()].filter((p) => scope.people?.has(p.id) ?? true);
  const counts = goalCountsToday(deps).filter((c) => scope.queues?.has(c.queueId) ?? true);
  const visits = [...deps.floor.router.floor.waiting.values()].filter((v) => scope.queues?.has(v.queue.id) ?? true);
  const late = visits.filter((v) => isPastGoal(waitOf(v), now)).length;
  return {
    seq: lastSeq(deps.host.db),
    doors: doors.length,
    doorsOpen: doors.filter((d) => hours.get(d.hoursId)).length,
    botsLive: bots.filter((b) => b.liveVersion !== null).length,
    drafts: deps.drafts(),
    waiting: visits.length,
    late,
    onDuty: people.filter((p) => p.duty === 'ready' || p.duty === 'away-when-empty').length,
    people: activePeople(deps.host.db).filter((id) => scope.people?.has(id) ?? true).length,
    inGoal: levelSoFar(
      { good: counts.reduce((n, c) => n + c.good, 0), all: counts.reduce((n, c) => n + c.all, 0) },
      late,
    ),
  };
}
