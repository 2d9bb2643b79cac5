import type { Channel } from '../channels';
import { addedBy, loweredBy, type Stage } from './clock';
import { type MergedNeed, mergeNeeds, type Need, needsAfter } from './needs';
import type { QueueSettings } from './queue';

/**
 * Within how many seconds of waiting somebody must join to be counted; null: at any stage of the wait clock.
 */
export type Horizon = number | null;

/** How long a visit has waited by then (ms), and how many stages of its clock have come: it is elsewhere once one moves it on. */
export function reachedBy(
  stages: readonly Stage[],
  within: Horizon,
): { readonly elapsedMs: number; readonly count: number } {
  const moves = stages.findIndex((stage) => stage.acts.some((act) => act.does === 'move'));
  const here = moves < 0 ? stages : stages.slice(0, moves);
  const leaves = moves < 0 ? Infinity : (stages[moves]?.atSeconds ?? 0) * 1000 - 1;
  const elapsedMs = Math.min(within === null ? Infinity : within * 1000, leaves);
  return { elapsedMs, count: here.filter((stage) => stage.atSeconds * 1000 <= elapsedMs).length };
}

/** Whom a queue asks on a channel at the last stage of its clock, and what it then still needs. */
export type Widest = {
  readonly needs: readonly MergedNeed[];
  readonly groups: readonly string[];
  readonly elapsedMs: number;
};
export function widest(
  { needs, clocks }: Pick<QueueSettings, 'needs' | 'clocks'>,
  channel: Channel,
  handOver: readonly Need[] = [],
): Widest {
  const stages = clocks[channel] ?? [];
  const { elapsedMs, count } = reachedBy(stages, null);
  return {
    needs: needsAfter(mergeNeeds(needs, handOver).needs, loweredBy(stages, count)),
    groups: addedBy(stages, count, 'add-group'),
    elapsedMs,
  };
}
