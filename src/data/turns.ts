import type { Turn } from '../core/differing/reason';
import type { Trail } from '../core/routing/trail';
import { type Db, row, rows } from './database';
import { wasBroughtIn } from './past';
import { decisionsOf } from './trails';

/** A turn by its contact's number and when it ended: what days of facts say of it. */
export type TurnAt = { readonly no: number; readonly endedAt: number };

/**
 * Turns of a person with what gave them to them. One that was brought in has no offer and no decision, and says so. Reads
 * a kept decision for each: for a thread of its own.
 */
export const turnsOf = (db: Db, personId: string, turns: readonly TurnAt[]): Turn[] =>
  turns.flatMap(({ no, endedAt }) => {
    const leg = row<Omit<Turn, 'trail' | 'rungToo'> & { visitId: string }>(
      db,
      `SELECT l.id AS legId, l.contact_id AS contactId, l.visit_id AS visitId, v.queue_id AS queueId,
          l.accepted_at AS acceptedAt, coalesce(l.handle_seconds, 0) AS handleSeconds
        FROM contacts c JOIN legs l ON l.contact_id = c.id JOIN visits v ON v.id = l.visit_id
        WHERE c.no = ? AND l.person_id = ? AND l.ended_at = ?`,
      no,
      personId,
      endedAt,
    );
    if (!leg) return [];
    const { visitId, ...turn } = leg;
    return [
      {
        ...turn,
        trail: wasBroughtIn(db, no) ? 'unknown' : deciding(db, visitId, personId, turn.acceptedAt),
        rungToo: rungToo(db, visitId, personId, turn.acceptedAt),
      },
    ];
  });

/** The decision that gave a visit to a person; null where there was none: it was taken by hand. */
const deciding = (db: Db, visitId: string, personId: string, acceptedAt: number): Trail | null =>
  decisionsOf(db, visitId).findLast((trail) => trail.chosen === personId && trail.at <= acceptedAt) ?? null;

/** Who else was being offered a visit when somebody accepted it. */
const rungToo = (db: Db, visitId: string, personId: string, at: number): ReadonlySet<string> =>
  new Set(
    rows<{ personId: string }>(
      db,
      `SELECT person_id AS personId FROM offers
        WHERE visit_id = ?1 AND person_id <> ?2 AND made_at <= ?3 AND coalesce(ended_at, ?3) >= ?3`,
      visitId,
      personId,
      at,
    ).map((offer) => offer.personId),
  );
