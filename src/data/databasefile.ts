import Database from 'better-sqlite3';
import {
  chmodSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Db } from './database';
import { troubleOf } from './storage';

/** Opens a workspace's database beside the server that has it, to read only. */
export function openReader(file: string): Db {
  const db = new Database(file, { readonly: true, fileMustExist: true });
  db.pragma('busy_timeout = 5000');
  return db;
}

/** The one kind of trouble at the door of the database that a person must read. */
export class DatabaseRefused extends Error {}

/** Files of a workspace's folder: the database, what goes with it, and the sign that it has had one. */
const DATABASE = 'lane.db';
const LOCK = 'lane.lock';
const BEGUN = 'lane.begun';
/** How far its log had come when it was last looked at; see `server/mark.ts`. */
const MARK = 'lane.mark';
/** From which the server's tokens are made; see `server/serverkey.ts`. */
const KEY = 'lane.key';
/** Only whoever runs this may read what customers wrote. */
const PRIVATE = 0o600;
/** Bytes that the write-ahead log keeps on disk after it was emptied. */
const JOURNAL_LIMIT = 64 * 1024 * 1024;
/** Pages after which a commit empties the log itself, when nobody else has: 80 MB. */
const LAST_RESORT_PAGES = 20_000;

/**
 * Opens (or makes) the workspace's database in a folder: WAL, foreign keys on, migrations run.
 * `synchronous` FULL keeps acknowledged changes through loss of power, not only through `kill -9`; OFF is for filling a
 * database in bulk, with a large cache (400 MB at most) and nothing kept through loss of power.
 * Throws DatabaseRefused when another server holds the folder, when the database is newer than this code, damaged, or
 * cannot be written, and when it is gone or empty where there has been one.
 */
export function openDatabase(
  folder: string,
  migrations: string,
  options: { synchronous?: 'FULL' | 'OFF' } = {},
): { db: Db; close: () => void } {
  let lock: Db | null = null;
  let db: Db | null = null;
  try {
    mkdirSync(folder, { recursive: true });
    lock = takeLock(folder);
    const file = join(folder, DATABASE);
    if (existsSync(join(folder, BEGUN)) && (!existsSync(file) || statSync(file).size === 0))
      throw new DatabaseRefused(
        `${file} is ${existsSync(file) ? 'empty' : 'gone'}, although this folder has had a workspace. Put the last good ` +
          `copy in its place. To begin anew all the same, use another folder.`,
      );
    closeSync(openSync(file, 'a', PRIVATE));
    for (const there of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(there)) chmodSync(there, PRIVATE);
    db = new Database(file);
    db.pragma('journal_mode = WAL');
    db.pragma(`journal_size_limit = ${JOURNAL_LIMIT}`);
    db.pragma(`wal_autocheckpoint = ${LAST_RESORT_PAGES}`);
    db.pragma(`synchronous = ${options.synchronous ?? 'FULL'}`);
    if (options.synchronous === 'OFF') db.pragma('cache_size = -400000');
    // What is erased leaves no bytes behind in the file.
    db.pragma('secure_delete = ON');
    db.pragma('foreign_keys = ON');
    migrate(db, migrations);
    writeFileSync(join(folder, BEGUN), '', { mode: PRIVATE });
  } catch (error) {
    db?.close();
    lock?.close();
    const trouble = troubleOf(error);
    throw trouble === null ? error : new DatabaseRefused(`${trouble} (${folder})`);
  }
  const opened = { db, lock };
  return {
    db,
    close: () => {
      opened.db.close();
      opened.lock.close();
    },
  };
}

/** The file of a folder's database. */
export const databaseFile = (folder: string): string => join(folder, DATABASE);
export const markFile = (folder: string): string => join(folder, MARK);
export const keyFile = (folder: string): string => join(folder, KEY);

/**
 * A connection of its own that empties the write-ahead log as far as nobody reads it; `cut` also cuts its file to nothing,
 * and gives whether it could. A busy one is left for later.
 */
export function openForCheckpoints(file: string): { checkpoint: () => void; cut: () => boolean; close: () => void } {
  const db = new Database(file, { timeout: 0, fileMustExist: true });
  // Its pages are on disk before the log begins anew, so that nothing acknowledged hangs on the cache.
  db.pragma('synchronous = FULL');
  return {
    checkpoint: () => {
      try {
        db.pragma('wal_checkpoint(PASSIVE)');
      } catch (error) {
        if (troubleOf(error) === null) throw error;
      }
    },
    // Right after a checkpoint little is left to be written, so that whoever writes meanwhile waits for no more than that.
    cut: () => {
      try {
        const [{ busy } = { busy: 1 }] = db.pragma('wal_checkpoint(TRUNCATE)') as { busy: number }[];
        return busy === 0;
      } catch (error) {
        if (troubleOf(error) === null) throw error;
        return false;
      }
    },
    close: () => db.close(),
  };
}

/** Moves a folder's database out of the way, into a folder within it. Throws DatabaseRefused while a server holds it. */
export function moveAside(folder: string, name: string): void {
  if (!existsSync(folder)) return;
  const lock = takeLock(folder);
  try {
    const aside = join(folder, name);
    mkdirSync(aside, { recursive: true });
    for (const file of [DATABASE, `${DATABASE}-wal`, `${DATABASE}-shm`, BEGUN, MARK, KEY])
      if (existsSync(join(folder, file))) renameSync(join(folder, file), join(aside, file));
  } finally {
    lock.close();
  }
}

/** The operating system lets go of this lock when the process ends, however it ends. */
function takeLock(folder: string): Db {
  const file = join(folder, LOCK);
  closeSync(openSync(file, 'a', PRIVATE));
  const lock = new Database(file, { timeout: 0 });
  try {
    lock.pragma('locking_mode = EXCLUSIVE');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if (!(error instanceof Error && 'code' in error && /^SQLITE_(BUSY|LOCKED)/.test(String(error.code)))) throw error;
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
    // A table is made anew beside the old one and takes its name: for that moment nothing may point at it.
    db.pragma('foreign_keys = OFF');
    try {
      db.transaction(() => {
        db.exec(readFileSync(join(folder, file), 'utf8'));
        const lost = db.pragma('foreign_key_check') as unknown[];
        if (lost.length > 0)
          throw new DatabaseRefused(
            `Step ${file} would leave ${lost.length} rows without what they belong to; nothing was changed.`,
          );
        db.pragma(`user_version = ${number}`);
      })();
    } finally {
      db.pragma('foreign_keys = ON');
    }
  }
}
