import type { Channel } from '../../core/channels';
import { holds } from '../../core/people/rights';
import type { ClockCount } from '../../core/routing/clockcounts';
import { readBots } from '../../data/bots';
import { readFields } from '../../data/fields';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readOutcomes } from '../../data/outcomes';
import { type QueueRecord, readQueues } from '../../data/queuesettings';
import { readSkills, type Skill } from '../../data/skills';
import { readWorkspace } from '../../data/workspace';
import { musicThere } from '../bots/recordings';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';

/**
 * What one channel's clock of a queue comes to, stage by stage, with when its busiest hour is (floor ms; null without
 * history).
 */
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
  /** Music to wait by; `url` is where a recorded one is, null for what ships with the product. */
  readonly music: readonly (Named & { readonly url: string | null })[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type QueuesDeps = { readonly host: Host; readonly floor: LiveFloor };

export function viewQueues({ floor, host }: QueuesDeps, actor: Actor): QueuesView {
  mustHold(actor, 'settings.view');
  const waiting = new Map<string, number>();
  for (const v of floor.router.floor.waiting.values())
    if (v.kind !== 'message') waiting.set(v.queue.id, (waiting.get(v.queue.id) ?? 0) + 1);
  return {
    queues: readQueues(host.db).map((q) => ({ ...q, waiting: waiting.get(q.id) ?? 0 })),
    music: musicThere(host.db),
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
