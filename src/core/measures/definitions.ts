import { SUMMABLE, type Summable } from './countingrows';
import { MOODS } from '../mood/mood';
import { type Part, PARTS } from './factparts';
import type { JourneyTook } from './journeys';
import type { Lengths } from './lengths';
import {
  accepted,
  all,
  type Behind,
  byEnd,
  cameBack,
  gaveUp,
  handled,
  inGoal,
  inMood,
  journeyTook,
  legsWith,
  notUnderstood,
  possible,
  replied,
  thoseWith,
  waitedFor,
  wasTold,
  withSome,
} from './sides';
import { meanSeconds, shareOf, type Tally } from './tally';

/** `stars` is a mean of ratings from 1 to 5. */
export type Unit = 'count' | 'share' | 'seconds' | 'stars';

/** One figure: what it is called, how it is made in words, and the code that makes it, with the rows behind it. */
export type Measure = {
  readonly id: string;
  readonly name: string;
  readonly unit: Unit;
  readonly formula: string;
  /** By which instant a contact belongs to the range. */
  readonly countsBy: 'entry' | 'end' | 'start' | 'writing';
  readonly value: (tally: Tally) => number | null;
  /** Of how many the figure speaks. */
  readonly count: (tally: Tally) => number;
  /** How it came about, where that is not the same for all of it. */
  readonly note?: (tally: Tally) => string | null;
  /** Whether more is better, for colouring a change; null where neither is. */
  readonly moreIsBetter: boolean | null;
  readonly behind: Behind;
  /** The length that it is made of, where it is one that can be left out. */
  readonly sums?: Summable;
  /** Never told of one person, whatever is asked. */
  readonly neverOfPeople?: true;
};

const started = (t: Tally) => t.contacts.started;
const legs = (t: Tally) => t.legs.handles.count;
const visits = { countsBy: 'entry' } as const;
const written = { countsBy: 'writing', moreIsBetter: null } as const;
const journeys = { countsBy: 'start', sums: 'journey' } as const;
/** Journeys that took more than one of something, of all. */
const journeyShare = (took: JourneyTook) =>
  ({
    ...journeys,
    unit: 'share',
    moreIsBetter: false,
    value: (t: Tally) => shareOf(t.contacts.took[took], t.contacts.journeys.count),
    count: (t: Tally) => t.contacts.journeys.count,
    behind: { part: 'contacts', side: journeyTook(took) },
  }) as const;
const moodKnown = (t: Tally): number => MOODS.reduce((n, mood) => n + t.contacts.moods[mood], 0);
const told = {
  ...visits,
  unit: 'seconds',
  sums: 'told',
  behind: { part: 'visits', side: wasTold, by: 'waited' },
} as const;

/** The figures of Review, in reading order. */
export const MEASURES: readonly Measure[] = [
  {
    id: 'started',
    name: 'Contacts',
    unit: 'count',
    countsBy: 'start',
    moreIsBetter: null,
    formula: 'Contacts that started. One that goes through several queues is one.',
    value: started,
    count: started,
    behind: { part: 'contacts', side: all },
  },
  {
    id: 'offered',
    name: 'Offered',
    unit: 'count',
    ...visits,
    moreIsBetter: null,
    formula:
      'Visits: entries of a contact into a queue. A contact passed to another queue counts again there. Customers who are rung back are not in it.',
    value: (t) => t.visits.offered,
    count: (t) => t.visits.offered,
    behind: { part: 'visits', side: waitedFor },
  },
  {
    id: 'handled',
    name: 'Handled',
    unit: 'count',
    countsBy: 'end',
    moreIsBetter: true,
    formula: 'Legs: turns of a person with a contact that ended in the range, wrap-up included.',
    value: legs,
    count: legs,
    behind: { part: 'legs', side: handled },
  },
  {
    id: 'service-level',
    name: 'Answered in goal',
    unit: 'share',
    ...visits,
    moreIsBetter: true,
    formula:
      'Accepted within the goal ÷ (accepted + gave up − short give-ups). The goal is the one in force when the visit began. Customers who are rung back are not in it.',
    value: (t) => shareOf(t.visits.inGoal, t.visits.rated),
    count: (t) => t.visits.rated,
    behind: { part: 'visits', side: inGoal, by: 'waited' },
  },
  {
    id: 'answered',
    name: 'Answered',
    unit: 'count',
    ...visits,
    moreIsBetter: null,
    formula: 'Entries into a queue that a person accepted. Customers who are rung back are not in it.',
    value: (t) => t.visits.waits.count,
    count: (t) => t.visits.waits.count,
    behind: { part: 'visits', side: accepted, by: 'waited' },
  },
  {
    id: 'speed',
    name: 'Mean wait',
    unit: 'seconds',
    ...visits,
    moreIsBetter: false,
    formula:
      'Speed of answer: from when the customer began to wait to when a person accepted; mean over accepted visits. Customers who are rung back are not in it.',
    value: (t) => meanSeconds(t.visits.waits),
    count: (t) => t.visits.waits.count,
    behind: { part: 'visits', side: accepted, by: 'waited' },
  },
  {
    id: 'speed-90',
    name: '90% wait less',
    unit: 'seconds',
    ...visits,
    moreIsBetter: false,
    formula:
      'Speed of answer, 90th percentile: nine of ten accepted visits were answered within this time. Told within 1%.',
    sums: 'waited',
    value: (t) => quantileSeconds(t.visits.lengths, 0.9),
    count: (t) => t.visits.waits.count,
    behind: { part: 'visits', side: accepted, by: 'waited' },
  },
  {
    id: 'handle-time',
    name: 'Handle time',
    unit: 'seconds',
    countsBy: 'end',
    moreIsBetter: null,
    formula:
      'Voice: talk and wrap-up. Text: the time that the conversation was in front of the person, where their Desk said so; else each gap between messages counts up to 5 minutes, plus wrap-up. Mean over legs that ended.',
    value: (t) => meanSeconds(t.legs.handles),
    count: legs,
    note: (t) => frontNote(t.legs.fronted, legs(t)),
    behind: { part: 'legs', side: handled, by: 'handled' },
  },
  {
    id: 'own-reply',
    name: 'First reply',
    unit: 'seconds',
    countsBy: 'end',
    moreIsBetter: false,
    formula:
      'Text: from when a person accepted to their first message, the person’s own time; mean over legs that ended. What the customer waited before that is the wait.',
    value: (t) => meanSeconds(t.legs.replies),
    count: (t) => t.legs.replies.count,
    behind: { part: 'legs', side: replied, by: 'replied' },
  },
  {
    id: 'gave-up',
    name: 'Gave up waiting',
    unit: 'share',
    ...visits,
    moreIsBetter: false,
    formula: 'Gave up after more than 5 s ÷ (accepted + gave up − short give-ups).',
    value: (t) => shareOf(t.visits.rated - t.visits.ended.accepted, t.visits.rated),
    count: (t) => t.visits.rated,
    behind: { part: 'visits', side: gaveUp, by: 'waited' },
  },
  {
    id: 'missed',
    name: 'Offers not taken',
    unit: 'share',
    ...visits,
    moreIsBetter: false,
    formula:
      'Offers that a person missed or declined ÷ offers accepted, missed or declined. Offers withdrawn or taken by somebody else are in neither.',
    value: (t) => shareOf(notTaken(t), notTaken(t) + t.offers.ended.accepted),
    count: (t) => notTaken(t) + t.offers.ended.accepted,
    behind: { part: 'offers', side: byEnd({ accepted: 'without', missed: 'with', declined: 'with' }) },
  },
  {
    id: 'bot',
    name: 'Finished by a bot',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: true,
    formula:
      'Contacts that a bot brought to its end without a person ÷ contacts started. Those who left while it was talking are not counted in.',
    value: (t) => shareOf(t.contacts.ended.bot, started(t)),
    count: started,
    behind: { part: 'contacts', side: byEnd({ bot: 'with' }, 'without') },
  },
  {
    id: 'left-bot',
    name: 'Left in the bot',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula: 'Contacts whose customer left while a bot was talking to them ÷ contacts started.',
    value: (t) => shareOf(t.contacts.ended['left-bot'], started(t)),
    count: started,
    behind: { part: 'contacts', side: byEnd({ 'left-bot': 'with' }, 'without') },
  },
  {
    id: 'came-back',
    name: 'Came back',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula:
      'Ended contacts whose customer began another within 7 days of the end ÷ ended contacts. Of the last eight days it cannot be known yet; they are not in it.',
    value: (t) => shareOf(t.contacts.settled.again, t.contacts.settled.all),
    count: (t) => t.contacts.settled.all,
    sums: 'again',
    behind: {
      part: 'contacts',
      side: cameBack,
    },
  },
  {
    id: 'rating',
    name: 'Rating',
    unit: 'stars',
    countsBy: 'start',
    moreIsBetter: true,
    formula:
      'What customers gave from 1 to 5 when the after-contact scene of their bot asked them; mean over contacts that were rated.',
    value: (t) => (t.contacts.rated.count === 0 ? null : t.contacts.rated.sum / t.contacts.rated.count),
    count: (t) => t.contacts.rated.count,
    sums: 'rating',
    behind: {
      part: 'contacts',
      side: thoseWith('rating'),
    },
  },
  {
    id: 'messages-in',
    name: 'Messages in',
    unit: 'count',
    ...written,
    formula: 'What customers wrote, or said to a bot, by when they did.',
    value: (t) => t.messages.in.sum,
    count: (t) => t.messages.in.count,
    behind: { part: 'messages', side: withSome('in'), by: 'in' },
  },
  {
    id: 'messages-out',
    name: 'Messages out',
    unit: 'count',
    ...written,
    formula: 'What bots and people wrote to customers, by when they did.',
    value: (t) => t.messages.out.sum,
    count: (t) => t.messages.out.count,
    behind: { part: 'messages', side: withSome('out'), by: 'out' },
  },
  {
    id: 'messages-person',
    name: 'Written by people',
    unit: 'count',
    ...written,
    formula: 'What people wrote to customers, by when they did. The rest of the messages out is what bots wrote.',
    value: (t) => t.messages.byPerson.sum,
    count: (t) => t.messages.byPerson.count,
    behind: { part: 'messages', side: withSome('byPerson'), by: 'byPerson' },
  },
  {
    id: 'first-to-last',
    name: 'First word to end',
    unit: 'seconds',
    countsBy: 'start',
    moreIsBetter: null,
    formula:
      'From when a contact started to its end, with its bot, its waits and its hand-overs; mean over contacts that ended.',
    value: (t) => meanSeconds(t.contacts.whole),
    count: (t) => t.contacts.whole.count,
    sums: 'lasted',
    behind: {
      part: 'contacts',
      side: thoseWith('lasted'),
      by: 'lasted',
    },
  },
  {
    id: 'journey',
    name: 'Whole journey',
    unit: 'seconds',
    ...journeys,
    moreIsBetter: false,
    formula:
      'From the first word of a customer to the last end of what they began within seven days of it, on any channel; mean over journeys. Told by the first contact, once all of it is over: of the last eight days it cannot be known yet.',
    value: (t) => meanSeconds(t.contacts.journeys),
    count: (t) => t.contacts.journeys.count,
    behind: { part: 'contacts', side: thoseWith('journey'), by: 'journey' },
  },
  {
    id: 'journey-several',
    name: 'Took several contacts',
    ...journeyShare('several'),
    formula:
      'Journeys of more than one contact ÷ journeys. A journey is what a customer began within seven days, on any channel.',
  },
  {
    id: 'journey-channels',
    name: 'Took several channels',
    ...journeyShare('channels'),
    formula: 'Journeys on more than one channel ÷ journeys.',
  },
  {
    id: 'journey-people',
    name: 'Took several people',
    ...journeyShare('people'),
    formula: 'Journeys in which more than one person dealt with the customer ÷ journeys.',
  },
  {
    id: 'upset',
    name: 'Seemed upset',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula:
      'Contacts whose customer seemed upset ÷ contacts in which they said something, in a language of which it can be told. Judged automatically from how words feel on the whole, or as somebody corrected it; never told of a person.',
    value: (t) => shareOf(t.contacts.moods.upset, moodKnown(t)),
    count: moodKnown,
    sums: 'mood',
    behind: { part: 'contacts', side: inMood('upset') },
    neverOfPeople: true,
  },
  {
    id: 'rung-back',
    name: 'Reached when rung back',
    unit: 'share',
    ...visits,
    moreIsBetter: true,
    formula: 'Customers whom a person reached ÷ customers who were to be rung back, each entry into a queue for it.',
    value: (t) => shareOf(t.visits.rung.reached, t.visits.rung.all),
    count: (t) => t.visits.rung.all,
    behind: { part: 'visits', side: byEnd({ 'rung-reached': 'with', 'rung-not': 'without' }) },
  },
  {
    id: 'messages-met',
    name: 'Messages in goal',
    unit: 'share',
    ...visits,
    moreIsBetter: true,
    formula:
      'Messages that were left and that a person took up within the goal of messages ÷ messages that were left, each entry into a queue. They are in no other figure of visits.',
    value: (t) => shareOf(t.visits.messages.met, t.visits.messages.all),
    count: (t) => t.visits.messages.all,
    behind: {
      part: 'visits',
      side: byEnd({ 'message-met': 'with', 'message-late': 'without', 'message-not': 'without' }),
      by: 'waited',
    },
  },
  {
    id: 'wait-told',
    name: 'Wait told',
    ...told,
    moreIsBetter: null,
    formula:
      'What customers were told first of how long they would still wait, where the words of the wait clock say it; mean over those that a person then accepted.',
    value: (t) => meanSeconds({ count: t.visits.told.count, sum: t.visits.told.said }),
    count: (t) => t.visits.told.count,
  },
  {
    id: 'wait-after-told',
    name: 'Wait after it',
    ...told,
    moreIsBetter: false,
    formula: 'From when they were first told to when a person accepted; mean over the same visits.',
    value: (t) => meanSeconds({ count: t.visits.told.count, sum: t.visits.told.followed }),
    count: (t) => t.visits.told.count,
  },
  {
    id: 'told-wrong-by',
    name: 'Told wrong by',
    ...told,
    moreIsBetter: false,
    formula:
      'How far what customers were told is from the wait that followed, too much or too little; mean over the same visits.',
    value: (t) => meanSeconds({ count: t.visits.told.count, sum: t.visits.told.apart }),
    count: (t) => t.visits.told.count,
    note: (t) => toldNote(t.visits.told),
  },
  {
    id: 'met',
    name: 'In goal',
    unit: 'share',
    countsBy: 'end',
    moreIsBetter: true,
    formula:
      'Of what the person could have met: contacts they were first asked about within the goal, and of these the ones they accepted within it. What was taken by hand, and who is rung back, are in neither.',
    value: (t) => shareOf(t.legs.met, t.legs.possible),
    count: (t) => t.legs.possible,
    behind: { part: 'legs', side: possible, by: 'waited' },
  },
  {
    id: 'passed-on',
    name: 'Passed on',
    unit: 'share',
    countsBy: 'end',
    moreIsBetter: null,
    formula: 'Legs at whose end the person passed the contact on ÷ legs that ended in the range.',
    value: (t) => shareOf(t.legs.passedOn, legs(t)),
    count: legs,
    behind: { part: 'legs', side: legsWith('handled', byEnd({ 'passed-on': 'with', kept: 'without' })), by: 'handled' },
  },
  {
    id: 'came-to-line',
    name: 'Came to it',
    unit: 'count',
    countsBy: 'start',
    moreIsBetter: null,
    formula: 'Contacts that came to a line at which the bot listens or decides, each once.',
    value: (t) => t.lines.came,
    count: (t) => t.lines.came,
    behind: { part: 'lines', side: all },
  },
  {
    id: 'left-at-line',
    name: 'Left there',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula: 'Contacts whose customer left, or went quiet, at this line of the bot ÷ contacts that came to it.',
    value: (t) => shareOf(t.lines.left, t.lines.came),
    count: (t) => t.lines.came,
    behind: { part: 'lines', side: byEnd({ left: 'with', passed: 'without' }) },
  },
  {
    id: 'missed-at-line',
    name: 'Not understood',
    unit: 'share',
    countsBy: 'start',
    moreIsBetter: false,
    formula:
      'Contacts whose customer said something at this line of the bot that was not understood ÷ contacts that came to it.',
    value: (t) => shareOf(t.lines.missed, t.lines.came),
    count: (t) => t.lines.came,
    behind: {
      part: 'lines',
      side: notUnderstood,
    },
  },
];

/** The figures that Review opens with. */
export const FIRST_FIGURES = [
  'started',
  'handled',
  'service-level',
  'speed',
  'speed-90',
  'gave-up',
  'handle-time',
  'own-reply',
  'missed',
  'bot',
  'left-bot',
  'rung-back',
  'messages-met',
  'came-back',
  'journey',
  'rating',
  'upset',
] as const;

/** Figures of what not every company or range has: shown where there is some of it. */
export const KINDS_APART: readonly string[] = ['rung-back', 'messages-met', 'journey', 'upset'];

/** In how many of some turns the Desk said what was in front. */
function frontNote(fronted: number, all: number): string | null {
  if (all === 0) return null;
  if (fronted === 0) return 'No Desk said here what was in front.';
  return fronted === all
    ? 'Here all of it is what was in front.'
    : `Here ${fronted} of ${all} turns are what was in front.`;
}
/** Whether customers were told too much or too little on the whole. */
function toldNote({ count, said, followed }: Tally['visits']['told']): string | null {
  if (count === 0) return null;
  const seconds = Math.round((followed - said) / count / 1000);
  if (seconds === 0) return 'On the whole neither too much nor too little.';
  return `On the whole ${Math.abs(seconds)} s too ${seconds > 0 ? 'little' : 'much'}.`;
}
const notTaken = (t: Tally): number => t.offers.ended.missed + t.offers.ended.declined;
const quantileSeconds = (lengths: Lengths, share: number): number | null => {
  const found = lengths.quantile(share);
  return found === null ? null : found / 1000;
};

/** What must be counted for some figures: which parts, and which lengths of contacts. */
export const countedFor = (
  measures: readonly Measure[],
): { readonly parts: readonly Part[]; readonly lengths: readonly Summable[] } => ({
  parts: PARTS.filter((part) => measures.some((m) => m.behind.part === part)),
  lengths: SUMMABLE.filter((length) => measures.some((m) => m.sums === length)),
});

export const measureById = (id: string): Measure | undefined => MEASURES.find((m) => m.id === id);
