import { type Db, rows, run } from './database';

/** A reply that somebody keeps for themselves. */
export type OwnReply = { readonly id: string; readonly title: string; readonly text: string };

/** In the order of their titles. */
export const ownRepliesOf = (db: Db, personId: string): OwnReply[] =>
  rows<OwnReply>(db, 'SELECT id, title, text FROM own_replies WHERE person_id = ? ORDER BY title, id', personId);

export const writeOwnReply = (db: Db, personId: string, { id, title, text }: OwnReply, floorAt: number): void =>
  void run(
    db,
    `INSERT INTO own_replies (id, person_id, title, text, floor_at) VALUES (?1, ?2, ?3, ?4, ?5)
      ON CONFLICT (id) DO UPDATE SET title = ?3, text = ?4, floor_at = ?5 WHERE person_id = ?2`,
    id,
    personId,
    title,
    text,
    floorAt,
  );
export const removeOwnReply = (db: Db, personId: string, id: string): void =>
  void run(db, 'DELETE FROM own_replies WHERE id = ? AND person_id = ?', id, personId);
