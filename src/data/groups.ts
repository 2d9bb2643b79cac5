import type { Membership } from '../core/people/membership';
import type { LimitKind, Limits } from '../core/routing/limits';
import { type Db, rows } from './database';
import { documents } from './documents';

/**
 * People asked together: rules and exceptions, weights, and limits that stand in place of or beside its members' own.
 */
export type GroupBody = Membership & {
  readonly zone: string;
  readonly hoursId: string | null;
  readonly limits: Limits;
  readonly instead: readonly LimitKind[];
  readonly weights: Readonly<Record<string, number>>;
};

export const GROUPS = documents<GroupBody>('group');

export type PartnerNumber = {
  readonly id: string;
  readonly name: string;
  readonly address: string;
  readonly hoursId: string | null;
  readonly limits: Limits;
  readonly perQueue: Readonly<Record<string, { readonly rank: number; readonly weight: number }>>;
};

/** Hours and limits of the desk itself hold for its numbers together, those of a number for that number besides. */
export type PartnerBody = {
  readonly zone: string;
  readonly hoursId: string | null;
  readonly limits: Limits;
  readonly way: 'one-by-one' | 'all-at-once';
  readonly ringSeconds: number;
  readonly countsFromSeconds: number;
  readonly numbers: readonly PartnerNumber[];
};

export const PARTNERS = documents<PartnerBody>('partner');

/** Limits of one person's own, kept under their id. */
export const PERSON_LIMITS = documents<{ readonly limits: Limits }>('person-limits');

/** How many contacts were taken in an hour (its first instant, UTC ms). */
export type TakenIn = { readonly hour: number; readonly n: number };
const HOUR_MS = 3_600_000;

/** What people of a group took through it since an instant. */
export const takenByGroup = (db: Db, groupId: string, since: number): TakenIn[] =>
  rows(
    db,
    `SELECT made_at / ${HOUR_MS} * ${HOUR_MS} AS hour, count(*) AS n FROM offers
      WHERE group_id = ? AND made_at >= ? AND ended_how = 'accepted' GROUP BY 1`,
    groupId,
    since,
  );
/** Calls that a partner desk answered since an instant. */
export const takenByPartner = (db: Db, partnerId: string, since: number): TakenIn[] =>
  rows(
    db,
    `SELECT started_at / ${HOUR_MS} * ${HOUR_MS} AS hour, count(*) AS n FROM partner_calls
      WHERE partner_id = ? AND started_at >= ? AND answered_at IS NOT NULL GROUP BY 1`,
    partnerId,
    since,
  );
