import { QUEUE_DEFAULTS, type QueueSettings } from '@/core/routing/queue';
import type { QueueNames } from '@/core/routing/queuesentence';
import type { Shape } from '../drafts/usegathered';
import type { QueueLine, QueuesView } from '@/services/queues/queuesview';

/** A queue as its page gathers changes to it: what is kept, and what it is to be. */
export type QueueDraft = {
  readonly id: string | null;
  readonly revision: number;
  readonly settings: Omit<QueueSettings, 'id'>;
};
export type SetQueue = (change: Partial<QueueDraft['settings']>) => void;

export function draftOf({ id, revision, place: _place, waiting: _waiting, ...settings }: QueueLine): QueueDraft {
  return { id, revision, settings };
}
export const QUEUE_SHAPE: Shape<QueueDraft> = {
  valueOf: ({ settings }) => settings,
  draftOf: (id, revision, value) => ({ id, revision, settings: value as QueueDraft['settings'] }),
  labelOf: ({ settings }) => settings.name,
};

export const NEW_QUEUE: QueueDraft = {
  id: null,
  revision: 0,
  settings: {
    ...QUEUE_DEFAULTS,
    name: '',
    channels: ['voice', 'chat'],
    goals: { voice: { percent: 80, seconds: 30 }, chat: { percent: 80, seconds: 45 } },
  },
};
export const asSettings = (draft: QueueDraft): QueueSettings => ({ ...draft.settings, id: draft.id ?? '' });

export function namesIn(view: QueuesView): QueueNames {
  const name = (list: readonly { readonly id: string; readonly name: string }[]) => (id: string) =>
    list.find((x) => x.id === id)?.name ?? 'something that is gone';
  return { skill: name(view.skills), queue: name(view.queues), group: name(view.groups), partner: name(view.partners) };
}
