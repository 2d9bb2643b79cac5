import { array, object } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import type { Unable } from '../../core/routing/able';
import { inOrder, type StageAct } from '../../core/routing/clock';
import { type ClockCount, clockCounts } from '../../core/routing/clockcounts';
import { reasonIn } from '../../core/routing/decision';
import type { Onward } from '../../core/routing/onward';
import { decidedBy, prefers } from '../../core/routing/order';
import { ableMembers } from '../../core/routing/pass';
import { queueFrom, type QueueSettings } from '../../core/routing/queue';
import { placeAtStage } from '../../core/routing/stages';
import { noteStanding } from '../../core/routing/standing';
import type { Decider } from '../../core/routing/trail';
import { newVisit } from '../../core/routing/visit';
import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { readSkills, type Skill } from '../../data/people';
import { GROUPS, PARTNERS } from '../../data/queues';
import {
  type QueueRecord,
  readAllHours,
  readFields,
  readOutcomes,
  readQueue,
  readQueues,
  readWorkspace,
  writeQueue,
} from '../../data/settings';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, need, needEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Kept, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { channel, exactly, needsSchema, whole } from '../ground/schemas';
import { namesFor, scopeOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { busiestHour } from '../review/busiesthour';
import { queueSchema } from './queueschema';

/** What one channel's clock of a queue comes to, stage by stage, with when its busiest hour is (floor ms; null without history). */
export type ChannelCounts = { readonly channel: Channel; readonly counts: readonly ClockCount[] };
export type QueueCounts = {
  readonly channels: readonly ChannelCounts[];
  readonly busiestAt: number | null;
  readonly busiestContacts: number;
  readonly zone: string;
};
type Named = { readonly id: string; readonly name: string };
export type QueueLine = QueueRecord & { readonly waiting: number };
export type QueuesView = {
  readonly queues: readonly QueueLine[];
  readonly skills: readonly Skill[];
  readonly groups: readonly Named[];
  readonly partners: readonly Named[];
  readonly hours: readonly Named[];
  readonly bots: readonly (Named & { readonly scenes: readonly Named[] })[];
  readonly outcomes: readonly { readonly code: string; readonly label: string }[];
  readonly fields: readonly (Named & { readonly label: string })[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};
/** One person's answer to "who would get this contact?". */
export type Candidate = {
  readonly personId: string;
  readonly name: string;
  readonly rank: number | null;
  readonly why: string;
  readonly levelSum: number | null;
  readonly load: number;
};
export type WhoGets = {
  readonly sentence: string;
  readonly people: readonly Candidate[];
  readonly crossed: readonly string[];
};

const whoSchema = exactly(
  object({
    queue: queueSchema,
    contact: exactly(object({ channel, handOver: needsSchema, waitedSeconds: whole(0, 86_400, 'The wait') })),
  }),
);
const countSchema = exactly(object({ queue: queueSchema, handOver: array().optional() }));

const DECIDED: Readonly<Record<Decider, string>> = {
  familiar: 'knows this customer',
  'only-one': 'the only one able',
  'longest-idle': 'longest since the last contact',
  'lightest-load': 'lightest load',
  'fewest-open': 'fewest open contacts',
  'fewest-today': 'fewest today',
  'highest-level': 'highest level',
  'closest-level': 'level closest to what is needed',
  'share-by-weight': 'furthest behind their share',
  'in-turn': 'next in turn',
  tie: 'equal, settled by lot',
};

export type Queues = ReturnType<typeof createQueues>;

/** What the functions of this file are given first. */
export type QueuesDeps = { readonly host: Host; readonly floor: LiveFloor };

/** Settings as the page sent them, in the form they are kept: channels and stages in order, nothing for channels not taken. */
function settingsOf({ id, settings }: { id: string | null; settings: unknown }): QueueSettings {
  const s = settings as Omit<QueueSettings, 'id'>;
  const channels = CHANNELS.filter((c) => s.channels.includes(c));
  const kept = <T>(by: Readonly<Partial<Record<Channel, T>>>): Partial<Record<Channel, T>> =>
    Object.fromEntries(channels.flatMap((c) => (by[c] === undefined ? [] : [[c, by[c]]])));
  const clocks = Object.fromEntries(
    Object.entries(kept(s.clocks))
      .map(([c, stages]) => [c, inOrder(stages ?? [])])
      .filter(([, stages]) => (stages?.length ?? 0) > 0),
  );
  return { ...s, id: id ?? '', channels, goals: kept(s.goals), clocks };
}

/** Refuses what points at something that is not there, naming it. */
function checkReferences(db: Db, queue: QueueSettings): void {
  const refuse = (where: string, what: string): never => {
    throw new LaneError('not-valid', `${queue.name}: ${what}.`, [{ where, what }]);
  };
  const ids = {
    skill: new Set(readSkills(db).map((s) => s.id)),
    group: new Set(GROUPS.all(db).map((g) => g.id)),
    partner: new Set(PARTNERS.all(db).map((p) => p.id)),
    queue: new Set(readQueues(db).map((q) => q.id)),
    hours: new Set(readAllHours(db).map((h) => h.id)),
  };
  for (const n of queue.needs) {
    if (!ids.skill.has(n.skillId)) refuse('needs', `the needed skill ${n.skillId} is not known`);
    if (n.atMost !== undefined && n.atMost < n.atLeast) refuse('needs', 'a need’s highest level is below its lowest');
  }
  if (queue.hoursId !== null && !ids.hours.has(queue.hoursId)) refuse('hoursId', 'its hours are not known');
  if (queue.callback.queueId !== null && !ids.queue.has(queue.callback.queueId))
    refuse('callback.queueId', 'the callback queue is not known');
  const toward = (where: string, o: Onward): void => {
    if (o.to === 'queue' && (!ids.queue.has(o.queueId) || o.queueId === queue.id))
      refuse(
        where,
        o.queueId === queue.id ? 'it would send contacts to itself' : 'it sends contacts to a queue that is not known',
      );
    if (o.to === 'group' && !ids.group.has(o.groupId)) refuse(where, 'it asks a group that is not known');
    if (o.to === 'partner' && !ids.partner.has(o.partnerId)) refuse(where, 'it asks a partner desk that is not known');
    if (
      o.to === 'scene' &&
      !readBots(db).some((b) => b.id === o.botId && b.draft.scenes.some((s) => s.id === o.sceneId))
    )
      refuse(where, 'it leads to a scene that is not known');
  };
  queue.entryRules.forEach((rule, i) => toward(`entryRules[${i}]`, rule.then));
  const check = (where: string, act: StageAct): void => {
    if (act.does === 'lower' && !ids.skill.has(act.skillId)) refuse(where, 'a stage loosens a skill that is not known');
    if (act.does === 'add-group' && !ids.group.has(act.groupId))
      refuse(where, 'a stage adds a group that is not known');
    if (act.does === 'add-partner' && !ids.partner.has(act.partnerId))
      refuse(where, 'a stage adds a partner desk that is not known');
    if (act.does === 'move') toward(where, act.onward);
  };
  for (const [c, stages] of Object.entries(queue.clocks))
    stages.forEach((stage, i) => stage.acts.forEach((act) => check(`clocks.${c}[${i}]`, act)));
}

function keep(
  { floor }: QueuesDeps,
  tx: Tx,
  actor: Actor,
  queue: QueueSettings,
  before: QueueRecord | undefined,
): void {
  const all = readQueues(tx.db);
  const twin = all.find((o) => o.id !== queue.id && o.name.toLowerCase() === queue.name.toLowerCase());
  if (twin)
    throw new LaneError('not-valid', `There is already a queue called ${twin.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
  checkReferences(tx.db, queue);
  const version = recordChange(tx, actor, 'queue', queue.id, before, queue);
  writeQueue(tx.db, queue, before?.place ?? all.length, version);
  floor.refreshSettings(tx);
}

function counts({ host, floor }: QueuesDeps, queue: QueueSettings): QueueCounts {
  const now = host.clocks.floor();
  const busiest = queue.id === '' ? null : busiestHour(host, queue.id);
  return {
    channels: queue.channels.map((c) => ({
      channel: c,
      counts: clockCounts(floor.router.floor, queue, c, [], busiest?.planned ?? new Set(), now),
    })),
    busiestAt: busiest?.at ?? null,
    busiestContacts: busiest?.contacts ?? 0,
    zone: readWorkspace(host.db)?.zone ?? 'UTC',
  };
}

function words(reason: Unable, nameOf: (id: string) => string): string {
  switch (reason.why) {
    case 'off-duty':
      return 'off duty';
    case 'away':
      return 'away';
    case 'unreachable':
      return 'out of reach';
    case 'not-in-duty':
      return 'not in their duty profile';
    case 'not-yet':
      return 'their delay is not over';
    case 'limit':
      return reason.groupId === null
        ? 'a limit of their own is reached'
        : `a limit of ${nameOf(reason.groupId)} is reached`;
    case 'skill':
      return `${nameOf(reason.need.skillId)} ${reason.need.atLeast}${reason.need.atMost === undefined ? ' or better' : ` to ${reason.need.atMost}`} is needed`;
    case 'channel-off':
      return 'does not take this channel';
    case 'channel-most':
      return 'has as many of this channel as they take';
    case 'load':
      return 'no room left';
    case 'offer-pending':
      return 'being offered another contact';
    case 'refused':
      return 'passed on it';
    case 'held':
      return 'held for somebody the customer knows';
  }
}

export const keptQueues = (deps: QueuesDeps): Readonly<Record<string, Kept>> => ({
  queue: {
    name: 'queue',
    path: (id) => `/queues?queue=${id}`,
    read: (db, id) => {
      const found = readQueue(db, id);
      if (!found) return null;
      const { revision: _revision, place: _place, ...settings } = found;
      return settings;
    },
    restore: (tx, actor, id, value) => {
      needEverywhere(actor, 'queues.change');
      if (value === null)
        throw new LaneError(
          'not-now',
          'A queue that was added is not taken away again, since contacts may have waited in it.',
        );
      const { revision: _r, place: _p, ...settings } = value as QueueRecord;
      keep(deps, tx, actor, { ...queueFrom(settings), id }, readQueue(tx.db, id));
    },
  },
});

export function viewQueues({ floor, host }: QueuesDeps, actor: Actor): QueuesView {
  need(actor, 'settings.view');
  const waiting = new Map<string, number>();
  for (const v of floor.router.floor.waiting.values()) waiting.set(v.queue.id, (waiting.get(v.queue.id) ?? 0) + 1);
  return {
    queues: readQueues(host.db).map((q) => ({ ...q, waiting: waiting.get(q.id) ?? 0 })),
    skills: readSkills(host.db),
    groups: GROUPS.all(host.db).map(({ id, name }) => ({ id, name })),
    partners: PARTNERS.all(host.db).map(({ id, name }) => ({ id, name })),
    hours: readAllHours(host.db).map(({ id, name }) => ({ id, name })),
    bots: readBots(host.db).map((b) => ({
      id: b.id,
      name: b.name,
      scenes: b.draft.scenes.map(({ id, name }) => ({ id, name })),
    })),
    outcomes: readOutcomes(host.db).map(({ code, label }) => ({ code, label })),
    fields: readFields(host.db).map(({ id, name, label }) => ({ id, name, label })),
    languages: readWorkspace(host.db)?.languages ?? ['en'],
    mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
  };
}

/** How many could take a queue's contacts as its clock goes on, under settings not yet kept: counted, not guessed. */
export function previewQueue(deps: QueuesDeps, actor: Actor, input: unknown): QueueCounts {
  need(actor, 'settings.view');
  return counts(deps, settingsOf(parse(countSchema, input).queue as { id: string | null; settings: unknown }));
}

/** Who would get a made-up contact under settings not yet kept: everybody with their rank or the reason. */
export function whoGets({ host, floor }: QueuesDeps, actor: Actor, input: unknown): WhoGets {
  need(actor, 'settings.view');
  const asked = parse(whoSchema, input);
  const queue = settingsOf(asked.queue as { id: string | null; settings: unknown });
  const now = host.clocks.floor();
  const at = now - asked.contact.waitedSeconds * 1000;
  const { visit, crossed } = newVisit(
    queue,
    0,
    0,
    {
      id: 'tried',
      contactId: 'tried',
      queueId: queue.id,
      channel: asked.contact.channel,
      placedAt: at,
      handOver: asked.contact.handOver,
      priority: 0,
      familiarId: null,
      callback: false,
      because: '',
      passed: [],
    },
    at,
  );
  placeAtStage(
    visit,
    (queue.clocks[visit.channel] ?? []).filter((s) => s.atSeconds <= asked.contact.waitedSeconds).length,
    [],
    [],
  );
  const able = ableMembers(floor.router, visit, now).sort((a, b) => prefers(floor.router, visit, a, b));
  const decision = noteStanding(floor.router, 'stage', visit, now);
  const names = namesFor(host, actor);
  const scope = scopeOf(host, actor);
  const things = new Map([...readSkills(host.db), ...GROUPS.all(host.db)].map((t) => [t.id, t.name]));
  const people = [...floor.router.floor.people.values()]
    .filter((p) => scope.people?.has(p.id) ?? true)
    .map((p): Candidate => {
      const place = able.findIndex((m) => m.person === p);
      const member = able[place];
      const next = able[place + 1];
      const reason = place < 0 ? reasonIn(decision, p) : null;
      return {
        personId: p.id,
        name: names.get(p.id) ?? '',
        rank: place < 0 ? null : place + 1,
        levelSum: member && visit.needs.length > 0 ? member.levelSum : null,
        load: p.used,
        why: reason
          ? words(reason, (id) => things.get(id) ?? id)
          : member
            ? able.length === 1
              ? DECIDED['only-one']
              : next
                ? DECIDED[decidedBy(floor.router, visit, member, next)]
                : 'last of those able'
            : 'left out',
      };
    })
    .sort((a, b) => (a.rank ?? 1e9) - (b.rank ?? 1e9) || a.why.localeCompare(b.why) || a.name.localeCompare(b.name));
  const first = people.find((p) => p.rank === 1);
  return {
    crossed: crossed.map((id) => things.get(id) ?? id),
    people,
    sentence: first
      ? `${first.name} would be asked first: ${first.why}; ${able.length} ${able.length === 1 ? 'person is' : 'people are'} able.`
      : able.length > 0
        ? `${able.length} people of other teams are able.`
        : 'Nobody could take it now.',
  };
}

/** Adds (`id` null) or changes a queue; counts from the next visit on. */
export function saveQueue(deps: QueuesDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'queues.change');
  const asked = parse(queueSchema, input);
  return deps.host.transact((tx) => {
    const before = asked.id === null ? undefined : readQueue(tx.db, asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'This queue is not there any more.');
    sameRevision(before, asked.revision, before?.name ?? '');
    const queue = {
      ...settingsOf(asked as { id: string | null; settings: unknown }),
      id: asked.id ?? tx.ids('queue'),
    };
    keep(deps, tx, actor, queue, before);
    return { id: queue.id };
  });
}

/** Queue pages: settings gathered and applied in one press, counted before they are. */
export const createQueues = (deps: QueuesDeps) => ({
  kept: keptQueues(deps),
  ...bind(deps, { view: viewQueues, preview: previewQueue, whoGets, save: saveQueue }),
});
