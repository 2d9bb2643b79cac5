import { object, string } from 'yup';
import type { Channel } from '../../core/channels';
import type { Finding, QueueFix } from '../../core/checks/finding';
import { checkQueues, type QueueWorld } from '../../core/checks/queuechecks';
import { LaneError } from '../../core/errors';
import { clockCounts } from '../../core/routing/clockcounts';
import type { Limits } from '../../core/routing/limits';
import type { QueueSettings } from '../../core/routing/queue';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readQueue, readQueues } from '../../data/queuesettings';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { recordedWords } from '../bots/recordings';
import { saidByQueue } from '../bots/saidoncalls';
import { doorsNow } from './doorworld';
import type { Groups } from './groups';
import type { Queues } from './queues';

const fixSchema = exactly(object({ id: string().max(300).required('What to mend is missing') }));
const PATHS: Readonly<Record<Finding['kind'], (id: string) => string>> = {
  queue: (id) => `/queues?queue=${id}`,
  hours: () => '/doors/hours',
  group: () => '/queues/groups',
  partner: () => '/queues/partners',
  door: (id) => `/doors?door=${id}`,
  shift: () => '/people/shifts',
  outcome: () => '/queues/outcomes',
};
const FIX_WORDS: Readonly<Record<QueueFix['does'], string>> = {
  'drop-stage': 'Take the stage out',
  'lift-limit': 'Lift the limit',
  'shorten-wrap-up': 'Shorten wrap-up',
  'drop-rule': 'Take the rule out',
  'drop-channel': 'Stop taking the channel',
};

export type QueueFinding = Finding & { readonly path: string; readonly press: string | null };

/** Checks over queues, hours, groups, partner desks and doors, and the mending of those that one press can mend. */
export type QueueFixes = ReturnType<typeof createQueueFixes>;

/** What the functions of this file are given first. */
export type QueueFixesDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly queues: Queues;
  readonly groups: Groups;
};

/** Changes with settings and with people; asked for by every strip, so kept for as long as neither changed. */
function foundNow(deps: QueueFixesDeps): Finding[] {
  const kept = deps.host.remembered('queue-findings', () => ({ at: -1, found: [] as Finding[] }));
  const now = deps.host.times.floor();
  if (kept.at < 0 || now - kept.at > 3_600_000) {
    kept.found = checkQueues(worldNow(deps, now));
    kept.at = now;
  }
  return kept.found;
}

function worldNow({ host, floor }: QueueFixesDeps, now: number): QueueWorld {
  const { db } = host;
  const all = readQueues(db);
  return {
    queues: all,
    hours: readAllHours(db),
    now,
    groups: GROUPS.all(db).map((g) => ({
      id: g.id,
      name: g.name,
      limits: g.limits,
      members: floor.router.floor.groups.get(g.id)?.members.size ?? 0,
    })),
    partners: PARTNERS.all(db),
    doors: doorsNow(host),
    said: saidByQueue,
    recorded: recordedWords(host),
    counts: (queueId: string, channel: Channel) => {
      const queue = all.find((q) => q.id === queueId);
      return queue ? clockCounts(floor.router.floor, queue, channel, [], new Set(), now) : [];
    },
  };
}

function mendQueue(
  { host, queues }: QueueFixesDeps,
  actor: Actor,
  queueId: string,
  change: (q: QueueSettings) => Partial<QueueSettings>,
): void {
  const found = readQueue(host.db, queueId);
  if (!found) throw new LaneError('not-found', 'This queue is not there any more.');
  const { id, revision, place: _place, ...settings } = found;
  queues.save(actor, { id, revision, settings: { ...settings, ...change(found) } });
}

const lifted = (limits: Limits, limit: keyof Limits): Limits => ({ ...limits, [limit]: null });

function carryOut(deps: QueueFixesDeps, actor: Actor, fix: QueueFix): void {
  switch (fix.does) {
    case 'drop-stage':
      return mendQueue(deps, actor, fix.queueId, (q) => ({
        clocks: {
          ...q.clocks,
          [fix.channel]: (q.clocks[fix.channel] ?? []).filter((s) => s.atSeconds !== fix.atSeconds),
        },
      }));
    case 'drop-rule':
      return mendQueue(deps, actor, fix.queueId, (q) => ({
        entryRules: q.entryRules.filter((_, i) => i !== fix.index),
      }));
    case 'drop-channel':
      return mendQueue(deps, actor, fix.queueId, (q) => ({ channels: q.channels.filter((c) => c !== fix.channel) }));
    case 'shorten-wrap-up':
      return mendQueue(deps, actor, fix.queueId, (q) => ({ wrapUp: { ...q.wrapUp, seconds: fix.seconds } }));
    case 'lift-limit': {
      if (fix.kind === 'group') {
        const { place: _p, ...group } = GROUPS.one(deps.host.db, fix.thingId) ?? missing();
        deps.groups.saveGroup(actor, { ...group, limits: lifted(group.limits, fix.limit) });
      } else {
        const { place: _p, ...partner } = PARTNERS.one(deps.host.db, fix.thingId) ?? missing();
        deps.groups.savePartner(actor, {
          ...partner,
          ...(fix.numberId === null ? { limits: lifted(partner.limits, fix.limit) } : {}),
          numbers: partner.numbers.map((n) =>
            n.id === fix.numberId ? { ...n, limits: lifted(n.limits, fix.limit) } : n,
          ),
        });
      }
    }
  }
}

function missing(): never {
  throw new LaneError('not-found', 'It is not there any more.');
}

/** What is found, as somebody may read it: settings are everybody's. */
export const findingsOfQueues = (deps: QueueFixesDeps, actor: Actor): QueueFinding[] =>
  actor.rights.includes('settings.view')
    ? foundNow(deps).map((f) => ({
        ...f,
        path: PATHS[f.kind](f.thingId),
        press: f.fix && actor.rights.includes('queues.change') && actor.teams === 'all' ? FIX_WORDS[f.fix.does] : null,
      }))
    : [];

/** Mends what one press can mend; the change goes through the same door as any other, and can be undone in History. */
export function fixQueue(deps: QueueFixesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { id } = parse(fixSchema, input);
  const found = checkQueues(worldNow(deps, deps.host.times.floor())).find((f) => f.id === id);
  if (!found?.fix) throw new LaneError('not-found', 'This is mended already, or cannot be mended by one press.');
  carryOut(deps, actor, found.fix);
  return { id };
}

export const createQueueFixes = (deps: QueueFixesDeps) => bind(deps, { findings: findingsOfQueues, fix: fixQueue });
