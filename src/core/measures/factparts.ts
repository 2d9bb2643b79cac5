import type { ContactEnd, VisitEnd } from './facts';

/**
 * What measures are made of, in five parts, each counted by one instant of its rows: contacts and the lines of a bot that
 * they came to by when they started, visits and their offers by when the visit was entered, legs by when they ended.
 */
export const PARTS = ['contacts', 'visits', 'offers', 'legs', 'lines'] as const;
export type Part = (typeof PARTS)[number];

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

/** How a row ended, as each part says it; null while it goes on. A visit that rang a customer back is of its own kind. */
export type PartEnds = {
  readonly contacts: ContactEnd;
  readonly visits: VisitEnd | 'rung-reached' | 'rung-not';
  readonly offers: OfferEnd;
  readonly legs: 'kept' | 'passed-on';
  /** Whether the customer left the bot there, or went quiet. */ readonly lines: 'passed' | 'left';
};

/**
 * Lengths that rows of a part have, each in ms (but of lines, and where it is said, where they are counts) or null where there is none.
 * contacts: `lasted` from start to end; `again` from its end to when the same customer began another within 7 days, 0
 * where they did not, null while it cannot be known; how many messages came `in` and went `out`, and the customer's
 * `rating`, 1 to 5: numbers, not ms.
 * visits: `waited` since the customer began to wait, `stayed` since this visit was entered, both until it ended; `goal`.
 * offers: `lasted` until it ended.
 * legs: `handled`, of that `wrapped`; `waited` and `goal` of its visit; `asked` when the person was first offered it,
 * since the customer began to wait, null where nobody was asked; `replied` from acceptance to the first reply; `held`
 * from acceptance to the end, wrap-up included.
 * legs, too: `fronted` is `handled` where that is the time it was in front of the person, null where it is made otherwise.
 * lines: how often something was `heard` there, and how often that was `missed`: not understood.
 */
export const PART_LENGTHS = {
  contacts: ['lasted', 'again', 'in', 'out', 'rating'],
  visits: ['waited', 'stayed', 'goal'],
  offers: ['lasted'],
  legs: ['handled', 'wrapped', 'waited', 'goal', 'asked', 'replied', 'held', 'fronted'],
  lines: ['heard', 'missed'],
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
