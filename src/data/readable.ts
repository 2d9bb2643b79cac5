import type { Db } from './database';

/** A row that could not be read: what kind of thing it is, its id and name where it has one, and why. */
export type Unreadable = {
  readonly kind: string;
  readonly id: string;
  readonly name: string;
  readonly reason: string;
};
type Row = { readonly id: string; readonly name?: string };

/** By database, what was last found to be unreadable. Kept in memory: it is found again whenever it is read. */
const found = new WeakMap<Db, Map<string, Unreadable>>();

/** Reads a row; one that cannot be read is noted and left out, so that it costs nothing but itself. */
export function readable<R extends Row, T>(db: Db, kind: string, row: R, read: (row: R) => T): T | undefined {
  const key = `${kind} ${row.id}`;
  const noted = found.get(db);
  try {
    const value = read(row);
    noted?.delete(key);
    return value;
  } catch (error) {
    const all = noted ?? new Map<string, Unreadable>();
    if (!noted) found.set(db, all);
    const reason = error instanceof Error ? error.message : 'it cannot be read';
    all.set(key, { kind, id: row.id, name: row.name ?? '', reason });
    return undefined;
  }
}

/** The rows that can be read. */
export function eachReadable<R extends Row, T>(db: Db, kind: string, rows: readonly R[], read: (row: R) => T): T[] {
  const values: T[] = [];
  for (const row of rows) {
    const value = readable(db, kind, row, read);
    if (value !== undefined) values.push(value);
  }
  return values;
}

/** What could not be read when it was last looked at. */
export const unreadable = (db: Db): readonly Unreadable[] => [...(found.get(db)?.values() ?? [])];

/** An object kept as JSON. Throws where it is something else. */
export function objectIn(text: string): object {
  const value: unknown = JSON.parse(text);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new Error('it is not an object');
  return value;
}
/** A list kept as JSON. Throws where it is something else. */
export function listIn(text: string): unknown[] {
  if (text === '[]') return [];
  const value: unknown = JSON.parse(text);
  if (!Array.isArray(value)) throw new Error('it is not a list');
  return value;
}
