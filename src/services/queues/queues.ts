import { array, object } from 'yup';
import { LaneError } from '../../core/errors';
import { clockCounts } from '../../core/routing/clockcounts';
import type { QueueSettings } from '../../core/routing/queue';
import { readQueue } from '../../data/queuesettings';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { sameRevision } from '../ground/change';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { busiestHour } from '../review/busiesthour';
import { keep, undoableQueues, settingsOf } from './keepqueue';
import { queueSchema } from './queueschema';
import { type QueueCounts, type QueuesDeps, viewQueues } from './queuesview';
import { whoGets } from './whogets';

const countSchema = exactly(object({ queue: queueSchema, handOver: array().optional() }));
export type Queues = ReturnType<typeof createQueues>;

function counts({ host, floor }: QueuesDeps, queue: QueueSettings): QueueCounts {
  const now = host.times.floor();
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

/** How many could take a queue's contacts as its clock goes on, under settings not yet kept: counted, not guessed. */
export function previewQueue(deps: QueuesDeps, actor: Actor, input: unknown): QueueCounts {
  mustHold(actor, 'settings.view');
  return counts(deps, settingsOf(parse(countSchema, input).queue as { id: string | null; settings: unknown }));
}

/** Adds (`id` null) or changes a queue; counts from the next visit on. */
export function saveQueue(deps: QueuesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
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
  undoable: undoableQueues(deps),
  ...bind(deps, { view: viewQueues, preview: previewQueue, whoGets, save: saveQueue }),
});
