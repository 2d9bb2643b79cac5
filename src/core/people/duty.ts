import type { Channel } from '../channels';
import type { LoadRules } from './load';

/** One line of a duty profile: these people take this queue on this channel, in this band, once it has waited this long. */
export type DutyRow = { readonly queueId: string; readonly channel: Channel; readonly band: number; readonly delaySeconds: number };

export type DutyProfile = {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly DutyRow[];
  readonly load: LoadRules;
  /** Real seconds a person has to accept an offer. */
  readonly acceptSeconds: number;
};

/** Stored duty states. Busy and wrapping up are labels, never a bar to another contact that fits. */
export const DUTY_STATES = ['off', 'ready', 'away', 'away-when-empty'] as const;
export type DutyState = (typeof DUTY_STATES)[number];

/** Away reasons until leads can name their own; `missed` is set by the floor after a missed offer. */
export const AWAY_REASONS = ['Break', 'Lunch', 'Meeting', 'Training'] as const;
export const MISSED = 'missed an offer';

export const dutyRow = (profile: Pick<DutyProfile, 'rows'>, queueId: string, channel: Channel): DutyRow | undefined =>
  profile.rows.find((row) => row.queueId === queueId && row.channel === channel);
