import type { Channel } from '../channels';
import type { Need } from './needs';

/** Rules by which a contact prefers one able person to another. */
export const PICKING_RULES = ['longest-idle', 'lightest-load', 'highest-level'] as const;
export type PickingRule = (typeof PICKING_RULES)[number];

/** Share of contacts to be accepted within so many seconds. */
export type Goal = { readonly percent: number; readonly seconds: number };

/** What a queue is set to; a visit keeps the settings it began with. */
export type QueueSettings = {
  readonly id: string;
  readonly name: string;
  readonly channels: readonly Channel[];
  readonly goal: Goal;
  readonly needs: readonly Need[];
  readonly order: readonly PickingRule[];
  /** Real seconds of wrap-up after which a contact closes itself; null leaves it to the person. */
  readonly wrapUpSeconds: number | null;
};
