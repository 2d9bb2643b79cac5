import type { Channel } from '../core/channels';
import type { VisitEnd } from '../core/measures/facts';
import type { VisitKind } from '../core/routing/floor';
import type { MergedNeed, Need } from '../core/routing/needs';
import { type Db, row, rows } from './database';
import { eachReadable, listIn, readable } from './readable';
import { ownerOf, rowsOf } from './contactrows';

export type Visit = {
  readonly id: string;
  readonly entry: number;
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly settingsVersion: number;
  readonly placedAt: number;
  readonly enteredAt: number;
  readonly endedAt: number | null;
  readonly endedHow: VisitEnd | null;
  readonly needs: readonly MergedNeed[];
  readonly priority: number;
  readonly goalSeconds: number;
  readonly handOver: readonly Need[];
  readonly passed: readonly string[];
  readonly familiarId: string | null;
  readonly kind: VisitKind;
  readonly stagedAt: readonly number[];
  readonly opened: readonly { readonly to: 'group' | 'partner'; readonly id: string }[];
  readonly choosingUntil: number | null;
};

type VisitRow = Omit<Visit, 'needs' | 'handOver' | 'passed' | 'kind' | 'stagedAt' | 'opened'> & {
  needs: string;
  handOver: string;
  passed: string;
  callback: number;
  message: number;
  stagedAt: string;
  opened: string;
};

const VISIT = `SELECT id, entry, contact_id AS contactId, queue_id AS queueId, channel, settings_version AS
      settingsVersion, placed_at AS placedAt, entered_at AS enteredAt, ended_at AS endedAt, ended_how AS endedHow,
      needs, priority, goal_seconds AS goalSeconds, hand_over AS handOver, passed, familiar_id AS familiarId,
      callback, message, staged_at AS stagedAt, opened, choosing_until AS choosingUntil FROM visits`;

const visitFrom = ({ callback, message, ...r }: VisitRow): Visit => ({
  ...r,
  needs: listIn(r.needs) as MergedNeed[],
  handOver: listIn(r.handOver) as Need[],
  passed: listIn(r.passed) as string[],
  kind: callback === 1 ? 'callback' : message === 1 ? 'message' : 'live',
  stagedAt: listIn(r.stagedAt) as number[],
  opened: listIn(r.opened) as Visit['opened'],
});

export const openVisits = (db: Db): Visit[] =>
  eachReadable(db, 'visit', rows<VisitRow>(db, `${VISIT} WHERE ended_at IS NULL ORDER BY entry`), visitFrom);

const VISITS_OF = `${VISIT} WHERE contact_id = ? ORDER BY entered_at, rowid`;
export const visitsOf = (db: Db, contactId: string): readonly Visit[] =>
  rowsOf(db, 'visits', contactId, () => eachReadable(db, 'visit', rows<VisitRow>(db, VISITS_OF, contactId), visitFrom));

export const readVisit = (db: Db, id: string): Visit | undefined => {
  const owner = ownerOf(db, id);
  if (owner !== undefined) return visitsOf(db, owner).find((visit) => visit.id === id);
  const found = row<VisitRow>(db, `${VISIT} WHERE id = ?`, id);
  return found && readable(db, 'visit', found, visitFrom);
};

export type Offer = {
  readonly id: string;
  readonly visitId: string;
  readonly personId: string;
  readonly madeAt: number;
  readonly acceptBy: number;
  readonly endedAt: number | null;
  readonly endedHow: string | null;
  readonly groupId: string | null;
};

const OFFER = `SELECT id, visit_id AS visitId, person_id AS personId, made_at AS madeAt, accept_by AS acceptBy, ended_at AS
      endedAt, ended_how AS endedHow, group_id AS groupId FROM offers`;

export const openOffers = (db: Db): Offer[] => rows<Offer>(db, `${OFFER} WHERE ended_at IS NULL ORDER BY made_at, id`);

export const openOfferOf = (db: Db, personId: string): Offer | undefined =>
  row<Offer>(db, `${OFFER} WHERE person_id = ? AND ended_at IS NULL`, personId);

export const offersOf = (db: Db, visitId: string): Offer[] =>
  rows<Offer>(db, `${OFFER} WHERE visit_id = ? ORDER BY made_at, id`, visitId);

/** Who is being offered something by an offer that is not over; null when it is, or there is no such offer. */
export const offeredTo = (db: Db, offerId: string): string | null =>
  row<{ personId: string }>(db, 'SELECT person_id AS personId FROM offers WHERE id = ? AND ended_at IS NULL', offerId)
    ?.personId ?? null;

/**
 * The hour since `from` in which most visits entered a queue, as whole hours since the epoch; the later of two equal
 * ones.
 */
export const busiestHourOf = (db: Db, queueId: string, from: number): { hour: number; n: number } | undefined =>
  row<{ hour: number; n: number }>(
    db,
    `SELECT entered_at / 3600000 AS hour, count(*) AS n FROM visits WHERE queue_id = ? AND entered_at >= ?
    GROUP BY 1 ORDER BY 2 DESC, 1 DESC LIMIT 1`,
    queueId,
    from,
  );

/** Offers that somebody missed since an instant, the newest first. */
export const missedSince = (
  db: Db,
  personId: string,
  since: number,
  most: number,
): { readonly offerId: string; readonly contactId: string; readonly queueId: string; readonly at: number }[] =>
  rows(
    db,
    `SELECT o.id AS offerId, v.contact_id AS contactId, v.queue_id AS queueId, o.ended_at AS at
      FROM offers o JOIN visits v ON v.id = o.visit_id
      WHERE o.person_id = ? AND o.made_at >= ? AND o.ended_how = 'missed' ORDER BY o.ended_at DESC LIMIT ?`,
    personId,
    since,
    most,
  );
