import type { ShownImage } from '../../core/bots/conversation';
import { lineNumber } from '../../core/bots/model';
import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { openAt } from '../../core/hours/weekly';
import { SHORT_SECONDS } from '../../core/measures/servicelevel';
import { dutyRow, type DutyState } from '../../core/people/duty';
import { usedLoad } from '../../core/people/load';
import { LANE_RIGHTS, reaches } from '../../core/people/rights';
import { heldBy, type WaitingVisit } from '../../core/routing/floor';
import { unmetNeed } from '../../core/routing/needs';
import { goalOf } from '../../core/routing/queue';
import { stagesOf } from '../../core/routing/stages';
import { explain } from '../../core/routing/standing';
import { decisionSentence, otherLines, type Trail } from '../../core/routing/trail';
import { readBots, scriptOf } from '../../data/bots';
import {
  decisionsOf,
  legsOf,
  messagesOf,
  openLegs,
  privateValuesOf,
  readContact,
  readCustomer,
  valuesOf,
  visitsOf,
} from '../../data/contacts';
import { rows } from '../../data/database';
import { lastSeq } from '../../data/events';
import { goalShare } from '../../data/facts';
import { activePeople, readPeople, readSkills } from '../../data/people';
import { GROUPS, PARTNERS } from '../../data/queues';
import { readAllHours, readDoor, readDoors, readFields, readQueue, readQueues } from '../../data/settings';
import { contactState, type ContactState } from '../contacts/conversations';
import type { LiveFloor } from '../contacts/livefloor';
import { MASK, masked } from '../contacts/privatevalues';
import { type Actor, need, needOne } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { ELSEWHERE, namesFor, scopeOf } from '../ground/scope';

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
export type Reasons = {
  readonly sentence: string;
  readonly at: number;
  readonly others: readonly { text: string; people: string }[];
};
export type ContactView = {
  readonly id: string;
  readonly channel: Channel;
  readonly state: ContactState;
  readonly endedHow: string | null;
  readonly customer: string;
  readonly door: string;
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly now: number;
  readonly bot: string | null;
  readonly fields: readonly { label: string; value: string }[];
  readonly visits: readonly {
    id: string;
    queue: string;
    placedAt: number;
    endedAt: number | null;
    how: string | null;
    needs: string;
    priority: number;
    stage: string | null;
    also: readonly string[];
    decisions: readonly Reasons[];
    nowWhy: Reasons | null;
  }[];
  readonly legs: readonly {
    id: string;
    person: string;
    acceptedAt: number;
    endedAt: number | null;
    outcome: string | null;
    handleSeconds: number | null;
    passedOn: boolean;
  }[];
  readonly messages: readonly {
    seq: number;
    from: 'customer' | 'bot' | 'person';
    name: string;
    text: string;
    at: number;
    line: string | null;
    image: ShownImage | null;
  }[];
};

/** Where a waiting contact stands on its clock. */
function stageWords(visit: WaitingVisit): string | null {
  const stages = stagesOf(visit);
  if (stages.length === 0) return null;
  const next = stages[visit.stage];
  return `stage ${visit.stage} of ${stages.length}${next ? `, the next at ${next.atSeconds} s` : ''}`;
}

/** What the functions of this file are given first. */
export type FloorViewDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly drafts: () => number;
  readonly rate: () => number;
};

function reasons(trail: Trail, names: ReadonlyMap<string, string>, skills: ReadonlyMap<string, string>): Reasons {
  return {
    at: trail.at,
    sentence: decisionSentence(trail, (p) => names.get(p) ?? 'somebody'),
    others: otherLines(trail).map((o) => {
      // Those of other teams have no name here, so they are counted.
      const known = o.people.filter((p) => names.get(p) !== ELSEWHERE);
      const listed = known.slice(0, 6).map((p) => {
        const skill = o.why === 'skill' ? trail.lacking[p] : undefined;
        return `${names.get(p) ?? p}${skill ? ` (${skills.get(skill) ?? skill})` : ''}`;
      });
      const more = [
        ...(known.length > 6 ? [`${known.length - 6} more`] : []),
        ...(o.people.length > known.length ? [`${o.people.length - known.length} in other teams`] : []),
      ];
      return { text: o.text, people: [listed.join(', '), ...more].filter(Boolean).join(' and ') };
    }),
  };
}

/** Live shares look back over the last twelve hours of the floor. */
const dayStart = ({ host }: FloorViewDeps) => host.clocks.floor() - 12 * 3_600_000;

/** Where the log stands: what a page was rendered with, so that the stream can go on from there. */
export const positionOf = ({ host }: FloorViewDeps): number => lastSeq(host.db);

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

/** One contact with its trail: for a waiting one also why nobody has it yet, computed now. */
export function viewContact({ host, floor }: FloorViewDeps, actor: Actor, contactId: string): ContactView {
  need(actor, 'conversations.view');
  const c = readContact(host.db, contactId);
  const scope = scopeOf(host, actor);
  const theirs =
    c &&
    (scope.queues === null ||
      visitsOf(host.db, c.id).some((v) => scope.queues?.has(v.queueId)) ||
      legsOf(host.db, c.id).some((l) => scope.people?.has(l.personId)));
  if (!c || !theirs)
    throw new LaneError('not-found', 'There is no contact with this id, or it never came to your teams.');
  const names = namesFor(host, actor);
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const script = c.botId !== null && c.botVersion !== null ? scriptOf(host.db, c.botId, c.botVersion) : undefined;
  const customer = readCustomer(host.db, c.customerId);
  const privates = new Set(privateValuesOf(host.db, c.id).map((v) => v.name));
  const values = new Map(valuesOf(host.db, c.id).map((v) => [v.name, v.value]));
  const now = host.clocks.floor();
  const things = new Map([...GROUPS.all(host.db), ...PARTNERS.all(host.db)].map((t) => [t.id, t.name]));
  return {
    id: c.id,
    channel: c.channel,
    state: contactState(host.db, c),
    endedHow: c.endedHow,
    customer: customer?.name ?? customer?.address ?? '',
    door: readDoor(host.db, c.doorId)?.name ?? '',
    startedAt: c.startedAt,
    endedAt: c.endedAt,
    now,
    bot: script ? `${script.shownName}, version ${c.botVersion}` : null,
    fields: readFields(host.db).flatMap((f) =>
      privates.has(f.name)
        ? [{ label: f.label, value: MASK }]
        : values.has(f.name)
          ? [{ label: f.label, value: masked(values.get(f.name) ?? '') }]
          : [],
    ),
    visits: visitsOf(host.db, c.id).map((v) => {
      const live = floor.router.floor.waiting.get(v.id);
      return {
        id: v.id,
        queue: readQueue(host.db, v.queueId)?.name ?? v.queueId,
        placedAt: v.placedAt,
        endedAt: v.endedAt,
        how: v.endedHow,
        priority: v.priority,
        needs: (live?.needs ?? v.needs)
          .map(
            (n) =>
              `${skills.get(n.skillId) ?? n.skillId} ${n.atLeast}${n.atMost === undefined ? '' : ` to ${n.atMost}`}`,
          )
          .join(', '),
        stage: live ? stageWords(live) : null,
        also: live ? [...live.groups, ...live.partners].map((id) => things.get(id) ?? id) : [],
        decisions: decisionsOf(host.db, v.id).map((t) => reasons(t, names, skills)),
        nowWhy: live && live.offers.length === 0 ? reasons(explain(floor.router, live, now), names, skills) : null,
      };
    }),
    legs: legsOf(host.db, c.id).map((l) => ({
      id: l.id,
      person: names.get(l.personId) ?? '',
      acceptedAt: l.acceptedAt,
      endedAt: l.endedAt,
      outcome: l.outcome,
      handleSeconds: l.handleSeconds,
      passedOn: l.passedOn === 1,
    })),
    messages: messagesOf(host.db, c.id).map((m) => ({
      seq: m.seq,
      from: m.sender,
      at: m.floorAt,
      text: masked(m.text),
      image: m.image,
      line: script && m.lineId !== null ? lineNumber(script, m.lineId) : null,
      name:
        m.sender === 'customer'
          ? (customer?.name ?? customer?.address ?? 'Customer')
          : m.sender === 'bot'
            ? (script?.shownName ?? 'Bot')
            : (names.get(m.personId ?? '') ?? ''),
    })),
  };
}

export const createFloorView = (deps: FloorViewDeps) =>
  bind(deps, { position: positionOf, view: viewFloor, strip: stripOf, contact: viewContact });
