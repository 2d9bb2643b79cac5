import { type Db, row, rows, run } from './database';
import { membersOf } from './customerties';
import { dropDays } from './factdays';
import { firstTakenOut } from './journeys';
import { forgetContact } from './contactrows';

/**
 * A file that is brought in: `coming` while its text arrives, `there` when it has, `keeping` while its lines are kept one
 * by one, `kept`, and `leaving` while what was kept is taken out again.
 */
export type PastState = 'coming' | 'there' | 'keeping' | 'kept' | 'leaving';
export type PastImport = {
  readonly id: string;
  readonly name: string;
  readonly personId: string;
  readonly realAt: number;
  /** CSV rather than NDJSON. */
  readonly isTable: boolean;
  readonly state: PastState;
  /** How many of its lines have been gone through: all of those before a chunk, and so many within it. */
  readonly done: number;
  readonly place: number;
  readonly within: number;
  readonly contacts: number;
  readonly states: number;
  readonly skipped: number;
  /** The first and the last instant of what was brought in so far, floor ms. */
  readonly firstAt: number | null;
  readonly lastAt: number | null;
  readonly fault: string | null;
};
type Stored = Omit<PastImport, 'isTable'> & { readonly isTable: number };
const IMPORT = `SELECT id, name, person_id AS personId, real_at AS realAt, is_table AS isTable, state, done, place, within, contacts, states,
  skipped, first_at AS firstAt, last_at AS lastAt, fault FROM past_imports`;
const asImport = (i: Stored): PastImport => ({ ...i, isTable: i.isTable === 1 });

export const pastImports = (db: Db): PastImport[] =>
  rows<Stored>(db, `${IMPORT} ORDER BY real_at DESC, id`).map(asImport);
export const pastImport = (db: Db, id: string): PastImport | undefined => {
  const found = row<Stored>(db, `${IMPORT} WHERE id = ?`, id);
  return found && asImport(found);
};
export const beginPast = (db: Db, i: Pick<PastImport, 'id' | 'name' | 'personId' | 'realAt' | 'isTable'>): void =>
  void run(
    db,
    "INSERT INTO past_imports (id, name, person_id, real_at, is_table, state) VALUES (?, ?, ?, ?, ?, 'coming')",
    i.id,
    i.name,
    i.personId,
    i.realAt,
    i.isTable ? 1 : 0,
  );
export const setPastState = (db: Db, id: string, state: PastState): void =>
  void run(db, 'UPDATE past_imports SET state = ? WHERE id = ?', state, id);
export const notePastFault = (db: Db, id: string, fault: string | null): void =>
  void run(db, 'UPDATE past_imports SET fault = ? WHERE id = ?', fault, id);
/** How far a file has come. */
export type PastCounts = Pick<
  PastImport,
  'done' | 'place' | 'within' | 'contacts' | 'states' | 'skipped' | 'firstAt' | 'lastAt'
>;
export const notePast = (db: Db, id: string, c: PastCounts): void =>
  void run(
    db,
    `UPDATE past_imports SET done = ?, place = ?, within = ?, contacts = ?, states = ?, skipped = ?, first_at = ?, last_at = ? WHERE id = ?`,
    c.done,
    c.place,
    c.within,
    c.contacts,
    c.states,
    c.skipped,
    c.firstAt,
    c.lastAt,
    id,
  );
export const dropPast = (db: Db, id: string): void => void run(db, 'DELETE FROM past_imports WHERE id = ?', id);

export type PastChunk = { readonly place: number; readonly line: number; readonly text: string };
/** One that came before is there once. */
export const keepChunk = (db: Db, importId: string, { place, line, text }: PastChunk): void =>
  void run(
    db,
    'INSERT INTO past_chunks (import_id, place, line, text) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING',
    importId,
    place,
    line,
    text,
  );
export const pastChunk = (db: Db, importId: string, place: number): PastChunk | undefined =>
  row<PastChunk>(db, 'SELECT place, line, text FROM past_chunks WHERE import_id = ? AND place = ?', importId, place);
export const chunksOf = (db: Db, importId: string): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM past_chunks WHERE import_id = ?', importId)?.n ?? 0;
/** Drops the first chunk that is left; gives whether there was one. */
export const dropFirstChunk = (db: Db, importId: string): boolean =>
  run(
    db,
    `DELETE FROM past_chunks WHERE import_id = ?1
      AND place = (SELECT min(place) FROM past_chunks WHERE import_id = ?1)`,
    importId,
  ) > 0;

/** Whether a contact of this name was brought in before, or is our own. */
export const isHereAlready = (db: Db, was: string): boolean =>
  row(db, 'SELECT 1 FROM past_contacts WHERE was = ?1 UNION ALL SELECT 1 FROM contacts WHERE id = ?1 LIMIT 1', was) !==
  undefined;
export const notePastContact = (db: Db, importId: string, no: number, was: string): void =>
  void run(db, 'INSERT INTO past_contacts (no, import_id, was) VALUES (?, ?, ?)', no, importId, was);
/** Whether a contact was brought in: how it was decided then is not known. */
export const wasBroughtIn = (db: Db, no: number): boolean =>
  row(db, 'SELECT 1 FROM past_contacts WHERE no = ?', no) !== undefined;
export const pastContactsOf = (db: Db, importId: string, most: number): number[] =>
  rows<{ no: number }>(db, 'SELECT no FROM past_contacts WHERE import_id = ? LIMIT ?', importId, most).map((c) => c.no);

/** Where contacts touch days: everything that happened in them, and whoever came back within the week before. */
const WEEK_MS = 8 * 86_400_000;
export const pastTouches = (db: Db, from: number, to: number): void => dropDays(db, from - WEEK_MS, to + 1);

/** Takes a contact that was brought in out again, with all that hangs on it, and its customer where they had no other. */
export function takeOut(db: Db, no: number): void {
  const found = row<{ id: string; customerId: string; startedAt: number; over: number }>(
    db,
    `SELECT id, customer_id AS customerId, started_at AS startedAt,
        max(coalesce(ended_at, started_at), coalesce((SELECT max(ended_at) FROM legs WHERE contact_id = c.id), 0)) AS over
      FROM contacts c WHERE no = ?`,
    no,
  );
  if (!found) return;
  const { id, customerId } = found;
  run(db, 'DELETE FROM coach_notes WHERE contact_id = ?', id);
  run(db, 'DELETE FROM coach_ratings WHERE contact_id = ?', id);
  run(db, 'DELETE FROM coach_draws WHERE contact_id = ?', id);
  run(db, 'DELETE FROM packed_contacts WHERE no = ?', no);
  run(db, 'DELETE FROM past_contacts WHERE no = ?', no);
  run(db, 'DELETE FROM legs WHERE contact_id = ?', id);
  run(db, 'DELETE FROM visits WHERE contact_id = ?', id);
  run(db, 'DELETE FROM contacts WHERE no = ?', no);
  firstTakenOut(db, no, membersOf(db, customerId));
  run(
    db,
    'DELETE FROM customers WHERE id = ?1 AND NOT EXISTS (SELECT 1 FROM contacts WHERE customer_id = ?1)',
    customerId,
  );
  forgetContact(db, id);
  pastTouches(db, found.startedAt, found.over);
}

export type PastName = { readonly kind: string; readonly id: string; readonly name: string };
/** Things known by name alone, each once. */
export const pastNames = (db: Db): PastName[] =>
  rows<PastName>(db, 'SELECT DISTINCT kind, id, name FROM past_names ORDER BY kind, name');
export const keepPastName = (db: Db, importId: string, { kind, id, name }: PastName): void =>
  void run(
    db,
    'INSERT INTO past_names (import_id, kind, id, name) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING',
    importId,
    kind,
    id,
    name,
  );
export const dropPastNames = (db: Db, importId: string): void =>
  void run(db, 'DELETE FROM past_names WHERE import_id = ?', importId);

/** Which states of people have been brought in: another name whenever these are others. */
export const pastStatesNow = (db: Db): string =>
  row<{ now: string }>(db, "SELECT coalesce(group_concat(id || ' ' || states), '') AS now FROM past_imports")?.now ??
  '';

/** How somebody was from an instant on; gives whether nothing else was said of that instant. */
export const keepPastState = (
  db: Db,
  importId: string,
  s: { readonly personId: string; readonly at: number; readonly duty: string; readonly reason: string | null },
): boolean =>
  run(
    db,
    'INSERT INTO past_states (person_id, at, import_id, duty, reason) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
    s.personId,
    s.at,
    importId,
    s.duty,
    s.reason,
  ) > 0;
/** Takes some of a file's states out; gives how many there were. */
export const dropPastStates = (db: Db, importId: string, most: number): number =>
  run(
    db,
    `DELETE FROM past_states WHERE (person_id, at) IN
      (SELECT person_id, at FROM past_states WHERE import_id = ? LIMIT ?)`,
    importId,
    most,
  );
