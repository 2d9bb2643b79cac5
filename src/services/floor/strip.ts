import { openAt } from '../../core/hours/weekly';
import { SHORT_SECONDS } from '../../core/measures/servicelevel';
import { LANE_RIGHTS } from '../../core/people/rights';
import { goalOf } from '../../core/routing/queue';
import { readBots } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { lastSeq } from '../../data/events';
import { goalShare } from '../../data/facts';
import { readAllHours } from '../../data/hours';
import { activePeople } from '../../data/people';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, needOne } from '../ground/actor';
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

/** Live shares look back over the last twelve hours of the floor. */
export const dayStart = ({ host }: FloorViewDeps) => host.clocks.floor() - 12 * 3_600_000;

/** Where the log stands: what a page was rendered with, so that the stream can go on from there. */
export const positionOf = ({ host }: FloorViewDeps): number => lastSeq(host.db);

export function stripOf(deps: FloorViewDeps, actor: Actor): StripView {
  needOne(actor, LANE_RIGHTS);
  const now = deps.host.clocks.floor();
  const hours = new Map(readAllHours(deps.host.db).map((h) => [h.id, openAt(h, now).open]));
  const doors = readDoors(deps.host.db);
  const bots = readBots(deps.host.db);
  const scope = scopeOf(deps.host, actor);
  const people = [...deps.floor.router.floor.people.values()].filter((p) => scope.people?.has(p.id) ?? true);
  const { good, all } = goalShare(deps.host.db, dayStart(deps), now + 1, SHORT_SECONDS);
  const visits = [...deps.floor.router.floor.waiting.values()].filter((v) => scope.queues?.has(v.queue.id) ?? true);
  const late = visits.filter((v) => now - v.placedAt > goalOf(v.queue, v.channel).seconds * 1000).length;
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
    // A wait past its goal already counts as missed.
    inGoal: all + late === 0 ? null : good / (all + late),
  };
}
