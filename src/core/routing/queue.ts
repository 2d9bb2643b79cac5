import type { CallbackWording } from '../callbacks/sentences';
import type { Channel } from '../channels';
import type { Localised } from '../localised';
import type { Stage } from './clock';
import type { Need } from './needs';
import type { Onward } from './onward';

/** Rules by which a contact prefers one able person to another. */
export const PICKING_RULES = [
  'longest-idle',
  'lightest-load',
  'fewest-open',
  'fewest-today',
  'highest-level',
  'closest-level',
  'share-by-weight',
  'in-turn',
] as const;

export type PickingRule = (typeof PICKING_RULES)[number];

/** The ready-made picking orders and the rules they stand for. */
export const READY_ORDERS = {
  'fair-turns': ['longest-idle'],
  'best-match': ['highest-level', 'lightest-load'],
  'even-load': ['lightest-load', 'fewest-today'],
} as const satisfies Record<string, readonly PickingRule[]>;

/** Share of contacts to be accepted within so many seconds. */
export type Goal = { readonly percent: number; readonly seconds: number };

/**
 * What is looked at when a visit begins; `waiting` counts the queue's contacts on this channel, `expected` is in
 * seconds.
 */
export type EntryCondition =
  | { readonly when: 'closed' }
  | { readonly when: 'nobody' }
  | { readonly when: 'waiting'; readonly atLeast: number }
  | { readonly when: 'expected'; readonly atLeast: number };

export type EntryRule = { readonly if: EntryCondition; readonly then: Onward };

/**
 * After the contact: how long it lasts (null for as long as the person likes), whether the person may end it before that, and
 * whether an outcome has to be filed before it ends.
 */
export type WrapUp = {
  readonly seconds: number | null;
  readonly mayFinishEarly: boolean;
  readonly needsOutcome: boolean;
};
export const USUAL_WRAP_UP: WrapUp = { seconds: null, mayFinishEarly: true, needsOutcome: false };

/** One person at a time or several at once, the first to accept having it; or taken by hand from a list. */
export type Offering =
  { readonly way: 'one' } | { readonly way: 'ring-all'; readonly most: number } | { readonly way: 'claim' };

/**
 * Whoever last dealt with the customer comes first, and the contact is held for them so long while they are only
 * full.
 */
export type Familiar = { readonly days: number; readonly holdSeconds: number };

/**
 * How a queue calls back: where the contact waits for its turn, how often and how far apart it is tried, and until
 * when.
 */
export type CallbackSettings = {
  /** Null keeps the place in this queue. */
  readonly queueId: string | null;
  readonly attempts: number;
  readonly spacingMinutes: number;
  readonly expiryHours: number;
  readonly wording: CallbackWording;
};

/** What a queue is set to; a visit keeps the settings it began with. */
export type QueueSettings = {
  readonly id: string;
  readonly name: string;
  readonly channels: readonly Channel[];
  readonly goals: Readonly<Partial<Record<Channel, Goal>>>;
  /** Null is open whenever a door is. */
  readonly hoursId: string | null;
  readonly needs: readonly Need[];
  readonly order: readonly PickingRule[];
  readonly familiar: Familiar | null;
  readonly offering: Offering;
  /** Whether somebody who misses an offer is set away. */
  readonly missedSetsAway: boolean;
  readonly entryRules: readonly EntryRule[];
  readonly clocks: Readonly<Partial<Record<Channel, readonly Stage[]>>>;
  readonly wrapUp: WrapUp;
  readonly connect: { readonly toAgent: Localised; readonly toCustomer: Localised };
  /** The outcome codes agents see; null for all. */
  readonly outcomes: readonly string[] | null;
  /** The fields the Desk shows and their order; null for all in the workspace's order. */
  readonly fields: readonly string[] | null;
  readonly callback: CallbackSettings;
  /** How soon messages that were left are to be taken up; absent is the usual. */
  readonly messageGoal?: Goal;
};

export const USUAL_GOAL: Goal = { percent: 80, seconds: 30 };

export const goalOf = (queue: Pick<QueueSettings, 'goals'>, channel: Channel): Goal =>
  queue.goals[channel] ?? USUAL_GOAL;

/** Where nothing else is said, messages are taken up within four hours. */
export const USUAL_MESSAGE_GOAL: Goal = { percent: 80, seconds: 4 * 3600 };

/** The goal of a visit: of its channel, or of messages; by which it is late. */
export const goalOfVisit = (
  queue: Pick<QueueSettings, 'goals' | 'messageGoal'>,
  { kind, channel }: { readonly kind: 'live' | 'callback' | 'message'; readonly channel: Channel },
): Goal => (kind === 'message' ? (queue.messageGoal ?? USUAL_MESSAGE_GOAL) : goalOf(queue, channel));

export const USUAL_CALLBACK: CallbackSettings = {
  queueId: null,
  attempts: 3,
  spacingMinutes: 15,
  expiryHours: 24,
  wording: { confirm: {}, typeNumber: {}, readBack: {}, when: {}, promised: {} },
};

/** What a queue is set to where nothing else is said. */
export const QUEUE_DEFAULTS: Omit<QueueSettings, 'id' | 'name' | 'channels'> = {
  goals: {},
  hoursId: null,
  needs: [],
  order: READY_ORDERS['fair-turns'],
  familiar: null,
  offering: { way: 'one' },
  missedSetsAway: true,
  entryRules: [],
  clocks: {},
  wrapUp: USUAL_WRAP_UP,
  connect: { toAgent: {}, toCustomer: {} },
  outcomes: null,
  fields: null,
  callback: USUAL_CALLBACK,
};

/** A queue whose settings say only what is otherwise than usual. */
export const queueFrom = (
  stored: Partial<QueueSettings> & Pick<QueueSettings, 'id' | 'name' | 'channels'>,
): QueueSettings => ({
  ...QUEUE_DEFAULTS,
  ...stored,
});
