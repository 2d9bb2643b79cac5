import type { Channel } from '../../core/channels';
import { SHORT_SECONDS } from '../../core/measures/servicelevel';
import { dutyRow, type DutyState } from '../../core/people/duty';
import { usedLoad } from '../../core/people/load';
import { reaches } from '../../core/people/rights';
import { heldBy, type WaitingVisit } from '../../core/routing/floor';
import { unmetNeed } from '../../core/routing/needs';
import { goalOf } from '../../core/routing/queue';
import { rows } from '../../data/database';
import { lastSeq } from '../../data/events';
import { openLegs } from '../../data/legs';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { type Actor, need } from '../ground/actor';
import { bind } from '../ground/bind';
import { scopeOf } from '../ground/scope';
import { viewContact } from './contactview';
import { dayStart, type FloorViewDeps, positionOf, stripOf } from './strip';

export type LaneContact = {
  readonly contactId: string;
  readonly visitId: string;
  readonly channel: Channel;
  readonly placedAt: number;
  readonly offered: boolean;
};

/** `free` people hold nothing, take the queue and meet its needs. */
export type FloorLane = {
  readonly queueId: string;
  readonly name: string;
  readonly goalSeconds: number;
  readonly free: number;
  readonly waiting: readonly LaneContact[];
  readonly good: number;
  readonly all: number;
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
};

export function viewFloor(deps: FloorViewDeps, actor: Actor): FloorView {
  need(actor, 'floor.view');
  const now = deps.host.clocks.floor();
  const scope = scopeOf(deps.host, actor);
  const waiting = new Map<string, WaitingVisit[]>();
  for (const v of deps.floor.router.floor.waiting.values())
    waiting.set(v.queue.id, [...(waiting.get(v.queue.id) ?? []), v]);
  const wrapping = new Set(
    openLegs(deps.host.db)
      .filter((l) => l.talkEndedAt !== null)
      .map((l) => l.personId),
  );
  const people = [...deps.floor.router.floor.people.values()];
  const shares = new Map(
    rows<{ id: string; good: number; all: number }>(
      deps.host.db,
      `SELECT queue_id AS id, count(*) AS "all", sum(ended_how = 'accepted' AND ended_at - placed_at <= goal_seconds * 1000) AS good
        FROM visits WHERE entered_at >= ?1 AND (ended_how = 'accepted' OR (ended_how = 'gave-up' AND ended_at - entered_at > ?2 * 1000)) GROUP BY queue_id`,
      dayStart(deps),
      SHORT_SECONDS,
    ).map((s) => [s.id, s]),
  );
  return {
    seq: lastSeq(deps.host.db),
    now,
    rate: deps.rate(),
    teams: rows<{ id: string; name: string }>(deps.host.db, 'SELECT id, name FROM teams ORDER BY place').filter((t) =>
      reaches(actor, t.id),
    ),
    lanes: readQueues(deps.host.db)
      .filter((q) => scope.queues?.has(q.id) ?? true)
      .map((q) => ({
        queueId: q.id,
        name: q.name,
        goalSeconds: goalOf(q, q.channels[0] ?? 'voice').seconds,
        good: shares.get(q.id)?.good ?? 0,
        all: shares.get(q.id)?.all ?? 0,
        free: people.filter(
          (p) =>
            p.duty === 'ready' &&
            p.reachable &&
            !p.pending &&
            q.channels.some((c) => dutyRow(p.profile, q.id, c) && p.load[c].most > 0) &&
            p.open.size === 0 &&
            unmetNeed(q.needs, p.levels) === null,
        ).length,
        waiting: (waiting.get(q.id) ?? []).map((v) => ({
          contactId: v.contactId,
          visitId: v.id,
          channel: v.channel,
          placedAt: v.placedAt,
          offered: v.offers.length > 0,
        })),
      })),
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
