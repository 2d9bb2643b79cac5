import { type Opening, openAt, type WeekPattern } from '../hours/weekly';
import type { Localised } from '../localised';

/** What happens to whoever comes to a door that is closed, once its closing words are said. */
export type WhenClosed =
  | { readonly does: 'end' }
  /** The live version of a bot has them. */
  | { readonly does: 'bot'; readonly botId: string }
  /** They leave a message, or are promised a call, which is work for a queue. */
  | { readonly does: 'message'; readonly queueId: string }
  | { readonly does: 'callback'; readonly queueId: string }
  /** They are let in at another door, by its hours and its bot. */
  | { readonly does: 'door'; readonly doorId: string };

/** Words by which a bot is chosen, per language; each as whole words. */
export type FirstWords = { readonly botId: string; readonly words: Readonly<Record<string, readonly string[]>> };

/** What follows where none of the people a door leads to is on duty. */
export type Away = {
  readonly wording: Localised;
  readonly then: Exclude<WhenClosed, { readonly does: 'door' }> | { readonly does: 'queue' };
};

/** Who meets whoever comes to a door that is open. */
export type Meets =
  /** The door's bot. */
  | { readonly by: 'bot' }
  /** A bot by the first words of whoever writes; the door's own where none of them fits, or nothing is written. */
  | { readonly by: 'first-words'; readonly rules: readonly FirstWords[] }
  /** The first of these people who is on duty, within a queue whose goal and rules count. */
  | {
      readonly by: 'people';
      readonly personIds: readonly string[];
      readonly queueId: string;
      readonly away: Away;
    };

/** A door shut or opened by hand, until an instant (floor ms), whatever its hours say. */
export type ByHand = {
  readonly open: boolean;
  readonly until: number;
  /** Why, in the words that customers hear as `{reason}`. */
  readonly reason: Localised;
  readonly at: number;
  readonly personId: string;
};

/** Whether a door is open, by its hours or by hand. */
export type DoorOpening = Opening & { /** What was set by hand and stands. */ readonly byHand: ByHand | null };

/**
 * Whether a door is open at an instant (floor ms), until when, or when it opens next. What was set by hand goes before
 * its hours (null: none that are known, never open) until its time is over.
 */
export function doorOpening(hours: WeekPattern | null, byHand: ByHand | null, now: number): DoorOpening {
  const at = (instant: number): Opening => (hours ? openAt(hours, instant) : { open: false, opensAt: null });
  if (byHand === null || byHand.until <= now) return { ...at(now), byHand: null };
  const after = at(byHand.until);
  if (byHand.open) return { open: true, until: after.open ? after.until : byHand.until, byHand };
  return { open: false, opensAt: after.open ? byHand.until : after.opensAt, byHand };
}
