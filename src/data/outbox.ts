import type { OutsideAnswer, OutsideRequest } from '../core/bots/connectors';
import type { Request } from '../core/bots/conversation';
import { type Db, insert, row, rows, run } from './database';
import type { OutsideMessage } from './outside';

/** A mail, a text or words spoken by telephone. */
export type Posted = Pick<OutsideMessage, 'medium' | 'address' | 'subject' | 'body'>;
/** What a contact's bot asks outside. */
export type Asked = {
  readonly connectorId: string;
  readonly ask: Request['ask'];
  readonly request: OutsideRequest;
};

/** `after-contact` waits for the contact's end; `sent` may have arrived; `answered` waits for its answer's instant. */
type State = 'after-contact' | 'ready' | 'sent' | 'answered';
export type OutboxItem = {
  readonly id: number;
  readonly contactId: string | null;
  readonly number: number | null;
  readonly state: State;
  readonly realAt: number;
  readonly attempts: number;
  readonly reason: string | null;
} & (
  | { readonly kind: 'post'; readonly body: Posted }
  | { readonly kind: 'ask'; readonly body: Asked; readonly answer: OutsideAnswer | null }
);
type Stored = Omit<OutboxItem, 'body' | 'answer'> & { readonly body: string; readonly answer: string | null };

const ITEM = `SELECT id, kind, contact_id AS contactId, number, state, body, answer, real_at AS realAt, attempts, reason FROM outbox`;
/** What was asked by earlier code had no headers of its own, and signed in by a bearer token alone. */
const askFrom = (kept: Asked): Asked => ({
  ...kept,
  request: { ...{ headers: [], signIn: { by: 'bearer' } }, ...kept.request },
});
const itemFrom = (stored: Stored): OutboxItem =>
  ({
    ...stored,
    body: stored.kind === 'ask' ? askFrom(JSON.parse(stored.body) as Asked) : (JSON.parse(stored.body) as unknown),
    answer: stored.answer === null ? null : (JSON.parse(stored.answer) as unknown),
  }) as OutboxItem;

export const addPost = (db: Db, posted: Posted, realAt: number, afterContact: string | null = null): number =>
  insert(
    db,
    'INSERT INTO outbox (kind, contact_id, state, body, real_at) VALUES (?, ?, ?, ?, ?)',
    'post',
    afterContact,
    afterContact === null ? 'ready' : 'after-contact',
    JSON.stringify(posted),
    realAt,
  );
export const addAsk = (db: Db, contactId: string, number: number, asked: Asked, realAt: number): number =>
  insert(
    db,
    'INSERT INTO outbox (kind, contact_id, number, state, body, real_at) VALUES (?, ?, ?, ?, ?, ?)',
    'ask',
    contactId,
    number,
    'ready',
    JSON.stringify(asked),
    realAt,
  );

const ITEM_BY_ID = `${ITEM} WHERE id = ?`;
export const outboxItem = (db: Db, id: number): OutboxItem | undefined => {
  const found = row<Stored>(db, ITEM_BY_ID, id);
  return found && itemFrom(found);
};
/** What is to leave and has not, oldest first; asks whose answer is there are not among them. */
export const unsentItems = (db: Db): number[] =>
  rows<{ id: number }>(db, "SELECT id FROM outbox WHERE state IN ('ready', 'sent') ORDER BY id").map((r) => r.id);
/** Posts that have failed so far. */
export const failedItems = (db: Db): OutboxItem[] =>
  rows<Stored>(db, `${ITEM} WHERE attempts > 0 AND kind = 'post' ORDER BY id`).map(itemFrom);
/** What a contact's bot is asking outside; null for nothing. */
export const askOf = (db: Db, contactId: string): OutboxItem | null => {
  const found = row<Stored>(db, `${ITEM} WHERE contact_id = ? AND kind = 'ask' ORDER BY id DESC LIMIT 1`, contactId);
  return found ? itemFrom(found) : null;
};
/** Lets go what waited for a contact's end; gives its ids. */
export function releasePosts(db: Db, contactId: string): number[] {
  const found = rows<{ id: number }>(
    db,
    "SELECT id FROM outbox WHERE contact_id = ? AND state = 'after-contact' ORDER BY id",
    contactId,
  );
  if (found.length > 0)
    run(db, "UPDATE outbox SET state = 'ready' WHERE contact_id = ? AND state = 'after-contact'", contactId);
  return found.map((r) => r.id);
}

/** A look-up under way when the server stopped is to be asked again. */
export const markReady = (db: Db, id: number): void =>
  void run(db, "UPDATE outbox SET state = 'ready' WHERE id = ?", id);
export const markSent = (db: Db, id: number): void => void run(db, "UPDATE outbox SET state = 'sent' WHERE id = ?", id);
export const keepAnswer = (db: Db, id: number, answer: OutsideAnswer): void =>
  void run(db, "UPDATE outbox SET state = 'answered', answer = ? WHERE id = ?", JSON.stringify(answer), id);
/** Notes that it failed; gives how often it has. */
export function noteFailed(db: Db, id: number, reason: string): number {
  run(db, 'UPDATE outbox SET attempts = attempts + 1, reason = ? WHERE id = ?', reason, id);
  return row<{ n: number }>(db, 'SELECT attempts AS n FROM outbox WHERE id = ?', id)?.n ?? 0;
}
export const dropItem = (db: Db, id: number): void => void run(db, 'DELETE FROM outbox WHERE id = ?', id);
/** A contact's bot no longer waits for an answer. */
export const dropAsks = (db: Db, contactId: string): void =>
  void run(db, "DELETE FROM outbox WHERE contact_id = ? AND kind = 'ask'", contactId);
