import type { CoachingRules, Drawn, Marked } from '../core/people/coaching';
import { FIRST_RULES } from '../core/people/coaching';
import { type Db, row, rows, run } from './database';
import { documents } from './documents';

const RULES = documents<CoachingRules>('coaching');
const ONE = 'coaching';

/** What is rated, and how contacts are drawn for it; `revision` 0 until it was changed for the first time. */
export const readCoachingRules = (db: Db): CoachingRules & { readonly revision: number } =>
  keptCoachingRules(db) ?? { ...FIRST_RULES, revision: 0 };
/** As they were changed; undefined as long as nobody has. */
export function keptCoachingRules(db: Db): (CoachingRules & { readonly revision: number }) | undefined {
  const kept = RULES.one(db, ONE);
  if (!kept) return undefined;
  const { points, byChance, byRule, revision } = kept;
  return { points, byChance, byRule, revision };
}
export const dropCoachingRules = (db: Db): void => RULES.remove(db, ONE);
export const writeCoachingRules = (db: Db, rules: CoachingRules): void => RULES.write(db, ONE, 'Coaching', rules);

/** Instants are floor ms. A note is about a person, a contact, or a person in a contact. */
export type CoachNote = {
  readonly id: string;
  readonly personId: string | null;
  readonly contactId: string | null;
  readonly authorId: string;
  readonly at: number;
  readonly words: string;
  /** Whether the person reads it too. */ readonly shared: boolean;
  /** Whether it is to be talked about with them; and since when it has been. */
  readonly toTalk: boolean;
  readonly talkedAt: number | null;
};
type StoredNote = Omit<CoachNote, 'shared' | 'toTalk'> & { readonly shared: number; readonly toTalk: number };
const NOTE = `id, person_id AS personId, contact_id AS contactId, author_id AS authorId, at, words, shared, to_talk AS toTalk,
  talked_at AS talkedAt`;
const asNote = (n: StoredNote): CoachNote => ({ ...n, shared: n.shared === 1, toTalk: n.toTalk === 1 });

export function writeNote(db: Db, n: CoachNote): void {
  run(
    db,
    `INSERT INTO coach_notes (id, person_id, contact_id, author_id, at, words, shared, to_talk, talked_at)
      VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    n.id,
    n.personId,
    n.contactId,
    n.authorId,
    n.at,
    n.words,
    n.shared ? 1 : 0,
    n.toTalk ? 1 : 0,
    n.talkedAt,
  );
}
export const readNote = (db: Db, id: string): CoachNote | undefined => {
  const found = row<StoredNote>(db, `SELECT ${NOTE} FROM coach_notes WHERE id = ?`, id);
  return found && asNote(found);
};
export const dropNote = (db: Db, id: string): void => void run(db, 'DELETE FROM coach_notes WHERE id = ?', id);
export const noteTalked = (db: Db, id: string, at: number | null): void =>
  void run(db, 'UPDATE coach_notes SET talked_at = ? WHERE id = ?', at, id);

/** Latest first. */
export const notesOfContact = (db: Db, contactId: string): CoachNote[] =>
  rows<StoredNote>(db, `SELECT ${NOTE} FROM coach_notes WHERE contact_id = ? ORDER BY at DESC, id`, contactId).map(
    asNote,
  );
export const notesOfPerson = (db: Db, personId: string, most: number): CoachNote[] =>
  rows<StoredNote>(
    db,
    `SELECT ${NOTE} FROM coach_notes WHERE person_id = ? ORDER BY at DESC, id LIMIT ?`,
    personId,
    most,
  ).map(asNote);
/** How much there is to talk about with each person. */
export const talksOpen = (db: Db): Map<string, number> =>
  new Map(
    rows<{ personId: string; many: number }>(
      db,
      `SELECT person_id AS personId, count(*) AS many FROM coach_notes
        WHERE person_id IS NOT NULL AND to_talk = 1 AND talked_at IS NULL GROUP BY person_id`,
    ).map((one) => [one.personId, one.many]),
  );

export type CoachRating = {
  readonly id: string;
  readonly contactId: string;
  readonly personId: string;
  readonly authorId: string;
  readonly at: number;
  readonly marks: readonly Marked[];
  readonly words: string;
  readonly shared: boolean;
};
type StoredRating = Omit<CoachRating, 'marks' | 'shared'> & { readonly marks: string; readonly shared: number };
const RATING = 'id, contact_id AS contactId, person_id AS personId, author_id AS authorId, at, marks, words, shared';
const asRating = (r: StoredRating): CoachRating => ({
  ...r,
  marks: JSON.parse(r.marks) as Marked[],
  shared: r.shared === 1,
});

/** One by each author of a contact's turn: a second one takes the place of the first. */
export function writeRating(db: Db, r: CoachRating): void {
  run(
    db,
    `INSERT INTO coach_ratings (id, contact_id, person_id, author_id, at, marks, words, shared) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
      ON CONFLICT (contact_id, person_id, author_id) DO UPDATE SET at = excluded.at, marks = excluded.marks,
        words = excluded.words, shared = excluded.shared`,
    r.id,
    r.contactId,
    r.personId,
    r.authorId,
    r.at,
    JSON.stringify(r.marks),
    r.words,
    r.shared ? 1 : 0,
  );
}
export const readRating = (db: Db, id: string): CoachRating | undefined => {
  const found = row<StoredRating>(db, `SELECT ${RATING} FROM coach_ratings WHERE id = ?`, id);
  return found && asRating(found);
};
export const dropRating = (db: Db, id: string): void => void run(db, 'DELETE FROM coach_ratings WHERE id = ?', id);
export const ratingsOfContact = (db: Db, contactId: string): CoachRating[] =>
  rows<StoredRating>(
    db,
    `SELECT ${RATING} FROM coach_ratings WHERE contact_id = ? ORDER BY at DESC, id`,
    contactId,
  ).map(asRating);
/** Ratings of a person's conversations that were given in [from, to), latest first. */
export const ratingsOfPerson = (db: Db, personId: string, from: number, to: number): CoachRating[] =>
  rows<StoredRating>(
    db,
    `SELECT ${RATING} FROM coach_ratings WHERE person_id = ? AND at >= ? AND at < ? ORDER BY at DESC, id`,
    personId,
    from,
    to,
  ).map(asRating);

/** A contact drawn to be rated. `rated`: by anybody. */
export type CoachDraw = {
  readonly personId: string;
  readonly contactId: string;
  readonly no: number;
  readonly why: Drawn['why'];
  readonly startedAt: number;
  readonly channel: string;
  readonly rated: boolean;
};
const DRAW = `SELECT d.person_id AS personId, d.contact_id AS contactId, c.no, d.why, c.started_at AS startedAt, c.channel,
    EXISTS (SELECT 1 FROM coach_ratings r WHERE r.contact_id = d.contact_id AND r.person_id = d.person_id) AS rated
  FROM coach_draws d JOIN contacts c ON c.id = d.contact_id`;
type StoredDraw = Omit<CoachDraw, 'rated'> & { readonly rated: number };
const asDraw = (d: StoredDraw): CoachDraw => ({ ...d, rated: d.rated === 1 });
export const drawsOfMonth = (db: Db, month: string): CoachDraw[] =>
  rows<StoredDraw>(db, `${DRAW} WHERE d.month = ? ORDER BY d.person_id, c.started_at`, month).map(asDraw);
export const drawsFor = (db: Db, month: string, personId: string): CoachDraw[] =>
  rows<StoredDraw>(db, `${DRAW} WHERE d.month = ? AND d.person_id = ?`, month, personId).map(asDraw);
export const drawsOfContact = (db: Db, contactId: string): CoachDraw[] =>
  rows<StoredDraw>(db, `${DRAW} WHERE d.contact_id = ?`, contactId).map(asDraw);
/** One that is drawn already stays as it is. */
export const writeDraw = (db: Db, month: string, personId: string, no: number, why: Drawn['why']): void =>
  void run(
    db,
    `INSERT INTO coach_draws (month, person_id, contact_id, why) SELECT ?, ?, id, ? FROM contacts WHERE no = ?
      ON CONFLICT DO NOTHING`,
    month,
    personId,
    why,
    no,
  );
