import { type Db, row, rows, run } from './database';
import { membersOf } from './customerties';

/** What the router learned or counted; see `core/routing/memory.ts`. */
export const readRouterMemory = (db: Db): { key: string; body: string }[] =>
  rows(db, 'SELECT key, body FROM router_memory');

export const writeRouterMemory = (db: Db, key: string, body: string): void => {
  run(db, 'INSERT INTO router_memory (key, body) VALUES (?1, ?2) ON CONFLICT (key) DO UPDATE SET body = ?2', key, body);
};

/**
 * Offers that used a group's (or a person's) limits since an instant: those pending and those accepted, with their
 * instants.
 */
export const offersCounted = (
  db: Db,
  by: 'group_id' | 'person_id',
  id: string,
  from: number,
): { madeAt: number; open: number }[] =>
  rows(
    db,
    `SELECT o.made_at AS madeAt, o.ended_at IS NULL OR EXISTS (SELECT 1 FROM legs l
        WHERE l.visit_id = o.visit_id AND l.person_id = o.person_id AND l.ended_at IS NULL) AS open
      FROM offers o WHERE o.${by === 'group_id' ? 'group_id' : 'person_id'} = ? AND o.made_at >= ?
        AND (o.ended_at IS NULL OR o.ended_how = 'accepted')`,
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

const CALL = `SELECT id, visit_id AS visitId, contact_id AS contactId, partner_id AS partnerId, number_id AS numberId,
      started_at AS startedAt, answered_at AS answeredAt, ended_at AS endedAt, ended_how AS endedHow, counted
    FROM partner_calls`;

export const openPartnerCalls = (db: Db): PartnerCall[] =>
  rows<PartnerCall>(db, `${CALL} WHERE ended_at IS NULL ORDER BY id`);

/** The outside call on which a contact is talking. */
export const openPartnerCallOf = (db: Db, contactId: string): PartnerCall | undefined =>
  row<PartnerCall>(db, `${CALL} WHERE contact_id = ? AND ended_at IS NULL AND answered_at IS NOT NULL`, contactId);

export const partnerCallsOfVisit = (db: Db, visitId: string): PartnerCall[] =>
  rows<PartnerCall>(db, `${CALL} WHERE visit_id = ? ORDER BY started_at, id`, visitId);

export const readPartnerCall = (db: Db, id: string): PartnerCall | undefined =>
  row<PartnerCall>(db, `${CALL} WHERE id = ?`, id);

const USED = "started_at >= ? AND (ended_at IS NULL OR (counted = 1 AND ended_how = 'done'))";

/** Calls of an outside number that used its limits since an instant. */
export const callsCounted = (db: Db, numberId: string, from: number): { madeAt: number; open: number }[] =>
  rows(
    db,
    `SELECT started_at AS madeAt, ended_at IS NULL AS open FROM partner_calls WHERE number_id = ? AND ${USED}`,
    numberId,
    from,
  );

/** Contacts that used a partner desk's own limits since an instant: numbers that are rung at once are one contact. */
export const contactsCounted = (db: Db, partnerId: string, from: number): { madeAt: number; open: number }[] =>
  rows(
    db,
    `SELECT started_at AS madeAt, MAX(ended_at IS NULL) AS open FROM partner_calls WHERE partner_id = ? AND ${USED}
        GROUP BY visit_id, started_at`,
    partnerId,
    from,
  );

/** Who last dealt with this customer, or with whom they are one with, since an instant, and when they took it; null for nobody. */
export const lastDealtWith = (db: Db, customerId: string, since: number): string | null =>
  row<{ personId: string }>(
    db,
    `SELECT l.person_id AS personId FROM contacts c JOIN legs l ON l.contact_id = c.id
      WHERE c.customer_id IN (SELECT value FROM json_each(?)) AND l.accepted_at >= ? ORDER BY l.accepted_at DESC LIMIT 1`,
    JSON.stringify(membersOf(db, customerId)),
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
