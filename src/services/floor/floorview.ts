import type { Channel } from '../../core/channels';
import { goalStanding, type GoalStanding, isPastGoal, levelSoFar, wantedShare } from '../../core/measures/servicelevel';
import { dutyRow, type DutyState, isFree } from '../../core/people/duty';
import { usedLoad } from '../../core/people/load';
import { reaches } from '../../core/people/rights';
import { heldBy, type WaitingVisit } from '../../core/routing/floor';
import { unmetNeed } from '../../core/routing/needs';
import { goalOf } from '../../core/routing/queue';
import { lastSeq } from '../../data/events';
import { openLegs } from '../../data/legs';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readTeams } from '../../data/teams';
import { type DoorByHand, doorsByHand } from '../doors/byhand';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import { sightOf } from '../ground/scope';
import { viewContact } from './contactview';
import { type FloorViewDeps, goalCountsToday, positionOf, stripOf, waitOf } from './strip';

export type LaneContact = {
  readonly contactId: string;
  readonly visitId: string;
  readonly channel: Channel;
  readonly placedAt: number;
  /** The goal in force when it came, seconds. */
  readonly goalSeconds: number;
  readonly offered: boolean;
};

/**
 * `free` people are free, take the queue and meet its needs; `share` is today's service level so far, `standing` how
 * it stands to the goals.
 */
export type FloorLane = {
  readonly queueId: string;
  readonly name: string;
  readonly goals: readonly { readonly channel: Channel; readonly seconds: number }[];
  readonly free: number;
  readonly waiting: readonly LaneContact[];
  /** Messages that were left and wait by themselves. */
  readonly messages: number;
  readonly share: number | null;
  readonly standing: GoalStanding | null;
};

export type FloorPersonLine = {
  readonly id: string;
  readonly name: string;
  readonly teamId: string;
  readonly duty: DutyState;
  readonly reason: string | null;
  readonly since: number;
  readonly reachable: boolean;
  readonly open: readonly Channel[];
  readonly wrapping: boolean;
  readonly used: number;
  readonly asked: boolean;
};

export type FloorView = {
  readonly seq: number;
  readonly now: number;
  readonly rate: number;
  readonly lanes: readonly FloorLane[];
  readonly people: readonly FloorPersonLine[];
  readonly teams: readonly { id: string; name: string }[];
  /** Doors shut or open by hand, the first to end first. */ readonly byHand: readonly DoorByHand[];
};

export function viewFloor(deps: FloorViewDeps, actor: Actor): FloorView {
  mustHold(actor, 'floor.view');
  const now = deps.host.times.floor();
  const scope = sightOf(deps.host, actor);
  const waiting = new Map<string, WaitingVisit[]>();
  for (const v of deps.floor.router.floor.waiting.values())
    waiting.set(v.queue.id, [...(waiting.get(v.queue.id) ?? []), v]);
  const wrapping = new Set(
    openLegs(deps.host.db)
      .filter((l) => l.talkEndedAt !== null)
      .map((l) => l.personId),
  );
  const people = [...deps.floor.router.floor.people.values()];
  const counts = goalCountsToday(deps);
  return {
    seq: lastSeq(deps.host.db),
    now,
    rate: deps.rate(),
    byHand: doorsByHand(deps.host),
    teams: readTeams(deps.host.db)
      .filter((t) => reaches(actor, t.id))
      .map((t) => ({ id: t.id, name: t.name })),
    lanes: readQueues(deps.host.db)
      .filter((q) => scope.queues?.has(q.id) ?? true)
      .map((q): FloorLane => {
        const ofQueue = counts.filter((c) => c.queueId === q.id).map((c) => ({ ...c, goal: goalOf(q, c.channel) }));
        const here = waiting.get(q.id) ?? [];
        const lane = here.filter((v) => v.kind !== 'message');
        const good = ofQueue.reduce((n, c) => n + c.good, 0);
        const all = ofQueue.reduce((n, c) => n + c.all, 0);
        const share = levelSoFar(
          { good, all },
          lane.filter((v) => v.kind === 'live' && isPastGoal(waitOf(v), now)).length,
        );
        const wanted =
          wantedShare(ofQueue) ?? wantedShare(lane.map((v) => ({ all: 1, goal: goalOf(v.queue, v.channel) })));
        return {
          queueId: q.id,
          name: q.name,
          goals: q.channels.map((c) => ({ channel: c, seconds: goalOf(q, c).seconds })),
          share,
          standing: share === null || wanted === null ? null : goalStanding(share, wanted),
          free: people.filter(
            (p) =>
              isFree({ duty: p.duty, reachable: p.reachable, openCount: p.open.size, asked: p.pending !== null }) &&
              q.channels.some((c) => dutyRow(p.profile, q.id, c) && p.load[c].most > 0) &&
              unmetNeed(q.needs, p.levels) === null,
          ).length,
          messages: here.length - lane.length,
          waiting: lane.map((v) => ({
            contactId: v.contactId,
            visitId: v.id,
            channel: v.channel,
            ...waitOf(v),
            offered: v.offers.length > 0,
          })),
        };
      }),
    people: readPeople(deps.host.db)
      .filter((p) => p.active && p.duty !== 'off' && (scope.people?.has(p.id) ?? true))
      .map((p) => {
        const there = deps.floor.router.floor.people.get(p.id);
        return {
          id: p.id,
          name: p.name,
          teamId: p.teamId,
          duty: p.duty,
          reason: p.dutyReason,
          since: Math.max(p.dutySince, p.lastContactAt ?? 0),
          reachable: there?.reachable ?? true,
          open: there ? [...there.open.values()].map((h) => h.channel) : [],
          wrapping: wrapping.has(p.id),
          used: there ? usedLoad(heldBy(there)) : 0,
          asked: there?.pending !== null && there !== undefined,
        };
      }),
  };
}

export const createFloorView = (deps: FloorViewDeps) =>
  bind(deps, { position: positionOf, view: viewFloor, strip: stripOf, contact: viewContact });
