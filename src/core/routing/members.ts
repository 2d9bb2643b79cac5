import type { Channel } from '../channels';
import type { Unable } from './able';
import type { FloorGroup, FloorPerson, WaitingVisit } from './floor';
import type { MergedNeed } from './needs';

/** Somebody who is asked and knows enough, for one cohort of visits. `mask` are the bits that keep them from it. */
export type Member = {
  readonly person: FloorPerson;
  readonly band: number;
  readonly group: FloorGroup | null;
  readonly weight: number;
  readonly levelSum: number;
  readonly closeness: number;
  readonly mask: number;
};

/** Why somebody is not a member: not asked, or lacking a skill. `inMs` counts from the visit's entry. */
export type Barred =
  | { readonly why: 'not-in-duty' }
  | { readonly why: 'not-yet'; readonly inMs: number }
  | { readonly why: 'skill'; readonly need: MergedNeed; readonly group: FloorGroup | null };

/**
 * Who is asked and knows enough, and why everybody else is not. Never changed: when people change a new one is made,
 * so that a trail can keep the old.
 */
export type Roster = {
  readonly members: readonly Member[];
  /** By the person's index. */
  readonly of: readonly (Member | undefined)[];
  readonly barred: readonly (Barred | undefined)[];
  readonly list: readonly FloorPerson[];
};

/**
 * Visits that the same people can take for the same reasons: one queue's settings, channel, needs, groups, and delays
 * passed. They wait in one line, in the order in which every person prefers them.
 */
export type Cohort = {
  readonly queueId: string;
  readonly channel: Channel;
  /** The channel by whose rules its visits hold load. */
  readonly load: Channel;
  readonly needs: readonly MergedNeed[];
  readonly groups: readonly string[];
  readonly elapsedMs: number;
  readonly waiting: WaitingVisit[];
  /** Whether the next stage may come early. */
  readonly early: boolean;
  /** The version of people's changes that the roster was made under. */
  version: number;
  roster: Roster;
};

/** What a barred reason is for a visit: with the instant at which a delay passes. */
export const unableFrom = (barred: Barred, visit: Pick<WaitingVisit, 'enteredAt'>): Unable =>
  barred.why === 'not-yet'
    ? { why: 'not-yet', at: visit.enteredAt + barred.inMs }
    : barred.why === 'skill'
      ? { why: 'skill', need: barred.need }
      : barred;
