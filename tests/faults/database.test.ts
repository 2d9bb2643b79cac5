import Database from 'better-sqlite3';
import {
  chmodSync,
  copyFileSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, inject, it } from 'vitest';
import { makeRoom } from '../../demo/fill';
import { LaneError } from '../../src/core/errors';
import { type Db, row, rows } from '../../src/data/database';
import { moveAside, openDatabase, openForCheckpoints } from '../../src/data/databasefile';
import { recentTrouble, troubleOf } from '../../src/data/storage';
import { keepMark } from '../../src/server/mark';
import { openWorkspace } from '../../src/server/workspace';
import { makeWorld, MIGRATIONS } from '../helpers/world';
import { HERE } from '../helpers/reached';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** What happens to the database itself: each has its sentence, and nothing is begun anew in silence. */
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lane-faults-'));
  copyFileSync(inject('template'), join(folder, 'lane.db'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const people = (db: Db) => rows(db, 'SELECT id FROM people').length;
/** Opens and closes once, as an earlier day did. */
const earlier = () => openDatabase(folder, MIGRATIONS).close();
const SILENT = pino({ level: 'silent' });

describe('opening a folder', () => {
  it('a database that is gone or emptied is told, never begun anew', () => {
    earlier();
    truncateSync(at('lane.db'), 0);
    expect(() => openDatabase(folder, MIGRATIONS)).toThrow(
      /lane\.db is empty, although this folder has had a workspace/,
    );
    rmSync(at('lane.db'));
    expect(() => openDatabase(folder, MIGRATIONS)).toThrow(/lane\.db is gone/);
    expect(existsSync(at('lane.db'))).toBe(false);
    // Put back, it opens as it was.
    copyFileSync(inject('template'), at('lane.db'));
    const { db, close } = openDatabase(folder, MIGRATIONS);
    expect(people(db)).toBeGreaterThan(10);
    close();
  });
  it('what is no database, or a damaged one, is told', () => {
    writeFileSync(at('lane.db'), 'this is a letter, not a database'.repeat(300));
    expect(() => openDatabase(folder, MIGRATIONS)).toThrow(/The database is damaged/);
    // Nothing of it was changed.
    expect(readFileSync(at('lane.db'), 'utf8')).toMatch(/^this is a letter/);
  });
  it('is for its owner alone', () => {
    chmodSync(at('lane.db'), 0o644);
    const { db, close } = openDatabase(folder, MIGRATIONS);
    db.exec('CREATE TABLE more (x)');
    for (const name of ['lane.db', 'lane.db-wal', 'lane.db-shm', 'lane.lock', 'lane.begun'])
      expect([name, (statSync(at(name)).mode & 0o777).toString(8)]).toEqual([name, '600']);
    close();
  });
  it('a lock held by another is told, and let go of when opening fails', () => {
    const first = openDatabase(folder, MIGRATIONS);
    expect(() => openDatabase(folder, MIGRATIONS)).toThrow('Another server is already running');
    first.close();
    rmSync(at('lane.db'));
    expect(() => openDatabase(folder, MIGRATIONS)).toThrow('is gone');
    copyFileSync(inject('template'), at('lane.db'));
    openDatabase(folder, MIGRATIONS).close();
  });
});

describe('while it runs', () => {
  it('a full disk: nothing is kept, it is said, and all goes on when there is room', () => {
    const w = makeWorld();
    const lead = w.actor('Noor Amsel');
    const pages = Number(w.db.pragma('page_count', { simple: true }));
    w.db.pragma(`max_page_count = ${pages}`);
    const before = rows(w.db, 'SELECT * FROM outcome_codes').length;
    let told: unknown = null;
    for (let i = 0; told === null && i < 400; i++)
      try {
        w.services.channel.start(STAND_IN, { door: 'door_web', from: `guest-${i}`, name: 'x'.repeat(80) }, null);
      } catch (error) {
        told = error;
      }
    expect(told).toBeInstanceOf(LaneError);
    expect((told as LaneError).code).toBe('not-kept');
    expect((told as LaneError).message).toMatch(/^The disk is full/);
    expect(w.services.trouble()).toBe((told as LaneError).message);
    expect(recentTrouble(60_000)).not.toBeNull();
    // Reading goes on, and so does everything once there is room.
    expect(w.services.outcomes.view(lead)).toBeDefined();
    w.db.pragma('max_page_count = 1000000');
    const c = w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-late' }, null);
    expect(w.services.channel.read(c.contact, c.token, 0).state).toBe('with-bot');
    expect(rows(w.db, 'SELECT * FROM outcome_codes')).toHaveLength(before);
    expect(w.db.pragma('integrity_check', { simple: true })).toBe('ok');
    w.faults.length = 0;
    w.close();
  });
  it('another program that holds it, and one that may not be written', () => {
    const w = makeWorld();
    w.db.pragma('busy_timeout = 0');
    const other = new Database(join(w.folder, 'lane.db'), { timeout: 0 });
    other.exec('BEGIN IMMEDIATE');
    expect(() => w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-1' }, null)).toThrow(
      /Another program holds the database/,
    );
    other.exec('ROLLBACK');
    other.close();
    w.db.pragma('query_only = ON');
    expect(() => w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-1' }, null)).toThrow(
      /may not be written to/,
    );
    w.db.pragma('query_only = OFF');
    w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-1' }, null);
    w.close();
  });
  it('only what the database says is a fault of it', () => {
    expect(troubleOf(new Error('no'))).toBeNull();
    expect(troubleOf(Object.assign(new Error('unique'), { code: 'SQLITE_CONSTRAINT_UNIQUE' }))).toBeNull();
    expect(troubleOf(Object.assign(new Error('io'), { code: 'SQLITE_IOERR_READ' }))).toMatch(/^The disk did not/);
  });
});

describe('what was kept and is not there any more', () => {
  const emit = (db: Db, n: number) =>
    db.exec(
      `INSERT INTO events (type, v, floor_at, body) SELECT 27, 2, 0, '[]' FROM json_each('[${Array.from({ length: n }, () => 0).join()}]')`,
    );
  it('a cut write-ahead log, or an older copy in its place, is noticed and said', () => {
    const first = openDatabase(folder, MIGRATIONS);
    emit(first.db, 20);
    const mark = keepMark(folder, first.db, () => undefined);
    expect(mark.found).toBeNull();
    emit(first.db, 20);
    mark.stop();
    first.close();
    const whole = openDatabase(folder, MIGRATIONS);
    const again = keepMark(folder, whole.db, () => undefined);
    expect(again.found).toBeNull();
    again.stop();
    whole.close();
    copyFileSync(inject('template'), at('lane.db'));
    const cut = openDatabase(folder, MIGRATIONS);
    const { found, stop } = keepMark(folder, cut.db, () => undefined);
    expect(found).toMatch(/ends at event \d+, but had come to \d+: its write-ahead log was cut/);
    stop();
    // Said once: from here on this is what there is.
    const last = keepMark(folder, cut.db, () => undefined);
    expect(last.found).toBeNull();
    // A database that is gone under it is no reason to stop.
    cut.close();
    last.stop();
  });
  it('the workspace opens all the same, and says so on the console', () => {
    earlier();
    writeFileSync(at('lane.mark'), '999999');
    const said: unknown[] = [];
    const log = pino({ level: 'error' }, { write: (line: string) => void said.push(line) });
    openWorkspace(folder, { root: process.cwd(), guest: null, reached: HERE, log }).close();
    expect(said.join('')).toContain('had come to 999999');
  });
});

describe('the write-ahead log', () => {
  it('is emptied by another connection, and stays small on disk', () => {
    const { db, close } = openDatabase(folder, MIGRATIONS);
    const other = openForCheckpoints(at('lane.db'));
    db.exec('CREATE TABLE filler (x)');
    const fill = () => db.exec("INSERT INTO filler SELECT hex(randomblob(500)) FROM json_each('[1,2,3,4,5,6,7,8,9]')");
    for (let i = 0; i < 300; i++) {
      fill();
      if (i % 20 === 0) other.checkpoint();
    }
    expect(statSync(at('lane.db-wal')).size).toBeLessThan(2_000_000);
    other.close();
    close();
  });
});

describe('making a demo', () => {
  it('leaves alone what it did not make, and a folder that is in use', () => {
    earlier();
    expect(() => makeRoom(folder)).toThrow('holds a workspace that the demo did not make');
    const { db, close } = openDatabase(folder, MIGRATIONS);
    expect(people(db)).toBeGreaterThan(10);
    close();
    writeFileSync(at('filled'), '');
    const held = openDatabase(folder, MIGRATIONS);
    expect(() => makeRoom(folder)).toThrow('Another server is already running');
    held.close();
    expect(existsSync(at('lane.db'))).toBe(true);
  });
  it('moves an earlier demo aside, whole, and removes only what was half made', () => {
    earlier();
    writeFileSync(at('filled'), '');
    makeRoom(folder);
    expect([existsSync(at('lane.db')), existsSync(at('aside/lane.db')), existsSync(at('filled'))]).toEqual([
      false,
      true,
      false,
    ]);
    // Begun and not finished: worth nothing.
    earlier();
    makeRoom(folder);
    expect([existsSync(at('lane.db')), existsSync(at('aside'))]).toEqual([false, false]);
    moveAside(join(folder, 'nowhere'), 'aside');
  });
});

it('a workspace that is opened and closed again and again loses nothing', () => {
  let events = 0;
  for (let i = 0; i < 3; i++) {
    const workspace = openWorkspace(folder, { root: process.cwd(), guest: null, reached: HERE, log: SILENT });
    workspace.services.channel.start(STAND_IN, { door: 'door_web', from: `guest-${i}` }, null);
    const now = row<{ n: number }>(workspace.services.host.db, 'SELECT count(*) AS n FROM events')?.n ?? 0;
    expect(now).toBeGreaterThan(events);
    events = now;
    workspace.close();
  }
});
