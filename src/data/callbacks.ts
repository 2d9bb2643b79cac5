import type { Callback } from '../core/contact/contact';
import { rowsOf, rowsWritten } from './contactrows';
import { type Db, row, rows, run } from './database';

const CALLBACK = `SELECT id, contact_id AS contactId, queue_id AS queueId, number, placed_at AS placedAt, asked_at AS askedAt,
      from_at AS fromAt, until_at AS untilAt, expires_at AS expiresAt, attempts, next_at AS nextAt, state, call_id
      AS callId, reached_at AS reachedAt, ended_at AS endedAt, outcome, needs, priority, most FROM callbacks`;

type CallbackRow = Omit<Callback, 'needs'> & { readonly needs: string };
const callbackFrom = ({ needs, ...c }: CallbackRow): Callback => ({
  ...c,
  needs: JSON.parse(needs) as Callback['needs'],
});
const callbacks = (db: Db, sql: string, ...given: readonly (string | number)[]): Callback[] =>
  rows<CallbackRow>(db, sql, ...given).map(callbackFrom);

export const readCallback = (db: Db, id: string): Callback | undefined =>
  callbacks(db, `${CALLBACK} WHERE id = ?`, id)[0];

export const callbackContact = (db: Db, id: string): string | null =>
  row<{ c: string }>(db, 'SELECT contact_id AS c FROM callbacks WHERE id = ?', id)?.c ?? null;

const CALLBACKS_OF = `${CALLBACK} WHERE contact_id = ? ORDER BY asked_at DESC`;
/** The last one that was promised to a contact. */
export const callbackOf = (db: Db, contactId: string): Callback | undefined =>
  rowsOf(db, 'callbacks', contactId, (): readonly Callback[] => callbacks(db, CALLBACKS_OF, contactId))[0];

export const readCallbacks = (db: Db, since: number): Callback[] =>
  callbacks(
    db,
    `${CALLBACK} WHERE ended_at IS NULL OR ended_at >= ? ORDER BY ended_at IS NOT NULL, coalesce(next_at, from_at), id`,
    since,
  );

/** Promises asked for in [from, to), floor ms, in that order. */
export const callbacksAsked = (db: Db, from: number, to: number): Callback[] =>
  callbacks(db, `${CALLBACK} WHERE asked_at >= ? AND asked_at < ? ORDER BY asked_at, id`, from, to);

export const writeCallback = (db: Db, c: Callback): void => {
  run(
    db,
    `INSERT INTO callbacks (id, contact_id, queue_id, number, placed_at, asked_at, from_at, until_at,
        expires_at, attempts, next_at, state, call_id, reached_at, ended_at, outcome, needs, priority, most) VALUES (?1, ?2,
        ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16, ?17, ?18, ?19)
      ON CONFLICT (id) DO UPDATE SET queue_id = ?3, number = ?4, from_at = ?7, until_at = ?8,
        expires_at = ?9, attempts = ?10, next_at = ?11, state = ?12, call_id = ?13, reached_at = ?14,
        ended_at = ?15, outcome = ?16`,
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
    JSON.stringify(c.needs),
    c.priority,
    c.most,
  );
  rowsWritten(db, 'callbacks', c.contactId);
};
