import type { Membership } from '../core/people/membership';
import type { LimitKind, Limits } from '../core/routing/limits';
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
