import { type Db, rows, run } from './database';

/** Counts one use of a stock reply. */
export const countReplyUse = (db: Db, replyId: string, floorAt: number): void =>
  void run(
    db,
    `INSERT INTO stock_uses (reply_id, times, floor_at) VALUES (?1, 1, ?2)
      ON CONFLICT (reply_id) DO UPDATE SET times = times + 1, floor_at = ?2`,
    replyId,
    floorAt,
  );

/** How often each stock reply was sent, by its id. */
export const replyUses = (db: Db): ReadonlyMap<string, number> =>
  new Map(
    rows<{ id: string; times: number }>(db, 'SELECT reply_id AS id, times FROM stock_uses').map((r) => [r.id, r.times]),
  );
