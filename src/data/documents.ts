import { row, rows, run, type Db } from './database';
import { keptIn, type KeptKind, keptText } from './kept';
import { eachReadable, readable } from './readable';

/** What every document has beside its own content; `revision` rises with each change. */
export type Head = { readonly id: string; readonly name: string; readonly place: number; readonly revision: number };
type Stored = Head & { readonly body: string };

const COLUMNS = 'id, name, place, body, revision';

/**
 * Small settings that are read and written whole, kept as JSON under their kind (see `kept.ts`). `T` is the content without its head.
 */
export function documents<T extends object>(kind: KeptKind) {
  const opened = ({ body, ...head }: Stored): T & Head => ({ ...(keptIn(kind, body) as T), ...head });
  const put = (db: Db, id: string, name: string, body: object, place: number | null): void => {
    run(
      db,
      `INSERT INTO documents (kind, id, name, place, body, revision)
        VALUES (?1, ?2, ?3, coalesce(?4, (SELECT max(place) + 1 FROM documents WHERE kind = ?1), 0), ?5, 1)
        ON CONFLICT (kind, id) DO UPDATE SET name = ?3, body = ?5, revision = revision + 1`,
      kind,
      id,
      name,
      place,
      keptText(kind, body),
    );
  };
  return {
    all: (db: Db): (T & Head)[] =>
      eachReadable(
        db,
        kind,
        rows<Stored>(db, `SELECT ${COLUMNS} FROM documents WHERE kind = ? ORDER BY place, name`, kind),
        opened,
      ),
    one: (db: Db, id: string): (T & Head) | undefined => {
      const found = row<Stored>(db, `SELECT ${COLUMNS} FROM documents WHERE kind = ? AND id = ?`, kind, id);
      return found && readable(db, kind, found, opened);
    },
    /** A new one stands last unless its place is given; a known one keeps its place. */
    write: (db: Db, id: string, name: string, body: T, place: number | null = null): void =>
      put(db, id, name, body, place),
    remove: (db: Db, id: string): void => {
      run(db, 'DELETE FROM documents WHERE kind = ? AND id = ?', kind, id);
    },
    /** Writes one as `valueOf` gave it and History kept it. */
    restore: (db: Db, id: string, value: unknown): void => {
      const { name, ...body } = value as { readonly name: string };
      put(db, id, name, body, null);
    },
  };
}

/** One as History keeps it: its name and content, without where it stands. */
export function valueOf<T extends Head>({ id: _id, place: _place, revision: _revision, ...value }: T) {
  return value;
}
