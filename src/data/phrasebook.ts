import type { Phrasebook } from '../core/phrases/book';
import { LEARNT_BEGINS } from '../core/phrases/packed';
import { type Db, row, rows, run } from './database';
import { keptIn, keptText } from './kept';

/** The phrasebook as it is now, with the number under which versions of bots pin it; 0 before there is one. */
export function readPhrasebook(db: Db): { readonly version: number; readonly book: Phrasebook } | null {
  const found = row<{ version: number; book: string }>(
    db,
    'SELECT version, book FROM phrasebook_versions ORDER BY version DESC LIMIT 1',
  );
  return found ? { version: found.version, book: keptIn('phrasebook', found.book) as Phrasebook } : null;
}

/** The phrasebook of a version that is still kept. */
export function bookOf(db: Db, version: number): Phrasebook | null {
  const found = row<{ book: string }>(db, 'SELECT book FROM phrasebook_versions WHERE version = ?', version);
  return found ? (keptIn('phrasebook', found.book) as Phrasebook) : null;
}

export const learntOf = (db: Db, version: number): string | null =>
  row<{ learnt: string }>(db, 'SELECT learnt FROM phrasebook_versions WHERE version = ?', version)?.learnt ?? null;

const IN_USE = `SELECT max(version) FROM phrasebook_versions
          UNION SELECT json_extract(v.pinned, '$.phrasebook') FROM bots b
            JOIN bot_versions v ON v.bot_id = b.id AND v.version = b.live_version`;

/** Stands where a book is not learnt yet. */
export const NOT_LEARNT = '{}';

/** The newest version and those that live bots go by. */
export const versionsInUse = (db: Db): number[] =>
  rows<{ version: number }>(db, `SELECT version FROM phrasebook_versions WHERE version IN (${IN_USE})`).map(
    (r) => r.version,
  );

/** The newest version and those that live bots go by, as far as they are not learnt as this version of the product does. */
export const versionsToLearn = (db: Db): number[] =>
  rows<{ version: number }>(
    db,
    `SELECT version FROM phrasebook_versions
      WHERE version IN (${IN_USE})
        AND substr(learnt, 1, length(?1)) <> ?1
      ORDER BY version DESC`,
    // Megabytes are not read as JSON for this: what it is of stands first.
    LEARNT_BEGINS,
  ).map((r) => r.version);

/** Keeps what was learnt of a version that is there. */
export const keepLearntOf = (db: Db, version: number, learnt: string): void =>
  void run(db, 'UPDATE phrasebook_versions SET learnt = ? WHERE version = ?', learnt, version);

/** What was learnt from this very book, where it was a version that is still kept; null otherwise. */
export const learntFromBook = (db: Db, book: Phrasebook): string | null =>
  row<{ learnt: string }>(
    db,
    'SELECT learnt FROM phrasebook_versions WHERE book = ? ORDER BY version DESC LIMIT 1',
    keptText('phrasebook', book),
  )?.learnt ?? null;

export function writePhrasebook(db: Db, book: Phrasebook, learnt: string, realAt: number, personId: string): number {
  const version =
    (row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM phrasebook_versions')?.v ?? 0) + 1;
  run(
    db,
    'INSERT INTO phrasebook_versions (version, real_at, person_id, book, learnt) VALUES (?, ?, ?, ?, ?)',
    version,
    realAt,
    personId,
    keptText('phrasebook', book),
    learnt,
  );
  // What no version of a bot names any more is not kept for ever.
  run(
    db,
    `DELETE FROM phrasebook_versions WHERE version < ? - 20
        AND version NOT IN (SELECT coalesce(json_extract(pinned, '$.phrasebook'), 0)
        FROM bot_versions)`,
    version,
  );
  return version;
}

/** Words that no bot understood: how often they came, and the last contact and line. */
export type Unheard = {
  readonly id: number;
  readonly contactId: string;
  readonly lineId: string;
  readonly language: string;
  readonly text: string;
  readonly floorAt: number;
  readonly times: number;
};

const UNHEARD = `SELECT max(id) AS id, contact_id AS contactId, line_id AS lineId, language, text, floor_at AS floorAt,
      count(*) AS times FROM unheard GROUP BY language, text`;

/** The phrases that came most often first, the newer before the older. */
export const readUnheard = (db: Db, most: number): Unheard[] =>
  rows<Unheard>(db, `${UNHEARD} ORDER BY times DESC, id DESC LIMIT ?`, most);

/** What tells whether other phrases are there than before: the newest of them, and how many there are. */
export const newestUnheard = (db: Db): string =>
  row<{ of: string }>(db, "SELECT coalesce(max(id), 0) || ' ' || count(*) AS of FROM unheard")?.of ?? '';

export const unheardPhrase = (db: Db, id: number): Unheard | undefined =>
  row<Unheard>(db, `SELECT * FROM (${UNHEARD}) WHERE id = ?`, id);

export const unheardCount = (db: Db): number =>
  row<{ n: number }>(db, `SELECT count(*) AS n FROM (${UNHEARD})`)?.n ?? 0;

export const keepUnheard = (db: Db, u: Omit<Unheard, 'id' | 'times'>): void => {
  run(
    db,
    'INSERT INTO unheard (contact_id, line_id, language, text, floor_at) VALUES (?, ?, ?, ?, ?)',
    u.contactId,
    u.lineId,
    u.language,
    u.text,
    u.floorAt,
  );
};

/** Whose contacts had a phrase. */
export const contactsUnheard = (db: Db, phrase: Pick<Unheard, 'language' | 'text'>): string[] =>
  rows<{ id: string }>(
    db,
    'SELECT DISTINCT contact_id AS id FROM unheard WHERE language = ? AND text = ?',
    phrase.language,
    phrase.text,
  ).map((r) => r.id);

/** Drops a phrase, however often it came. */
export const dropUnheard = (db: Db, phrase: Pick<Unheard, 'language' | 'text'>): number =>
  run(db, 'DELETE FROM unheard WHERE language = ? AND text = ?', phrase.language, phrase.text);
