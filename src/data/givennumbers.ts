import { type Db, row, run } from './database';

/**
 * A number that a customer gave in a contact: the digest of the last code sent to it, how many were and when the last was
 * (real ms), and how often that one was tried.
 */
export type GivenNumber = {
  readonly codeHash: string | null;
  readonly sent: number;
  readonly sentAt: number;
  readonly tries: number;
  readonly proven: boolean;
};

export function givenNumber(db: Db, contactId: string, number: string): GivenNumber | undefined {
  const found = row<Omit<GivenNumber, 'proven'> & { proven: number }>(
    db,
    `SELECT code_hash AS codeHash, sent, sent_at AS sentAt, tries, proven FROM given_numbers
      WHERE contact_id = ? AND number = ?`,
    contactId,
    number,
  );
  return found && { ...found, proven: found.proven === 1 };
}

export const writeGivenNumber = (db: Db, contactId: string, number: string, given: GivenNumber): void => {
  run(
    db,
    `INSERT INTO given_numbers (contact_id, number, code_hash, sent_at, tries, proven, sent) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)
      ON CONFLICT DO UPDATE SET code_hash = ?3, sent_at = ?4, tries = ?5, proven = ?6, sent = ?7`,
    contactId,
    number,
    given.codeHash,
    given.sentAt,
    given.tries,
    given.proven ? 1 : 0,
    given.sent,
  );
};

/** Codes sent to a number since an instant, in whatever contacts; those of one contact count while its last does. */
export const codesSentTo = (db: Db, number: string, since: number): number =>
  row<{ n: number }>(
    db,
    'SELECT coalesce(sum(sent), 0) AS n FROM given_numbers WHERE number = ? AND sent_at > ?',
    number,
    since,
  )?.n ?? 0;
