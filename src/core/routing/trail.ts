import type { Unable } from './able';
import type { LimitKind } from './limits';
import type { MergedNeed } from './needs';
import type { PickingRule } from './queue';

/** Why one person who was not chosen was not: their first failing check, or what happened among the able. */
export type NotChosen = Unable['why'] | 'later-in-order' | 'took-another' | 'left-unasked';

/** When a decision was looked at: on entering, at a stage of the clock, when somebody was offered it, when it ended. */
export type DecisionKind = 'entry' | 'stage' | 'offer' | 'end';

/** One decision about one visit, as it is stored and later read out in sentences. Instants are floor ms. */
export type Trail = {
  readonly kind?: DecisionKind;
  readonly at: number;
  readonly settingsVersion: number;
  readonly waitedSeconds: number;
  /** Stages of the wait clock that had happened. */
  readonly stage?: number;
  /** What was needed by then, where stages had asked for less than at first. */
  readonly needs?: readonly MergedNeed[];
  /** Whether people take it from a list themselves, so that nobody is offered it. */
  readonly toTake?: boolean;
  /** People on duty who were asked by now, and all who were able. */
  readonly asked: number;
  readonly able: number;
  readonly chosen: string | null;
  /** Place of the chosen person among the able, from 1. */
  readonly rank?: number | null;
  readonly decidedBy: Decider | null;
  /** The chosen person's summed level over the needs; null without needs. */
  readonly levelSum: number | null;
  /** The group that made the chosen person asked, and is charged. */
  readonly groupId?: string | null;
  /** Person ids by reason; whoever is missing here did not exist then. */
  readonly others: Readonly<Partial<Record<NotChosen, readonly string[]>>>;
  /** For people lacking a skill: which one, by person id. */
  readonly lacking: Readonly<Record<string, string>>;
  /** For people held back by a limit: which one, by person id. */
  readonly limits?: Readonly<Record<string, LimitKind>>;
  /** For people who were able and came later in order: the rule that put them after the chosen one, by person id. */
  readonly later?: Readonly<Record<string, Decider>>;
};

export const LIMIT_WORDS: Readonly<Record<LimitKind, string>> = {
  hours: 'outside its hours',
  atOnce: 'at its most at once',
  perHour: 'at its most this hour',
  perDay: 'at its most today',
  perMonth: 'at its most this month',
};

const REASON_WORDS: Readonly<Record<NotChosen, (n: number) => string>> = {
  'off-duty': (n) => `${n} off duty`,
  away: (n) => `${n} away`,
  unreachable: (n) => `${n} on duty but out of reach`,
  'not-in-duty': (n) => `${n} whose duty profile does not take it`,
  'not-yet': (n) => `${n} whose duty profile takes it later`,
  limit: (n) => `${n} held back by a limit`,
  skill: (n) => `${n} ${n === 1 ? 'does' : 'do'} not meet the skills`,
  'channel-off': (n) => `${n} not taking this channel`,
  'channel-most': (n) => `${n} at their most on this channel`,
  load: (n) => `${n} without room for it`,
  'offer-pending': (n) => `${n} being offered another contact`,
  refused: (n) => `${n} who passed on it`,
  held: (n) => `${n} able, while it is held for somebody the customer knows`,
  'later-in-order': (n) => `${n} able, later in the picking order`,
  'took-another': (n) => `${n} who took another in the same pass`,
  'left-unasked': (n) => `${n} able, not asked`,
};

/** The people not chosen in words, one line per reason, largest first. */
export const otherLines = (trail: Trail): { why: NotChosen; text: string; people: readonly string[] }[] =>
  (Object.entries(trail.others) as [NotChosen, readonly string[]][])
    .map(([why, people]) => ({ why, text: REASON_WORDS[why](people.length), people }))
    .sort((a, b) => b.people.length - a.people.length);

const DECIDER_WORDS: Readonly<Record<Decider, string>> = {
  'only-one': 'the only one able',
  familiar: 'knows this customer from before, ahead',
  'longest-idle': 'longest since the last contact',
  'lightest-load': 'the lightest load',
  'fewest-open': 'the fewest open contacts',
  'fewest-today': 'the fewest contacts today',
  'highest-level': 'the highest level',
  'closest-level': 'the level closest to what is needed',
  'share-by-weight': 'furthest behind their share',
  'in-turn': 'next in turn',
  tie: 'equal in every rule, settled by lot',
};

/** The rule that put somebody later, in words. */
export const laterWords = (rule: Decider): string => `by ${DECIDER_WORDS[rule]}`;

/** Why a person was chosen, or why nobody was, as one sentence. `name` turns a person id into a name. */
export function decisionSentence(trail: Trail, name: (personId: string) => string): string {
  if (trail.chosen && trail.decidedBy) {
    const of =
      trail.able === 1 ? DECIDER_WORDS['only-one'] : `${DECIDER_WORDS[trail.decidedBy]} of ${trail.able} able people`;
    return `${name(trail.chosen)} was asked after ${trail.waitedSeconds} s: ${of}.`;
  }
  const stage =
    trail.kind === 'stage' && trail.stage !== undefined ? `Stage ${trail.stage} after ${trail.waitedSeconds} s: ` : '';
  if (trail.asked === 0) return `${stage}${stage ? 'n' : 'N'}obody on duty takes this queue on this channel.`;
  if (trail.toTake)
    return `${stage}${stage ? 'w' : 'W'}aits to be taken from the list: ${trail.able} of ${trail.asked} who may could take it now.`;
  const asked = `${trail.asked} ${trail.asked === 1 ? 'person is' : 'people are'} asked`;
  if (trail.able > 0)
    return `${stage}${stage ? asked : asked.replace(/^./, (c) => c.toUpperCase())}, ${trail.able} able.`;
  return `${stage}${stage ? 'n' : 'N'}obody able yet: ${asked}, none can take it now.`;
}

/** What decided between the person chosen and the next in order. */
export type Decider = PickingRule | 'familiar' | 'only-one' | 'tie';
