import { type Db, row, run } from './database';

export const readPasswordHash = (db: Db, personId: string): string | null =>
  row<{ password: string | null }>(db, 'SELECT password FROM people WHERE id = ?', personId)?.password ?? null;

export const writePasswordHash = (db: Db, personId: string, hash: string): void => {
  run(db, 'UPDATE people SET password = ? WHERE id = ?', hash, personId);
};

/**
 * Sessions are kept by the hash of their token, so that reading the database does not sign anybody in. Real time, UTC
 * ms.
 */
export const writeSession = (db: Db, tokenHash: string, personId: string, realAt: number, until: number): void => {
  run(db, 'DELETE FROM sessions WHERE until < ?', realAt);
  run(
    db,
    'INSERT INTO sessions (token_hash, person_id, real_at, until) VALUES (?, ?, ?, ?)',
    tokenHash,
    personId,
    realAt,
    until,
  );
};

export const sessionPerson = (db: Db, tokenHash: string, realAt: number): string | null =>
  row<{ id: string }>(db, 'SELECT person_id AS id FROM sessions WHERE token_hash = ? AND until > ?', tokenHash, realAt)
    ?.id ?? null;

export const endSession = (db: Db, tokenHash: string): void => {
  run(db, 'DELETE FROM sessions WHERE token_hash = ?', tokenHash);
};

export const endSessionsOf = (db: Db, personId: string): number =>
  run(db, 'DELETE FROM sessions WHERE person_id = ?', personId);

/** Keeps a link by which somebody may choose another password; one they had before no longer works. */
export function writePasswordLink(db: Db, tokenHash: string, personId: string, until: number): void {
  run(db, 'DELETE FROM password_links WHERE person_id = ?', personId);
  run(db, 'INSERT INTO password_links (token_hash, person_id, until) VALUES (?, ?, ?)', tokenHash, personId, until);
}

/** Whom a link is for, when it still works at an instant (real ms). */
export const personOfPasswordLink = (db: Db, tokenHash: string, realAt: number): string | null =>
  row<{ personId: string }>(
    db,
    'SELECT person_id AS personId FROM password_links WHERE token_hash = ? AND until > ?',
    tokenHash,
    realAt,
  )?.personId ?? null;

export const endPasswordLinks = (db: Db, personId: string): void => {
  run(db, 'DELETE FROM password_links WHERE person_id = ?', personId);
};
