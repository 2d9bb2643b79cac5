import type { Channel } from '../core/channels';
import type { Line } from '../core/contact/contact';
import type { Need } from '../core/routing/needs';
import { type Db, row, rows } from './database';
import { ownerOf, rowsOf } from './contactrows';

export type Leg = {
  readonly id: string;
  readonly contactId: string;
  readonly visitId: string;
  readonly personId: string;
  readonly acceptedAt: number;
  readonly talkEndedAt: number | null;
  readonly endedAt: number | null;
  readonly passedOn: number;
  readonly firstReplyAt: number | null;
  readonly outcome: string | null;
  readonly handleSeconds: number | null;
  readonly groupId: string | null;
  /** Of a call: how its person's end is, since when (null: from the beginning), and how long it was held before that, ms. */
  readonly line: Line;
  readonly lineSince: number | null;
  readonly heldMs: number;
};

const LEG = `SELECT id, contact_id AS contactId, visit_id AS visitId, person_id AS personId, accepted_at AS acceptedAt,
      talk_ended_at AS talkEndedAt, ended_at AS endedAt, passed_on AS passedOn, first_reply_at AS firstReplyAt,
      outcome, handle_seconds AS handleSeconds, group_id AS groupId, line, line_since AS lineSince, held_ms AS heldMs FROM legs`;

export const openLegs = (db: Db): Leg[] => rows<Leg>(db, `${LEG} WHERE ended_at IS NULL ORDER BY accepted_at, id`);

export const openLegsOf = (db: Db, personId: string): Leg[] =>
  rows<Leg>(db, `${LEG} WHERE person_id = ? AND ended_at IS NULL ORDER BY accepted_at, id`, personId);

const LEGS_OF = `${LEG} WHERE contact_id = ? ORDER BY accepted_at, id`;
export const legsOf = (db: Db, contactId: string): readonly Leg[] =>
  rowsOf(db, 'legs', contactId, () => rows<Leg>(db, LEGS_OF, contactId));

const LEG_BY_ID = `${LEG} WHERE id = ?`;
export function readLeg(db: Db, id: string): Leg | undefined {
  const owner = ownerOf(db, id);
  return owner === undefined ? row<Leg>(db, LEG_BY_ID, id) : legsOf(db, owner).find((leg) => leg.id === id);
}

/** What a person finished since an instant (floor ms), newest first. */
export const legsSince = (
  db: Db,
  personId: string,
  from: number,
  most: number,
): { contactId: string; channel: Channel; customer: string; endedAt: number; outcome: string | null }[] =>
  rows(
    db,
    `SELECT l.contact_id AS contactId, c.channel, coalesce(u.name, u.address) AS customer,
        l.ended_at AS endedAt, l.outcome FROM legs l JOIN contacts c ON c.id = l.contact_id
        JOIN customers u ON u.id = c.customer_id
      WHERE l.person_id = ? AND l.ended_at >= ? ORDER BY l.ended_at DESC LIMIT ?`,
    personId,
    from,
    most,
  );

/** How many contacts a person finished since an instant, floor ms. */
export const handledSince = (db: Db, personId: string, from: number): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM legs WHERE person_id = ? AND ended_at >= ?', personId, from)?.n ??
  0;

/** Turns that ended in [from, to): when they began, how long they were worked on, and what they needed. */
export type Worked = {
  readonly acceptedAt: number;
  readonly handleSeconds: number;
  readonly channel: Channel;
  readonly needs: readonly Need[];
};
export const workedBetween = (db: Db, from: number, to: number): Worked[] =>
  rows<Omit<Worked, 'needs'> & { needs: string }>(
    db,
    `SELECT l.accepted_at AS acceptedAt, coalesce(l.handle_seconds, 0) AS handleSeconds, v.channel, v.needs
    FROM legs l JOIN visits v ON v.id = l.visit_id WHERE l.ended_at >= ? AND l.ended_at < ?`,
    from,
    to,
  ).map((worked) => ({ ...worked, needs: JSON.parse(worked.needs) as Need[] }));
