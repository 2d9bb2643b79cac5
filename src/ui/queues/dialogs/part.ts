'use client';

import type { QueueSettings } from '@/core/routing/queue';
import type { QueuesView } from '@/services/queues/queuesview';
import type { SetQueue } from '../draft';

export type Part = {
  settings: Omit<QueueSettings, 'id'>;
  view: QueuesView;
  own: string | null;
  disabled: boolean;
  /** What is wrong with its name, as it is typed. */
  nameFault?: string | undefined;
  onChange: SetQueue;
};

export const number = (value: number, least: number): number => (Number.isNaN(value) ? least : value);
