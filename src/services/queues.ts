import { holds } from '../core/people/rights';
import { array, object, string } from 'yup';
import { CHANNELS, type Channel } from '../core/channels';
import { LaneError } from '../core/errors';
import { unmetNeed } from '../core/routing/needs';
import { PICKING_RULES, type PickingRule, type QueueSettings } from '../core/routing/queue';
import { dutyRow } from '../core/people/duty';
import { readQueue, readQueues, writeQueue, type QueueRecord } from '../data/settings';
import { readSkills, type Skill } from '../data/people';
import { need, needEverywhere, type Actor } from './actor';
import { recordChange, sameRevision } from './change';
import type { Host } from './host';
import type { LiveFloor } from './livefloor';
import { channel, exactly, needsSchema, oneOf, requiredText, whole } from './schemas';
import { parse } from './validate';

const queueSchema = exactly(object({
  id: string().nullable().defined(), revision: whole(0, 1e9, 'The revision'), name: requiredText(60, 'The name'),
  channels: array(channel).min(1, 'Choose at least one channel').max(CHANNELS.length).required('The channels are missing'),
  goal: exactly(object({ percent: whole(1, 100, 'The goal’s percent'), seconds: whole(1, 86400, 'The goal’s seconds') })),
  needs: needsSchema, order: array(oneOf<PickingRule>(PICKING_RULES, 'The picking order')).min(1, 'Choose a picking order').max(3).required('The picking order is missing'),
  wrapUpSeconds: whole(0, 3600, 'The wrap-up').nullable().optional().default(null),
}));

/** People on duty who could take a contact of this queue on a channel: asked at all, and with the skills; whether free now or not. */
export type Coverage = { readonly channel: Channel; readonly onDuty: number; readonly able: number; readonly everybody: number };
export type QueueLine = QueueRecord & { readonly waiting: number; readonly coverage: readonly Coverage[] };
export type QueuesView = { readonly queues: readonly QueueLine[]; readonly skills: readonly Skill[]; readonly mayChange: boolean };

export function createQueues(host: Host, floor: LiveFloor) {
  const coverage = (queue: Pick<QueueSettings, 'id' | 'channels' | 'needs'>): Coverage[] => queue.channels.map((c) => {
    const asked = [...floor.engine.floor.people.values()].filter((p) => p.load[c].most > 0 && dutyRow(p.profile, queue.id, c));
    const skilled = asked.filter((p) => unmetNeed(queue.needs, p.levels) === null);
    return { channel: c, everybody: skilled.length, onDuty: asked.filter((p) => p.duty === 'ready').length, able: skilled.filter((p) => p.duty === 'ready').length };
  });
  return {
    view(actor: Actor): QueuesView {
      need(actor, 'settings.view');
      const waiting = new Map<string, number>();
      for (const v of floor.engine.floor.waiting.values()) waiting.set(v.queue.id, (waiting.get(v.queue.id) ?? 0) + 1);
      return {
        queues: readQueues(host.db).map((q) => ({ ...q, waiting: waiting.get(q.id) ?? 0, coverage: coverage(q) })),
        skills: readSkills(host.db), mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
      };
    },
    /** How many could take a queue under settings not yet kept: counted, not guessed. */
    preview(actor: Actor, input: unknown): Coverage[] {
      needEverywhere(actor, 'queues.change');
      const q = parse(queueSchema, input);
      return coverage({ id: q.id ?? '', channels: q.channels, needs: q.needs });
    },
    /** Adds (`id` null) or changes a queue; counts from the next visit on. */
    save(actor: Actor, input: unknown): { id: string } {
      needEverywhere(actor, 'queues.change');
      const q = parse(queueSchema, input);
      return host.transact((tx) => {
        const before = q.id === null ? undefined : readQueue(tx.db, q.id);
        if (q.id !== null && !before) throw new LaneError('not-found', 'This queue is not there any more.');
        sameRevision(before, q.revision, q.name);
        const all = readQueues(tx.db);
        const twin = all.find((o) => o.id !== q.id && o.name.toLowerCase() === q.name.toLowerCase());
        if (twin) throw new LaneError('not-valid', `There is already a queue called ${twin.name}.`, [{ where: 'name', what: 'is taken' }]);
        const skills = new Set(readSkills(tx.db).map((s) => s.id));
        const unknown = q.needs.find((n) => !skills.has(n.skillId));
        if (unknown) throw new LaneError('not-valid', 'A needed skill does not exist.', [{ where: 'needs', what: `${unknown.skillId} is not known` }]);
        const after: QueueSettings = { id: q.id ?? tx.ids('queue'), name: q.name, channels: CHANNELS.filter((c) => q.channels.includes(c)), goal: q.goal, needs: q.needs, order: q.order, wrapUpSeconds: q.wrapUpSeconds ?? null };
        const version = recordChange(tx, actor, 'queue', after.id, before, after);
        writeQueue(tx.db, after, before?.place ?? all.length, version);
        return { id: after.id };
      });
    },
  };
}
