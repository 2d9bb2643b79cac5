import type { ContactEnd, VisitEnd } from './facts';

/**
 * What measures are made of, in six parts, each counted by one instant of its rows: contacts and the lines of a bot that
 * they came to by when they started, visits and their offers by when the visit was entered, legs by when they ended, what
 * was written in a contact, hour by hour, by when it was written.
 */
export const PARTS = ['contacts', 'visits', 'offers', 'legs', 'lines', 'messages'] as const;
export type Part = (typeof PARTS)[number];

/** Something of each part. */
export const ofEachPart = <T>(of: (part: Part) => T): Readonly<Record<Part, T>> => ({
  contacts: of('contacts'),
  visits: of('visits'),
  offers: of('offers'),
  legs: of('legs'),
  lines: of('lines'),
  messages: of('messages'),
});

/** By what rows can be told apart, in every part. A contact has the queues, people, … of all its visits and legs. */
export const FACT_KEYS = [
  'channel',
  'door',
  'bot',
  'version',
  'line',
  'intent',
  'language',
  'queue',
  'stage',
  'person',
  'team',
  'outcome',
  'skill',
  'open',
] as const;
export type FactKey = (typeof FACT_KEYS)[number];

/** Whether a contact began within the opening hours of its door; what began before that was kept is `unknown`. */
export type OpenKey = 'open' | 'shut' | 'unknown';

export type OfferEnd = 'accepted' | 'declined' | 'missed' | 'withdrawn' | 'taken';

/** How a row ended, as each part says it; null while it goes on. Visits that rang a customer back, and of messages, are of their own kinds. */
export type PartEnds = {
  readonly contacts: ContactEnd;
  readonly visits: VisitEnd | 'rung-reached' | 'rung-not' | 'message-met' | 'message-late' | 'message-not';
  readonly offers: OfferEnd;
  readonly legs: 'kept' | 'passed-on';
  /** Whether the customer left the bot there, or went quiet. */ readonly lines: 'passed' | 'left';
  /** They do not end. */ readonly messages: never;
};

/**
 * Lengths that rows of a part have, each in ms (but of lines, and where it is said, where they are counts) or null where there is none.
 * contacts: `lasted` from start to end; `again` from its end to when the same customer began another within 7 days, 0
 * where they did not, null while it cannot be known; and the customer's `rating`, 1 to 5, and their `mood`, by its place
 * among the moods: numbers, not ms. Of the first contact of a journey, once all of it is over and known: `journey` from its
 * start to the last end, and what that `took`, as bits (`journeys.ts`).
 * visits: `waited` since the customer began to wait, `stayed` since this visit was entered, both until it ended; `goal`;
 * of those accepted whose customer was told how long it would be: `told`, what they were told first, and `followed`, from
 * then until a person accepted.
 * offers: `lasted` until it ended.
 * legs: `handled`, of that `wrapped`; `waited` and `goal` of its visit; `asked` when the person was first offered it,
 * since the customer began to wait, null where nobody was asked; `replied` from acceptance to the first reply; `held`
 * from acceptance to the end, wrap-up included.
 * legs, too: `fronted` is `handled` where that is the time it was in front of the person, null where it is made otherwise.
 * lines: how often something was `heard` there, and how often that was `missed`: not understood.
 * messages: how many came `in`, how many went `out`, and how many of these were written `byPerson`.
 */
export const PART_LENGTHS = {
  contacts: ['lasted', 'again', 'rating', 'mood', 'journey', 'took'],
  visits: ['waited', 'stayed', 'goal', 'told', 'followed'],
  offers: ['lasted'],
  legs: ['handled', 'wrapped', 'waited', 'goal', 'asked', 'replied', 'held', 'fronted'],
  lines: ['heard', 'missed'],
  messages: ['in', 'out', 'byPerson'],
} as const;
export type LengthOf<P extends Part> = (typeof PART_LENGTHS)[P][number];
export type Length = LengthOf<Part>;

/** One row: the number of its contact, the instant by which it is counted (floor ms), its keys, how it ended, its lengths. */
export type FactRow<P extends Part = Part> = {
  readonly no: number;
  readonly at: number;
  readonly keys: { readonly [K in FactKey]: readonly string[] };
  readonly how: PartEnds[P] | null;
  readonly lengths: { readonly [L in LengthOf<P>]: number | null };
};
export type DayRows = { readonly [P in Part]: readonly FactRow<P>[] };

/**
 * A day as it is counted by one key: what is asked of a long range is added up from these, without going through its
 * rows. Every day that is kept has them by all of these keys.
 */
export const ROLLED_BY = [
  'all',
  'hour',
  'channel',
  'door',
  'bot',
  'line',
  'intent',
  'language',
  'queue',
  'stage',
  'person',
  'team',
  'outcome',
  'skill',
] as const satisfies readonly (FactKey | 'hour' | 'all')[];
export type RolledBy = (typeof ROLLED_BY)[number];

/**
 * What a roll-up holds, piece by piece, since each question needs only some of it. `numbers`: of each part the groups and
 * the same few numbers for each, in their order. `waits`: of the groups of visits, group, step and how many (`lengths.ts`),
 * one after the other. `judged`: what is held against a goal, by the queue and channel whose goal it is: group, place of
 * these in `judges`, and how many, one after the other.
 */
export type RollUp = {
  readonly numbers: {
    readonly [P in Part]: { readonly groups: readonly string[]; readonly numbers: readonly number[] };
  };
  readonly waits: readonly number[];
  readonly judged: {
    readonly judges: readonly (readonly [queueId: string, channel: string])[];
    readonly visits: readonly number[];
    readonly legs: readonly number[];
  };
};
export const ROLLED_PIECES = ['numbers', 'waits', 'judged'] as const satisfies readonly (keyof RollUp)[];
export type RolledPiece = (typeof ROLLED_PIECES)[number];
