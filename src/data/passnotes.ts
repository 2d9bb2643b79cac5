import { type Db, row, run } from './database';

/** What somebody wrote for whoever takes a contact next; `at` is floor ms. */
export type PassNote = { readonly personId: string; readonly words: string; readonly at: number };

export const writePassNote = (db: Db, contactId: string, note: PassNote): void =>
  void run(
    db,
    'INSERT INTO pass_notes (contact_id, person_id, words, floor_at) VALUES (?, ?, ?, ?)',
    contactId,
    note.personId,
    note.words,
    note.at,
  );

/** The last note for whoever took a contact at an instant; null where nobody wrote one. */
export const passNoteFor = (db: Db, contactId: string, takenAt: number): PassNote | null =>
  row<PassNote>(
    db,
    `SELECT person_id AS personId, words, floor_at AS at FROM pass_notes WHERE contact_id = ? AND floor_at <= ?
      ORDER BY id DESC LIMIT 1`,
    contactId,
    takenAt,
  ) ?? null;
