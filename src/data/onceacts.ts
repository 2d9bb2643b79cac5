import { type Db, row, run } from './database';

/** An act with this key that was carried out before: what was asked and what was answered. */
export const earlierAct = (db: Db, key: string): { request: string; answer: string } | undefined =>
  row(db, 'SELECT request, answer FROM acts WHERE key = ?', key);

export const writeAct = (db: Db, key: string, realAt: number, request: string, answer: string): void => {
  run(db, 'DELETE FROM acts WHERE real_at < ?', realAt - 86_400_000);
  run(db, 'INSERT INTO acts (key, real_at, request, answer) VALUES (?, ?, ?, ?)', key, realAt, request, answer);
};
