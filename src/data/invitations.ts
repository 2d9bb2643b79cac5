import { row, rows, run, type Db } from './database';

/** One invitation by mail; `ended` is null while its link works. Real ms. */
export type Invitation = {
  readonly id: string;
  readonly personId: string;
  readonly sentAt: number;
  readonly until: number;
  readonly endedAt: number | null;
  readonly endedHow: 'accepted' | 'withdrawn' | 'replaced' | null;
};
const COLUMNS = 'id, person_id AS personId, sent_at AS sentAt, until, ended_at AS endedAt, ended_how AS endedHow';

export const writeInvitation = (
  db: Db,
  i: Pick<Invitation, 'id' | 'personId' | 'sentAt' | 'until'>,
  tokenHash: string,
): void => {
  run(
    db,
    'INSERT INTO invitations (id, person_id, token_hash, sent_at, until) VALUES (?, ?, ?, ?, ?)',
    i.id,
    i.personId,
    tokenHash,
    i.sentAt,
    i.until,
  );
};
/** The newest invitation of each person. */
export const lastInvitations = (db: Db): Map<string, Invitation> =>
  new Map(
    rows<Invitation>(db, `SELECT ${COLUMNS} FROM invitations ORDER BY sent_at, rowid`).map((i) => [i.personId, i]),
  );
export const lastInvitation = (db: Db, personId: string): Invitation | undefined =>
  row<Invitation>(
    db,
    `SELECT ${COLUMNS} FROM invitations WHERE person_id = ? ORDER BY sent_at DESC, rowid DESC LIMIT 1`,
    personId,
  );
export const invitationByToken = (db: Db, tokenHash: string): Invitation | undefined =>
  row<Invitation>(db, `SELECT ${COLUMNS} FROM invitations WHERE token_hash = ?`, tokenHash);
export const endInvitations = (
  db: Db,
  personId: string,
  how: NonNullable<Invitation['endedHow']>,
  realAt: number,
): number =>
  run(
    db,
    'UPDATE invitations SET ended_at = ?, ended_how = ? WHERE person_id = ? AND ended_at IS NULL',
    realAt,
    how,
    personId,
  );
/** People who can sign in because they set a password. */
export const withPassword = (db: Db): Set<string> =>
  new Set(rows<{ id: string }>(db, 'SELECT id FROM people WHERE password IS NOT NULL').map((p) => p.id));
