import { QUEUE_DEFAULTS, type QueueSettings } from '../../src/core/routing/queue';
import type { Arrivals, Duration, Pool, Scenario } from '../../src/core/rehearsal/scenario';

export const exponential = (mean: number): Duration => ({ kind: 'exponential', mean });
export const AT_ONCE: Duration = { kind: 'fixed', seconds: 0 };
export const queueOf = (id: string, change: Partial<QueueSettings> = {}): QueueSettings => ({
  ...QUEUE_DEFAULTS,
  id,
  name: id,
  channels: ['voice', 'chat'],
  goals: { voice: { percent: 80, seconds: 20 }, chat: { percent: 80, seconds: 20 } },
  ...change,
});
export const poolOf = (
  id: string,
  size: number,
  queues: readonly string[] = ['q'],
  change: Partial<Pool> = {},
): Pool => ({
  id,
  size,
  skills: {},
  duty: queues.map((queue) => ({ queue, channel: 'voice', band: 1, delaySeconds: 0 })),
  load: {},
  shifts: [],
  answer: AT_ONCE,
  ...change,
});
export const arrivalsOf = (perHour: number, handle: Duration, change: Partial<Arrivals> = {}): Arrivals => ({
  queue: 'q',
  channel: 'voice',
  rates: [{ fromSeconds: 0, toSeconds: 1e12, perHour }],
  listed: [],
  needs: [],
  priority: 0,
  handle,
  patience: null,
  ...change,
});
export const scenarioOf = (change: Partial<Scenario>): Scenario => ({
  name: 'test',
  seed: 20261123,
  runs: 20,
  lengthSeconds: 100_000,
  warmUpSeconds: 5_000,
  zone: 'UTC',
  startsAt: Date.UTC(2026, 0, 5),
  queues: [queueOf('q')],
  pools: [poolOf('p', 10)],
  arrivals: [],
  groups: [],
  partners: [],
  ...change,
});
