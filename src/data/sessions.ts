import { type Db, row, rows, run } from './database';

export const readPasswordHash = (db: Db, personId: string): string | null =>
  row<{ password: string | null }>(db, 'SELECT password FROM people WHERE id = ?', personId)?.password ?? null;

export const writePasswordHash = (db: Db, personId: string, hash: string): void => {
  run(db, 'UPDATE people SET password = ? WHERE id = ?', hash, personId);
};

/** One sign-in that lasts. Real time, UTC ms; `device` and `network` say where it was begun, for whoever looks it over. */
export type Session = {
  readonly id: string;
  readonly beganAt: number;
  readonly seenAt: number;
  readonly device: string;
  readonly network: string;
};

/** A session lasts until an instant, and only while it was last used within so many ms. */
export type Lasts = { readonly realAt: number; readonly idleMs: number };

/** Keeps a session by the hash of its token, so that reading the database does not sign anybody in. */
export const writeSession = (
  db: Db,
  tokenHash: string,
  personId: string,
  until: number,
  { id, beganAt, device, network }: Omit<Session, 'seenAt'>,
): void => {
  run(
    db,
    `INSERT INTO sessions (token_hash, person_id, real_at, until, id, seen_at, device, network)
      VALUES (?1, ?2, ?3, ?4, ?5, ?3, ?6, ?7)`,
    tokenHash,
    personId,
    beganAt,
    until,
    id,
    device,
    network,
  );
};

/** Sessions that have run out or were not used for long. */
export const dropOldSessions = (db: Db, { realAt, idleMs }: Lasts): void => {
  run(db, 'DELETE FROM sessions WHERE until <= ? OR seen_at <= ?', realAt, realAt - idleMs);
};

export const sessionOf = (
  db: Db,
  tokenHash: string,
  { realAt, idleMs }: Lasts,
): { readonly id: string; readonly personId: string; readonly seenAt: number } | undefined =>
  row(
    db,
    `SELECT id, person_id AS personId, seen_at AS seenAt FROM sessions
      WHERE token_hash = ? AND until > ? AND seen_at > ?`,
    tokenHash,
    realAt,
    realAt - idleMs,
  );

export const markSeen = (db: Db, tokenHash: string, realAt: number): void => {
  run(db, 'UPDATE sessions SET seen_at = ? WHERE token_hash = ?', realAt, tokenHash);
};

/** Somebody's sessions, the last used first. */
export const sessionsOf = (db: Db, personId: string, { realAt, idleMs }: Lasts): Session[] =>
  rows(
    db,
    `SELECT id, real_at AS beganAt, seen_at AS seenAt, device, network FROM sessions
      WHERE person_id = ? AND until > ? AND seen_at > ? ORDER BY seen_at DESC, id`,
    personId,
    realAt,
    realAt - idleMs,
  );

export const endSession = (db: Db, tokenHash: string): void => {
  run(db, 'DELETE FROM sessions WHERE token_hash = ?', tokenHash);
};

/** Ends one of somebody's; gives how many that were. */
export const endSessionOf = (db: Db, personId: string, id: string): number =>
  run(db, 'DELETE FROM sessions WHERE person_id = ? AND id = ?', personId, id);

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
