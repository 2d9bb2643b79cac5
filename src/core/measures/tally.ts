import { type Mood, MOODS } from '../mood/mood';
import type { OfferEnd } from './factparts';
import { JOURNEY_TOOK, type JourneyTook } from './journeys';
import { Lengths } from './lengths';
import { CONTACT_ENDS, type ContactEnd, VISIT_ENDS, type VisitEnd } from './facts';

/**
 * Counts and sums over rows, from which every figure is made. All are exact, but quantiles of many, and two can be added. Sums are ms.
 * `visits`: `rated` are those that count for the service level; `waits` are of those accepted. A visit that rang a
 * customer back is in `rung` alone.
 */
export type Tally = {
  readonly contacts: {
    started: number;
    readonly ended: Record<ContactEnd, number>;
    /** Ended, a week ago at least; and of them those whose customer began another within it. */
    readonly settled: { all: number; again: number };
    /** How many rated a contact, with the sum of what they gave. */
    readonly rated: { count: number; sum: number };
    /** From the first word to the end, of those that ended. */
    readonly whole: Spread;
    /** How many seemed to feel in each way, of those of which it is known. */
    readonly moods: Record<Mood, number>;
    /** Journeys that began and are over, from the first word of the first contact to the last end. */
    readonly journeys: Spread;
    /** How many of them took more than one contact, channel, or person. */
    readonly took: Record<JourneyTook, number>;
  };
  readonly visits: {
    offered: number;
    readonly ended: Record<VisitEnd, number>;
    short: number;
    rated: number;
    inGoal: number;
    /** What the rated ones were meant to reach, percent each; where goals are given. */
    wanted: number;
    readonly waits: Spread;
    /** The same waits, for quantiles. */
    readonly lengths: Lengths;
    readonly rung: { all: number; reached: number };
    /** Messages that were left, and those taken up within their goal. */
    readonly messages: { all: number; met: number };
    /** Those accepted whose customer was told how long it would be: that, the wait that followed, and how far apart. */
    readonly told: { count: number; said: number; followed: number; apart: number };
  };
  readonly offers: { made: number; readonly ended: Record<OfferEnd, number> };
  readonly legs: {
    passedOn: number;
    /** Those whose handle time is the time that they were in front of the person. */
    fronted: number;
    /** Those that the person was asked about while the goal could still be met, and of them those that met it. */
    possible: number;
    met: number;
    /** What the possible ones were meant to reach, percent each; where goals are given. */
    wanted: number;
    readonly handles: Spread;
    readonly replies: Spread;
  };
  /** How many contacts came to lines of a bot, left there, and were not understood there at least once. */
  readonly lines: { came: number; left: number; missed: number };
  /**
   * Messages of customers, of ours, and of these those that a person wrote; each with the hours of contacts in which
   * there were some.
   */
  readonly messages: { readonly in: Spread; readonly out: Spread; readonly byPerson: Spread };
};

/** How many there are, and their sum. */
export type Spread = { count: number; sum: number };

const spread = (): Spread => ({ count: 0, sum: 0 });
const noughts = <K extends string>(keys: readonly K[]) =>
  Object.fromEntries(keys.map((key) => [key, 0])) as Record<K, number>;
const OFFER_ENDS: readonly OfferEnd[] = ['accepted', 'declined', 'missed', 'withdrawn', 'taken'];

/** Nothing yet. */
export const emptyTally = (): Tally => ({
  contacts: {
    started: 0,
    ended: noughts(CONTACT_ENDS),
    settled: { all: 0, again: 0 },
    rated: { count: 0, sum: 0 },
    whole: spread(),
    moods: noughts(MOODS),
    journeys: spread(),
    took: noughts(JOURNEY_TOOK),
  },
  visits: {
    offered: 0,
    ended: noughts(VISIT_ENDS),
    short: 0,
    rated: 0,
    inGoal: 0,
    wanted: 0,
    waits: spread(),
    lengths: new Lengths(),
    rung: { all: 0, reached: 0 },
    messages: { all: 0, met: 0 },
    told: { count: 0, said: 0, followed: 0, apart: 0 },
  },
  offers: { made: 0, ended: noughts(OFFER_ENDS) },
  legs: {
    passedOn: 0,
    fronted: 0,
    possible: 0,
    met: 0,
    wanted: 0,
    handles: spread(),
    replies: spread(),
  },
  lines: { came: 0, left: 0, missed: 0 },
  messages: { in: spread(), out: spread(), byPerson: spread() },
});

const addSpread = (to: Spread, more: Spread): void => {
  to.count += more.count;
  to.sum += more.sum;
};
const addCounts = <K extends string>(to: Record<K, number>, more: Readonly<Record<K, number>>): void => {
  for (const key of Object.keys(more) as K[]) to[key] += more[key];
};

/** Adds a tally to another, which is changed. */
export function addTally(to: Tally, more: Tally): void {
  to.contacts.started += more.contacts.started;
  addCounts(to.contacts.ended, more.contacts.ended);
  addCounts(to.contacts.settled, more.contacts.settled);
  addCounts(to.contacts.rated, more.contacts.rated);
  addSpread(to.contacts.whole, more.contacts.whole);
  addCounts(to.contacts.moods, more.contacts.moods);
  addSpread(to.contacts.journeys, more.contacts.journeys);
  addCounts(to.contacts.took, more.contacts.took);
  to.visits.offered += more.visits.offered;
  addCounts(to.visits.ended, more.visits.ended);
  to.visits.short += more.visits.short;
  to.visits.rated += more.visits.rated;
  to.visits.inGoal += more.visits.inGoal;
  to.visits.wanted += more.visits.wanted;
  addSpread(to.visits.waits, more.visits.waits);
  to.visits.lengths.merge(more.visits.lengths);
  addCounts(to.visits.rung, more.visits.rung);
  addCounts(to.visits.messages, more.visits.messages);
  addCounts(to.visits.told, more.visits.told);
  to.offers.made += more.offers.made;
  addCounts(to.offers.ended, more.offers.ended);
  to.legs.passedOn += more.legs.passedOn;
  to.legs.fronted += more.legs.fronted;
  to.legs.possible += more.legs.possible;
  to.legs.met += more.legs.met;
  to.legs.wanted += more.legs.wanted;
  addSpread(to.legs.handles, more.legs.handles);
  addSpread(to.legs.replies, more.legs.replies);
  addCounts(to.lines, more.lines);
  addSpread(to.messages.in, more.messages.in);
  addSpread(to.messages.out, more.messages.out);
  addSpread(to.messages.byPerson, more.messages.byPerson);
}

/** The mean of a spread in seconds; null without any. */
export const meanSeconds = ({ count, sum }: Spread): number | null => (count === 0 ? null : sum / count / 1000);

/** A part of a whole; null without a whole. */
export const shareOf = (part: number, whole: number): number | null => (whole === 0 ? null : part / whole);
