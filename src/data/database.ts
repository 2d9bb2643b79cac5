import type Database from 'better-sqlite3';
import { inWords, withTrouble } from './storage';

export type Db = Database.Database;
export type Param = string | number | null | Buffer;

/** `order` says which parameter stands at each place, where the SQL numbers them. */
type Prepared = { readonly statement: Database.Statement; readonly order: readonly number[] | null };
const prepared = new WeakMap<Db, Map<string, Prepared>>();

/** better-sqlite3 takes numbered parameters (`?1`) as names, which are slow to look up: they are put in order instead. */
function prepareAnew(db: Db, sql: string): Prepared {
  if (!sql.includes('?1')) return { statement: db.prepare(sql), order: null };
  const order: number[] = [];
  const plain = sql.replace(/\?(\d+)/g, (_, number: string) => {
    order.push(Number(number) - 1);
    return '?';
  });
  return { statement: db.prepare(plain), order };
}

function prepare(db: Db, sql: string): Prepared {
  let all = prepared.get(db);
  if (!all) prepared.set(db, (all = new Map()));
  let found = all.get(sql);
  if (!found) all.set(sql, (found = prepareAnew(db, sql)));
  return found;
}

const bound = (order: Prepared['order'], params: readonly Param[]): readonly (Param | undefined)[] =>
  order === null ? params : order.map((i) => params[i]);

// A contact's life is some eighty statements: none of them makes a function of its own. Each is prepared once.

/** Rows of a query. The row type says what the SQL selects. */
export function rows<Row>(db: Db, sql: string, ...params: Param[]): Row[] {
  try {
    const { statement, order } = prepare(db, sql);
    return statement.all(...bound(order, params)) as Row[];
  } catch (error) {
    throw inWords(error);
  }
}
export function row<Row>(db: Db, sql: string, ...params: Param[]): Row | undefined {
  try {
    const { statement, order } = prepare(db, sql);
    return statement.get(...bound(order, params)) as Row | undefined;
  } catch (error) {
    throw inWords(error);
  }
}
function changed(db: Db, sql: string, params: readonly Param[]): Database.RunResult {
  try {
    const { statement, order } = prepare(db, sql);
    return statement.run(...bound(order, params));
  } catch (error) {
    throw inWords(error);
  }
}
/** Runs a statement; gives the number of rows changed. */
export const run = (db: Db, sql: string, ...params: Param[]): number => changed(db, sql, params).changes;
/** Runs an INSERT; gives the new row's number. */
export const insert = (db: Db, sql: string, ...params: Param[]): number =>
  Number(changed(db, sql, params).lastInsertRowid);

/** Runs work in a transaction, or in a savepoint of the one under way: all of it is kept, or none. */
export const inTransaction = <T>(db: Db, work: () => T): T => withTrouble(() => db.transaction(work)());

/**
 * What `work` commits does not wait for the disk: loss of power may take it back, in order, until something is committed
 * after it that does wait. For steps that go on from where they were found.
 */
export function unhurried<T>(db: Db, work: () => T): T {
  const usual = Number(db.pragma('synchronous', { simple: true }));
  if (usual > 1) db.pragma('synchronous = NORMAL');
  try {
    return work();
  } finally {
    if (usual > 1) db.pragma(`synchronous = ${usual}`);
  }
}
