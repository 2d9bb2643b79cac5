import type { Channel } from '../core/channels';
import { type Db, rows } from './database';

/** A person's turn with its contact; `to` is null while it is open. */
export type TurnOfDay = {
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly from: number;
  readonly to: number | null;
  readonly outcome: string | null;
  readonly handleSeconds: number | null;
};
/** Contacts that stay open longer than this are not looked for. */
const LONGEST_MS = 7 * 86_400_000;

/** Turns of somebody that were open at some moment of [from, to), floor ms, in the order in which they began. */
export const turnsBetween = (db: Db, personId: string, from: number, to: number): TurnOfDay[] =>
  rows<TurnOfDay>(
    db,
    `SELECT l.contact_id AS contactId, v.queue_id AS queueId, v.channel, l.accepted_at AS "from", l.ended_at AS "to",
        l.outcome, l.handle_seconds AS handleSeconds
      FROM legs l JOIN visits v ON v.id = l.visit_id
      WHERE l.accepted_at >= ?2 AND l.accepted_at < ?4 AND +l.person_id = ?1 AND coalesce(l.ended_at, ?4) > ?3
      ORDER BY l.accepted_at, l.id`,
    personId,
    from - LONGEST_MS,
    from,
    to,
  );

/** An offer that somebody missed or declined. */
export type NotTaken = {
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly at: number;
  readonly madeAt: number;
  readonly how: 'missed' | 'declined';
};
export const notTakenBetween = (db: Db, personId: string, from: number, to: number): NotTaken[] =>
  rows<NotTaken>(
    db,
    `SELECT v.contact_id AS contactId, v.queue_id AS queueId, v.channel, o.ended_at AS at, o.made_at AS madeAt,
        o.ended_how AS how
      FROM offers o JOIN visits v ON v.id = o.visit_id
      WHERE o.person_id = ? AND o.made_at >= ? AND o.made_at < ? AND o.ended_how IN ('missed', 'declined') AND o.ended_at IS NOT NULL
      ORDER BY o.made_at, o.id`,
    personId,
    from,
    to,
  );
