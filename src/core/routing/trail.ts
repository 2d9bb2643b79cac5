import type { Unable } from './able';
import type { Decider } from './order';

/** Why one person who was not chosen was not: their first failing check, or what happened among the able. */
export type NotChosen = Unable['why'] | 'later-in-order' | 'took-another' | 'left-unasked';

/** One decision about one visit, as it is stored and later read out in sentences. Instants are floor ms. */
export type Trail = {
  readonly at: number;
  readonly settingsVersion: number;
  readonly waitedSeconds: number;
  /** People whose duty profile has the queue on this channel by now, and those of them who were able. */
  readonly asked: number;
  readonly able: number;
  readonly chosen: string | null;
  readonly decidedBy: Decider | null;
  /** The chosen person's summed level over the needs; null without needs. */
  readonly levelSum: number | null;
  /** Person ids by reason; whoever is missing here did not exist then. */
  readonly others: Readonly<Partial<Record<NotChosen, readonly string[]>>>;
  /** For people lacking a skill: which one, by person id. */
  readonly lacking: Readonly<Record<string, string>>;
};

const REASON_WORDS: Readonly<Record<NotChosen, (n: number) => string>> = {
  'off-duty': (n) => `${n} off duty`,
  away: (n) => `${n} away`,
  unreachable: (n) => `${n} on duty but out of reach`,
  'not-in-duty': (n) => `${n} whose duty profile does not take it`,
  'not-yet': (n) => `${n} whose duty profile takes it later`,
  skill: (n) => `${n} ${n === 1 ? 'lacks' : 'lack'} a skill`,
  'channel-off': (n) => `${n} not taking this channel`,
  'channel-most': (n) => `${n} at their most on this channel`,
  load: (n) => `${n} without room for it`,
  'offer-pending': (n) => `${n} being offered another contact`,
  refused: (n) => `${n} who passed on it`,
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
  'longest-idle': 'longest since the last contact',
  'lightest-load': 'the lightest load',
  'highest-level': 'the highest level',
  tie: 'equal in every rule, settled by lot',
};

/** Why a person was chosen, or why nobody was, as one sentence. `name` turns a person id into a name. */
export function decisionSentence(trail: Trail, name: (personId: string) => string): string {
  if (trail.chosen && trail.decidedBy) {
    const of = trail.able === 1 ? DECIDER_WORDS['only-one'] : `${DECIDER_WORDS[trail.decidedBy]} of ${trail.able} able people`;
    return `${name(trail.chosen)} was asked after ${trail.waitedSeconds} s: ${of}.`;
  }
  if (trail.asked === 0) return 'Nobody on duty takes this queue on this channel.';
  return `Nobody able yet: ${trail.asked} ${trail.asked === 1 ? 'person is' : 'people are'} asked, none can take it now.`;
}
