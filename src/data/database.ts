import Database from 'better-sqlite3';
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export type Db = Database.Database;
export type Param = string | number | null | Buffer;

/** The one kind of trouble at the door of the database that a person must read. */
export class DatabaseRefused extends Error {}

/**
 * Opens (or makes) the workspace's database in a folder: WAL, foreign keys on, migrations run.
 * `synchronous` FULL keeps acknowledged changes through loss of power, not only through `kill -9`; OFF is for filling a
 * database in bulk, with a large cache (400 MB at most) and nothing kept through loss of power.
 * Throws DatabaseRefused when another server holds the folder or the database is newer than this code.
 */
export function openDatabase(
  folder: string,
  migrations: string,
  options: { synchronous?: 'FULL' | 'OFF' } = {},
): { db: Db; close: () => void } {
  mkdirSync(folder, { recursive: true });
  const lock = takeLock(join(folder, 'lane.lock'), folder);
  const db = new Database(join(folder, 'lane.db'));
  db.pragma('journal_mode = WAL');
  db.pragma(`synchronous = ${options.synchronous ?? 'FULL'}`);
  if (options.synchronous === 'OFF') db.pragma('cache_size = -400000');
  db.pragma('foreign_keys = ON');
  try {
    migrate(db, migrations);
  } catch (error) {
    db.close();
    lock.close();
    throw error;
  }
  return {
    db,
    close: () => {
      db.close();
      lock.close();
    },
  };
}

/** The operating system lets go of this lock when the process ends, however it ends. */
function takeLock(file: string, folder: string): Db {
  const lock = new Database(file, { timeout: 0 });
  try {
    lock.pragma('locking_mode = EXCLUSIVE');
    lock.exec('BEGIN EXCLUSIVE');
  } catch {
    lock.close();
    throw new DatabaseRefused(
      `Another server is already running on the data in ${folder}. Stop it first, or set another folder with LANE_DATA.`,
    );
  }
  return lock;
}

/** Runs every numbered .sql file that the database has not had yet, each in a transaction of its own. */
export function migrate(db: Db, folder: string): void {
  const files = readdirSync(folder)
    .filter((f) => /^\d{3}-.+\.sql$/.test(f))
    .sort();
  const newest = Number(files.at(-1)?.slice(0, 3) ?? 0);
  const present = Number(db.pragma('user_version', { simple: true }));
  if (present > newest) {
    throw new DatabaseRefused(
      `This database is at step ${present}, but this version of Usher Lane only knows steps up to ` +
        `${newest}. Start the newer version, or restore an older backup.`,
    );
  }
  for (const file of files) {
    const number = Number(file.slice(0, 3));
    if (number <= present) continue;
    db.transaction(() => {
      db.exec(readFileSync(join(folder, file), 'utf8'));
      db.pragma(`user_version = ${number}`);
    })();
  }
}

type Prepared = { readonly statement: Database.Statement; readonly bind: (params: readonly Param[]) => unknown[] };
const prepared = new WeakMap<Db, Map<string, Prepared>>();

/** better-sqlite3 takes numbered parameters (`?1`) as names, and plain ones in order. */
const inOrder = (params: readonly Param[]): unknown[] => [...params];
const byNumber = (params: readonly Param[]): unknown[] => [
  Object.fromEntries(params.map((param, i) => [String(i + 1), param])),
];

function prepare(db: Db, sql: string): Prepared {
  let all = prepared.get(db);
  if (!all) prepared.set(db, (all = new Map()));
  let found = all.get(sql);
  if (!found) all.set(sql, (found = { statement: db.prepare(sql), bind: sql.includes('?1') ? byNumber : inOrder }));
  return found;
}

/** Rows of a query; each statement is prepared once per database. The row type says what the SQL selects. */
export function rows<Row>(db: Db, sql: string, ...params: Param[]): Row[] {
  const { statement, bind } = prepare(db, sql);
  return statement.all(...bind(params)) as Row[];
}
export function row<Row>(db: Db, sql: string, ...params: Param[]): Row | undefined {
  const { statement, bind } = prepare(db, sql);
  return statement.get(...bind(params)) as Row | undefined;
}
/** Runs a statement; gives the number of rows changed. */
export function run(db: Db, sql: string, ...params: Param[]): number {
  const { statement, bind } = prepare(db, sql);
  return statement.run(...bind(params)).changes;
}
/** Runs an INSERT; gives the new row's number. */
export function insert(db: Db, sql: string, ...params: Param[]): number {
  const { statement, bind } = prepare(db, sql);
  return Number(statement.run(...bind(params)).lastInsertRowid);
}

/** A transaction that its caller ends: for filling a database in bulk, where one spans everything. */
export const begin = (db: Db): void => void db.exec('BEGIN');
export const commit = (db: Db): void => void db.exec('COMMIT');
