import { insert, row, rows, run, type Db } from './database';
import { historyText, historyValue } from './kept';

/**
 * Who changed what: `before` and `after` are the thing as plain data, null where it did not exist. `batch` ties what
 * one press changed.
 */
export type HistoryEntry = {
  readonly id: number;
  readonly realAt: number;
  readonly personId: string;
  readonly kind: string;
  readonly thingId: string;
  readonly label: string;
  readonly batch: string | null;
  readonly before: unknown;
  readonly after: unknown;
  readonly undoneBy: number | null;
};
type HistoryRow = Omit<HistoryEntry, 'before' | 'after'> & { before: string | null; after: string | null };
const COLUMNS =
  'id, real_at AS realAt, person_id AS personId, kind, thing_id AS thingId, label, batch, before, after, undone_by AS undoneBy';
const opened = (e: HistoryRow): HistoryEntry => ({
  ...e,
  before: historyValue(e.kind, e.before),
  after: historyValue(e.kind, e.after),
});

export const writeHistory = (db: Db, e: Omit<HistoryEntry, 'id' | 'undoneBy'>): number =>
  insert(
    db,
    'INSERT INTO history (real_at, person_id, kind, thing_id, label, batch, before, after) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
    e.realAt,
    e.personId,
    e.kind,
    e.thingId,
    e.label,
    e.batch,
    historyText(e.kind, e.before),
    historyText(e.kind, e.after),
  );
/** The newest entry of a thing, under whichever of several kinds. */
export const newestEntryOf = (db: Db, kinds: readonly string[], thingId: string): HistoryEntry | undefined => {
  const found = row<HistoryRow>(
    db,
    `SELECT ${COLUMNS} FROM history WHERE kind IN (SELECT value FROM json_each(?)) AND thing_id = ?
      ORDER BY id DESC LIMIT 1`,
    JSON.stringify(kinds),
    thingId,
  );
  return found && opened(found);
};
/** A change that goes on: what it came to, and until when. */
export const extendHistory = (
  db: Db,
  { id, kind }: Pick<HistoryEntry, 'id' | 'kind'>,
  realAt: number,
  label: string,
  after: unknown,
): void => {
  const text = historyText(kind, after);
  run(db, 'UPDATE history SET real_at = ?, label = ?, after = ? WHERE id = ?', realAt, label, text, id);
};
export const markUndone = (db: Db, id: number, by: number): void => {
  run(db, 'UPDATE history SET undone_by = ? WHERE id = ?', by, id);
};

export type HistoryFilter = {
  readonly kind?: string;
  readonly thingId?: string;
  readonly personId?: string;
  readonly text?: string;
  readonly from?: number;
  readonly to?: number;
  /** Ids between which it looks, both left out. */
  readonly before?: number;
  readonly after?: number;
};
/**
 * Changes, newest first; `text` is looked for in what the thing was called and in both versions; `before` is an
 * entry's id, for paging.
 */
export const searchHistory = (db: Db, f: HistoryFilter, most: number): HistoryEntry[] =>
  rows<HistoryRow>(
    db,
    `SELECT ${COLUMNS} FROM history WHERE (?1 IS NULL OR kind = ?1) AND (?2 IS NULL OR thing_id = ?2)
        AND (?3 IS NULL OR person_id = ?3) AND (?4 IS NULL OR real_at >= ?4) AND (?5 IS NULL
        OR real_at < ?5)
      AND (?6 IS NULL OR label LIKE ?6 ESCAPE '\\' OR before LIKE ?6 ESCAPE '\\'
        OR after LIKE ?6 ESCAPE '\\') AND id < coalesce(?7, 9e15) AND id > ?9 ORDER BY id DESC LIMIT ?8`,
    f.kind ?? null,
    f.thingId ?? null,
    f.personId ?? null,
    f.from ?? null,
    f.to ?? null,
    f.text ? `%${f.text.replace(/[\\%_]/g, '\\$&')}%` : null,
    f.before ?? null,
    most,
    f.after ?? 0,
  ).map(opened);
export const readEntry = (db: Db, id: number): HistoryEntry | undefined => {
  const found = row<HistoryRow>(db, `SELECT ${COLUMNS} FROM history WHERE id = ?`, id);
  return found && opened(found);
};
/** All changes of one press, newest first. */
export const readBatch = (db: Db, batch: string): HistoryEntry[] =>
  rows<HistoryRow>(db, `SELECT ${COLUMNS} FROM history WHERE batch = ? ORDER BY id DESC`, batch).map(opened);
/** The changes of one press, newest first, read as they are needed. */
export function* batchIds(db: Db, batch: string): Generator<number> {
  for (let before = Number.MAX_SAFE_INTEGER; ;) {
    const ids = rows<{ id: number }>(
      db,
      'SELECT id FROM history WHERE batch = ? AND id < ? ORDER BY id DESC LIMIT 500',
      batch,
      before,
    ).map((e) => e.id);
    yield* ids;
    before = ids.at(-1) ?? 0;
    if (ids.length < 500) return;
  }
}

/** The newest entry's id; 0 where there is none. */
export const lastEntry = (db: Db): number =>
  row<{ id: number }>(db, 'SELECT coalesce(max(id), 0) AS id FROM history')?.id ?? 0;

/** How many changes one press made. */
export const batchSize = (db: Db, batch: string): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM history WHERE batch = ?', batch)?.n ?? 0;
export const historyOf = (db: Db, kind: string, thingId: string): HistoryEntry[] =>
  searchHistory(db, { kind, thingId }, 200);
/** Kinds and people that occur, for the filter. */
export const historyKinds = (db: Db): string[] => distinct(db, 'kind');
export const historyPeople = (db: Db): string[] => distinct(db, 'person_id');
/** The different values of an indexed column, ascending: one look into the index each, however many rows there are. */
const distinct = (db: Db, column: 'kind' | 'person_id'): string[] =>
  rows<{ value: string }>(
    db,
    `WITH RECURSIVE each(value) AS (
       SELECT min(${column}) FROM history
       UNION ALL SELECT (SELECT min(${column}) FROM history WHERE ${column} > each.value) FROM each WHERE each.value IS NOT NULL
     ) SELECT value FROM each WHERE value IS NOT NULL`,
  ).map((r) => r.value);
