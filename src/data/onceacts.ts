import { type Db, row, run } from './database';

/** How long a key is kept, real ms. */
const KEPT_MS = 86_400_000;

/** An act with this key that was carried out before: the digest of what was asked, and what was answered. */
export const earlierAct = (db: Db, key: Buffer): { readonly request: Buffer; readonly answer: string } | undefined =>
  row(db, 'SELECT request, answer FROM done_acts WHERE key = ?', key);

/** Keeps an act by digests of its key and request. `answer` is JSON without words or tokens. */
export const writeAct = (db: Db, key: Buffer, realAt: number, request: Buffer, answer: string): void => {
  run(db, 'DELETE FROM done_acts WHERE real_at < ?', realAt - KEPT_MS);
  run(db, 'INSERT INTO done_acts (key, real_at, request, answer) VALUES (?, ?, ?, ?)', key, realAt, request, answer);
};
