import { startOfToday } from '../../core/hours/weekly';
import { isPastGoal, levelSoFar } from '../../core/measures/servicelevel';
import { holds, LANE_RIGHTS, type Right } from '../../core/people/rights';
import type { WaitingVisit } from '../../core/routing/floor';
import { goalOfVisit } from '../../core/routing/queue';
import { readBots } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { lastSeq } from '../../data/events';
import { goalCountsSince } from '../../data/facts';
import { activePeople } from '../../data/people';
import { readWorkspace } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { doorsByHand } from '../doors/byhand';
import { doorOpenNow } from '../doors/opennow';
import { type Actor, mustHoldOne } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';

/** A figure is null for whoever may not open the page that it stands for. */
export type StripView = {
  readonly seq: number;
  readonly doorsOpen: number | null;
  /** Doors shut or open by hand. */ readonly byHand: number | null;
  readonly botsLive: number | null;
  readonly drafts: number | null;
  readonly waiting: number | null;
  readonly late: number | null;
  readonly onDuty: number | null;
  readonly people: number | null;
  /** Null also while nothing has been counted today. */
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
  goalSeconds: goalOfVisit(v.queue, v).seconds,
});

/** Where the log stands: what a page was rendered with, so that the stream can go on from there. */
export const positionOf = ({ host }: FloorViewDeps): number => lastSeq(host.db);

export function stripOf(deps: FloorViewDeps, actor: Actor): StripView {
  mustHoldOne(actor, LANE_RIGHTS);
  const { db, times } = deps.host;
  const now = times.floor();
  const sight = sightOf(deps.host, actor);
  const only = <T>(right: Right, figure: () => T): T | null => (holds(actor, right) ? figure() : null);
  const doors = readDoors(db);
  const visits = [...deps.floor.router.floor.waiting.values()].filter((v) => sight.queues?.has(v.queue.id) ?? true);
  // Promised calls have a promise of their own; messages a goal of theirs, which is in no share.
  const past = visits.filter((v) => v.kind !== 'callback' && isPastGoal(waitOf(v), now));
  const late = past.length;
  return {
    seq: lastSeq(db),
    doorsOpen: only('settings.view', () => doors.filter((d) => doorOpenNow(deps.host, d).open).length),
    byHand: only('settings.view', () => doorsByHand(deps.host).length),
    botsLive: only('settings.view', () => readBots(db).filter((b) => b.liveVersion !== null).length),
    drafts: only('settings.view', deps.drafts),
    waiting: only('settings.view', () => visits.filter((v) => v.kind !== 'message').length),
    late: only('floor.view', () => late),
    onDuty: only(
      'people.view',
      () =>
        [...deps.floor.router.floor.people.values()].filter(
          (p) => (sight.people?.has(p.id) ?? true) && (p.duty === 'ready' || p.duty === 'away-when-empty'),
        ).length,
    ),
    people: only('people.view', () => activePeople(db).filter((id) => sight.people?.has(id) ?? true).length),
    inGoal: only('review.view', () => {
      const counts = goalCountsToday(deps).filter((c) => sight.queues?.has(c.queueId) ?? true);
      const sum = (of: 'good' | 'all') => counts.reduce((n, c) => n + c[of], 0);
      return levelSoFar({ good: sum('good'), all: sum('all') }, past.filter((v) => v.kind === 'live').length);
    }),
  };
}
