import type { Channel } from '../channels';
import type { LoadRules } from './load';

/**
 * One line of a duty profile: these people take this queue on this channel, in this band, once it has waited this
 * long.
 */
export type DutyRow = {
  readonly queueId: string;
  readonly channel: Channel;
  readonly band: number;
  readonly delaySeconds: number;
};
export const BANDS = [1, 2, 3, 4, 5] as const;

export type DutyProfile = {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly DutyRow[];
  readonly load: LoadRules;
  /** Real seconds a person has to accept an offer. */
  readonly acceptSeconds: number;
  /** Offers are taken without being asked. */
  readonly autoAccept: boolean;
  /**
   * Floor seconds without a word from the customer after which a text conversation rests and holds no load; null for
   * never.
   */
  readonly restSeconds: number | null;
};
export const DUTY_DEFAULTS = {
  acceptSeconds: 20,
  autoAccept: false,
  restSeconds: null,
} as const;

/** Another profile for now, until an instant of the floor (UTC ms). */
export type ForNow = { readonly profileId: string; readonly until: number };

/** Which duty profile counts at an instant: another for now until its time, else their own. */
export const profileIdAt = (
  person: { readonly dutyProfileId: string; readonly forNow: ForNow | null },
  at: number,
): string => (person.forNow && at < person.forNow.until ? person.forNow.profileId : person.dutyProfileId);

/** Stored duty states. Busy and wrapping up are labels, never a bar to another contact that fits. */
export const DUTY_STATES = ['off', 'ready', 'away', 'away-when-empty'] as const;
export type DutyState = (typeof DUTY_STATES)[number];

/**
 * Somebody is free who is ready, can be reached, has nothing open and is being offered nothing. More than that, their
 * duty profile, skills and limits, is asked per contact (`routing/able.ts`).
 */
export const isFree = (person: {
  readonly duty: DutyState;
  readonly reachable: boolean;
  readonly openCount: number;
  readonly asked: boolean;
}): boolean => person.duty === 'ready' && person.reachable && person.openCount === 0 && !person.asked;

/** The reason the floor itself gives after a missed offer. */
export const MISSED = 'missed an offer';

export const dutyRow = (profile: Pick<DutyProfile, 'rows'>, queueId: string, channel: Channel): DutyRow | undefined =>
  profile.rows.find((row) => row.queueId === queueId && row.channel === channel);

/** A row of one person's own in place of their profile's; of band 0 where they alone do not take it. */
export type OwnRow = DutyRow;

/** A profile's rows as they are for somebody with some of their own. */
export const withOwnRows = (rows: readonly DutyRow[], own: readonly OwnRow[]): readonly DutyRow[] =>
  own.length === 0
    ? rows
    : [
        ...rows.filter((r) => !own.some((o) => o.queueId === r.queueId && o.channel === r.channel)),
        ...own.filter((o) => o.band > 0),
      ];

/** Puts a queue and channel into a band, keeping its delay; band 0 takes it out. */
export function putInBand(rows: readonly DutyRow[], queueId: string, channel: Channel, band: number): DutyRow[] {
  const there = rows.find((r) => r.queueId === queueId && r.channel === channel);
  const rest = rows.filter((r) => r !== there);
  return band < 1 ? rest : [...rest, { queueId, channel, band, delaySeconds: there?.delaySeconds ?? 0 }];
}
