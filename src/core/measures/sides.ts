import { NONE, type PartOfDay } from './columns';
import { type Mood, MOODS } from '../mood/mood';
import type { Part } from './factparts';
import { bitOf, type JourneyTook } from './journeys';
import { SHORT_SECONDS } from './servicelevel';

/**
 * The two sides of a figure: of a share, the rows that do not count in its favour and those that do; of a count or a mean,
 * all are `with`.
 */
export type Side = 'without' | 'with';

/** How the rows behind a figure are found: on which side each stands (null: on none), and what they are put in order by. */
export type Behind = {
  readonly part: Part;
  readonly side: (part: PartOfDay) => (row: number) => Side | null;
  /** Largest first; by when they were where there is none. */
  readonly by?: 'waited' | 'handled' | 'replied' | 'lasted' | 'journey' | 'in' | 'out' | 'byPerson';
};

const SHORT_MS = SHORT_SECONDS * 1000;
type Sides = Behind['side'];
/** Each way of ending has one side, or none. */
export const byEnd =
  (sides: Readonly<Record<string, Side>>, otherwise: Side | null = null): Sides =>
  (part) => {
    const { codes, entries } = part.coded('how');
    const of = entries.map(([how]) => (how === undefined ? otherwise : (sides[how] ?? otherwise)));
    return (row) => of[codes[row] ?? 0] ?? null;
  };
export const all: Sides = () => () => 'with';
const keepOnly =
  (side: (row: number) => Side | null, one: Side) =>
  (row: number): Side | null =>
    side(row) === one ? one : null;
/** Visits whose customer was there. */
const waits: Sides = byEnd(
  Object.fromEntries(
    ['rung-reached', 'rung-not', 'message-met', 'message-late', 'message-not'].map((how) => [how, 'without' as const]),
  ),
  'with',
);
export const waitedFor: Sides = (part) => keepOnly(waits(part), 'with');
/** Visits that count for the service level: those in goal are `with`. */
export const inGoal: Sides = (part) => {
  const end = byEnd({ accepted: 'with', 'gave-up': 'without' })(part);
  const [waited, stayed, goal] = [part.numbers('waited'), part.numbers('stayed'), part.numbers('goal')];
  return (row) => {
    const side = end(row);
    if (side === 'with') return (waited[row] ?? 0) <= (goal[row] ?? 0) ? 'with' : 'without';
    return side === 'without' && (stayed[row] ?? 0) > SHORT_MS ? 'without' : null;
  };
};
export const gaveUp: Sides = (part) => {
  const end = byEnd({ accepted: 'without', 'gave-up': 'with' })(part);
  const stayed = part.numbers('stayed');
  return (row) => (end(row) === 'with' && (stayed[row] ?? 0) <= SHORT_MS ? null : end(row));
};
export const accepted: Sides = byEnd({ accepted: 'with' });
/** Legs whose handle time is known, and of these the ones that have the other length as well. */
export const legsWith =
  (length: 'handled' | 'replied', sides: Sides = all): Sides =>
  (part) => {
    const [handles, lengths, side] = [part.numbers('handled'), part.numbers(length), sides(part)];
    return (row) => (handles[row] === NONE || lengths[row] === NONE ? null : side(row));
  };
export const handled = legsWith('handled');
export const replied = legsWith('replied');
export const possible = legsWith('handled', (part) => {
  const [waited, asked, goal] = [part.numbers('waited'), part.numbers('asked'), part.numbers('goal')];
  return (row) => {
    const [wait = NONE, first = NONE, most = 0] = [waited[row], asked[row], goal[row]];
    if (wait === NONE || first === NONE || first > most) return null;
    return wait <= most ? 'with' : 'without';
  };
});
/** Whether the customer of an ended contact began another; those of which it is not known yet are on no side. */
export const cameBack: Sides = (part) => {
  const again = part.numbers('again');
  return (row) => (again[row] === NONE ? null : (again[row] ?? 0) > 0 ? 'with' : 'without');
};
/** Rows that have a length. */
export const thoseWith =
  (length: 'rating' | 'lasted' | 'journey'): Sides =>
  (part) => {
    const lengths = part.numbers(length);
    return (row) => (lengths[row] === NONE ? null : 'with');
  };
/** Contacts whose customer's mood is known; those in that mood are `with`. */
export const inMood =
  (mood: Mood): Sides =>
  (part) => {
    const [moods, wanted] = [part.numbers('mood'), MOODS.indexOf(mood)];
    return (row) => (moods[row] === NONE ? null : moods[row] === wanted ? 'with' : 'without');
  };
/** First contacts of journeys that are over; those that took more of something are `with`. */
export const journeyTook =
  (what: JourneyTook): Sides =>
  (part) => {
    const [lengths, took, bit] = [part.numbers('journey'), part.numbers('took'), bitOf(what)];
    return (row) =>
      lengths[row] === NONE ? null : took[row] !== NONE && ((took[row] ?? 0) & bit) !== 0 ? 'with' : 'without';
  };
/** Whether something was not understood at a line of a bot. */
export const notUnderstood: Sides = (part) => {
  const missed = part.numbers('missed');
  return (row) => ((missed[row] ?? 0) > 0 ? 'with' : 'without');
};
/** Visits whose customer was told how long it would be, and whom a person accepted. */
export const wasTold: Sides = (part) => {
  const [told, followed] = [part.numbers('told'), part.numbers('followed')];
  return (row) => (told[row] === NONE || followed[row] === NONE ? null : 'with');
};
/** Hours of a contact in which something was written. */
export const withSome =
  (length: 'in' | 'out' | 'byPerson'): Sides =>
  (part) => {
    const lengths = part.numbers(length);
    return (row) => ((lengths[row] ?? 0) > 0 ? 'with' : null);
  };
