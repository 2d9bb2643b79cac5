/** An instant by both clocks, UTC ms. */
export type Instant = { readonly real: number; readonly floor: number };

/**
 * What a window of somebody's Desk says: which of their turns is in front (null: none), whether the window can be seen, and
 * whether it has the focus.
 */
export type DeskReport = {
  readonly window: string;
  readonly legId: string | null;
  readonly seen: boolean;
  readonly focused: boolean;
  readonly at: Instant;
};

/** That a turn was in front of its person, from one instant to another. */
export type Front = { readonly legId: string; readonly from: Instant; readonly to: Instant };

/** What is in front of somebody now: in which window, since when, and when that was last said. */
export type InFront = {
  readonly window: string;
  readonly legId: string | null;
  readonly since: Instant;
  readonly last: Instant;
};

/** After so long without a word from its window nothing is in front any more, real ms. */
export const SILENCE_MS = 45_000;

type Step = { readonly now: InFront | null; readonly ended: Front | null };

const endedAt = ({ legId, since }: InFront, to: Instant): Front | null =>
  legId === null || to.floor <= since.floor ? null : { legId, from: since, to };

/** Ends what was in front where its window has been silent for too long: with its last word. */
export function afterSilence(now: InFront | null, at: Instant): Step {
  if (now === null || at.real - now.last.real <= SILENCE_MS) return { now, ended: null };
  return { now: null, ended: endedAt(now, now.last) };
}

/**
 * What is in front after a window has reported: of all windows of a person the one counts that had the focus last, as long as
 * it can be seen, by the order in which reports arrive. So at most one turn is in front at a time.
 */
export function afterReport(before: InFront | null, report: DeskReport): Step {
  const { now, ended } = afterSilence(before, report.at);
  if (ended !== null || now === null) return { now: report.seen ? beginning(report) : null, ended };
  const own = now.window === report.window;
  if (!report.seen) return own ? { now: null, ended: endedAt(now, report.at) } : { now, ended: null };
  if (!own && !report.focused) return { now, ended: null };
  if (own && now.legId === report.legId) return { now: { ...now, last: report.at }, ended: null };
  return { now: beginning(report), ended: endedAt(now, report.at) };
}
const beginning = ({ window, legId, at }: DeskReport): InFront => ({ window, legId, since: at, last: at });
