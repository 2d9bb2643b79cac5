import type { Membership } from '../core/people/membership';
import type { LimitKind, Limits } from '../core/routing/limits';
import { documents } from './documents';
import { row, rows, run, type Db } from './database';

/** People asked together: rules and exceptions, weights, and limits that stand in place of or beside its members' own. */
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
export type PartnerBody = {
  readonly zone: string;
  readonly way: 'one-by-one' | 'all-at-once';
  readonly ringSeconds: number;
  readonly countsFromSeconds: number;
  readonly numbers: readonly PartnerNumber[];
};
export const PARTNERS = documents<PartnerBody>('partner');

/** Limits of one person's own, kept under their id. */
export const PERSON_LIMITS = documents<{ readonly limits: Limits }>('person-limits');

/** What the router learned or counted; see `core/routing/memory.ts`. */
export const readRouterMemory = (db: Db): { key: string; body: string }[] =>
  rows(db, 'SELECT key, body FROM router_memory');
export const writeRouterMemory = (db: Db, key: string, body: string): void => {
  run(db, 'INSERT INTO router_memory (key, body) VALUES (?1, ?2) ON CONFLICT (key) DO UPDATE SET body = ?2', key, body);
};

/** Offers that used a group's (or a person's) limits since an instant: those pending and those accepted, with their instants. */
export const offersCounted = (
  db: Db,
  by: 'group_id' | 'person_id',
  id: string,
  from: number,
): { madeAt: number; open: number }[] =>
  rows(
    db,
    `SELECT o.made_at AS madeAt, o.ended_at IS NULL OR EXISTS (SELECT 1 FROM legs l WHERE l.visit_id = o.visit_id AND l.person_id = o.person_id AND l.ended_at IS NULL) AS open
    FROM offers o WHERE o.${by === 'group_id' ? 'group_id' : 'person_id'} = ? AND o.made_at >= ? AND (o.ended_at IS NULL OR o.ended_how = 'accepted')`,
    id,
    from,
  );
export type PartnerCall = {
  readonly id: string;
  readonly visitId: string;
  readonly contactId: string;
  readonly partnerId: string;
  readonly numberId: string;
  readonly startedAt: number;
  readonly answeredAt: number | null;
  readonly endedAt: number | null;
  readonly endedHow: string | null;
  readonly counted: number;
};
const CALL =
  'SELECT id, visit_id AS visitId, contact_id AS contactId, partner_id AS partnerId, number_id AS numberId, started_at AS startedAt, answered_at AS answeredAt, ended_at AS endedAt, ended_how AS endedHow, counted FROM partner_calls';
export const openPartnerCalls = (db: Db): PartnerCall[] =>
  rows<PartnerCall>(db, `${CALL} WHERE ended_at IS NULL ORDER BY id`);
export const partnerCallsOfVisit = (db: Db, visitId: string): PartnerCall[] =>
  rows<PartnerCall>(db, `${CALL} WHERE visit_id = ? ORDER BY started_at, id`, visitId);
export const readPartnerCall = (db: Db, id: string): PartnerCall | undefined =>
  row<PartnerCall>(db, `${CALL} WHERE id = ?`, id);
/** Calls of an outside number that used its limits since an instant. */
export const callsCounted = (db: Db, numberId: string, from: number): { madeAt: number; open: number }[] =>
  rows(
    db,
    "SELECT started_at AS madeAt, ended_at IS NULL AS open FROM partner_calls WHERE number_id = ? AND started_at >= ? AND (ended_at IS NULL OR (counted = 1 AND ended_how = 'done'))",
    numberId,
    from,
  );

/** Who last dealt with this customer since an instant, and when they took it; null for nobody. */
export const lastDealtWith = (db: Db, customerId: string, since: number): string | null =>
  row<{ personId: string }>(
    db,
    'SELECT l.person_id AS personId FROM contacts c JOIN legs l ON l.contact_id = c.id WHERE c.customer_id = ? AND l.accepted_at >= ? ORDER BY l.accepted_at DESC LIMIT 1',
    customerId,
    since,
  )?.personId ?? null;

/** Contacts that each person took since an instant. */
export const takenSince = (db: Db, from: number): Map<string, number> =>
  new Map(
    rows<{ id: string; n: number }>(
      db,
      'SELECT person_id AS id, count(*) AS n FROM legs WHERE accepted_at >= ? GROUP BY person_id',
      from,
    ).map((r) => [r.id, r.n]),
  );

export type CallbackState =
  'planned' | 'waiting' | 'dialling' | 'talking' | 'reached' | 'expired' | 'given-up' | 'cancelled';
/** A call promised to a customer. `fromAt` to `untilAt` is the window they chose (null: as soon as possible); instants of the floor. */
export type Callback = {
  readonly id: string;
  readonly contactId: string;
  readonly queueId: string;
  readonly number: string;
  readonly placedAt: number;
  readonly askedAt: number;
  readonly fromAt: number;
  readonly untilAt: number | null;
  readonly expiresAt: number;
  readonly attempts: number;
  readonly nextAt: number | null;
  readonly state: CallbackState;
  readonly callId: string | null;
  readonly reachedAt: number | null;
  readonly endedAt: number | null;
  readonly outcome: string | null;
};
const CALLBACK =
  'SELECT id, contact_id AS contactId, queue_id AS queueId, number, placed_at AS placedAt, asked_at AS askedAt, from_at AS fromAt, until_at AS untilAt, expires_at AS expiresAt, attempts, next_at AS nextAt, state, call_id AS callId, reached_at AS reachedAt, ended_at AS endedAt, outcome FROM callbacks';
export const readCallback = (db: Db, id: string): Callback | undefined =>
  row<Callback>(db, `${CALLBACK} WHERE id = ?`, id);
export const callbackOf = (db: Db, contactId: string): Callback | undefined =>
  row<Callback>(db, `${CALLBACK} WHERE contact_id = ? ORDER BY asked_at DESC LIMIT 1`, contactId);
export const readCallbacks = (db: Db, since: number): Callback[] =>
  rows<Callback>(
    db,
    `${CALLBACK} WHERE ended_at IS NULL OR ended_at >= ? ORDER BY ended_at IS NOT NULL, coalesce(next_at, from_at), id`,
    since,
  );
export const writeCallback = (db: Db, c: Callback): void => {
  run(
    db,
    `INSERT INTO callbacks (id, contact_id, queue_id, number, placed_at, asked_at, from_at, until_at, expires_at, attempts, next_at, state, call_id, reached_at, ended_at, outcome) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16)
    ON CONFLICT (id) DO UPDATE SET queue_id = ?3, number = ?4, from_at = ?7, until_at = ?8, expires_at = ?9, attempts = ?10, next_at = ?11, state = ?12, call_id = ?13, reached_at = ?14, ended_at = ?15, outcome = ?16`,
    c.id,
    c.contactId,
    c.queueId,
    c.number,
    c.placedAt,
    c.askedAt,
    c.fromAt,
    c.untilAt,
    c.expiresAt,
    c.attempts,
    c.nextAt,
    c.state,
    c.callId,
    c.reachedAt,
    c.endedAt,
    c.outcome,
  );
};
