import { type Db, row, run } from './database';

/** What a conversation came to; `personId` is whoever mended it, null where it was made of its words by itself. */
export type Summary = { readonly words: string; readonly personId: string | null; readonly at: number };

export const summaryOf = (db: Db, contactId: string): Summary | null =>
  row<Summary>(
    db,
    'SELECT words, person_id AS personId, floor_at AS at FROM contact_summaries WHERE contact_id = ?',
    contactId,
  ) ?? null;

/** Keeps a summary; one that was made by itself never takes the place of another. */
export const writeSummary = (db: Db, contactId: string, { words, personId, at }: Summary): void =>
  void run(
    db,
    `INSERT INTO contact_summaries (contact_id, words, person_id, floor_at) VALUES (?1, ?2, ?3, ?4)
      ON CONFLICT (contact_id) DO UPDATE SET words = ?2, person_id = ?3, floor_at = ?4 WHERE ?3 IS NOT NULL`,
    contactId,
    words,
    personId,
    at,
  );
