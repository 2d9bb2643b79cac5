import type { ColumnName, KeptColumn, Numbers } from '../core/measures/columns';
import { type Part, ROLLED_PIECES, type RolledBy, type RolledPiece, type RollUp } from '../core/measures/factparts';
import { type Db, row, rows, run } from './database';
import { listIn } from './readable';

/** The version of what the columns hold: those of another are made again. */
const SHAPE = 10;

/** A day that is kept: [fromAt, toAt), the place in the log at which it was made, and whose contacts may still change it. */
export type KeptDay = {
  readonly fromAt: number;
  readonly toAt: number;
  readonly seq: number;
  readonly openContacts: readonly number[];
  /** Whether the log had come far enough beyond it to know who came back. */
  readonly settled: boolean;
};

/** From this long after a day it is known who of it came back: a week, and a day for what was still open. */
export const SETTLED_MS = 8 * 86_400_000;

/** Days kept that begin in [from, to), in order. */
export const keptDays = (db: Db, from: number, to: number): KeptDay[] =>
  rows<Omit<KeptDay, 'openContacts' | 'settled'> & { openContacts: string; settled: number }>(
    db,
    `SELECT from_at AS fromAt, to_at AS toAt, seq, open_contacts AS openContacts, settled FROM fact_days
      WHERE from_at >= ? AND from_at < ? AND shape = ${SHAPE} ORDER BY from_at`,
    from,
    to,
  ).map((day) => ({ ...day, openContacts: listIn(day.openContacts) as number[], settled: day.settled === 1 }));

/**
 * Whether a kept day still says what the tables say: nothing has happened since in any contact that was open then. One
 * that has been packed since has come to its end meanwhile.
 */
export const stillHolds = (db: Db, { seq, openContacts }: KeptDay): boolean =>
  openContacts.every(
    (no) =>
      row(
        db,
        `SELECT 1 FROM events WHERE contact = ?1 AND seq > ?2
          UNION ALL SELECT 1 FROM packed_contacts WHERE no = ?1 LIMIT 1`,
        no,
        seq,
      ) === undefined,
  );

type Kind = 'u8' | 'u16' | 'u32' | 'i32';
const kindOf = (data: Numbers): Kind =>
  data instanceof Uint8Array ? 'u8' : data instanceof Uint16Array ? 'u16' : data instanceof Uint32Array ? 'u32' : 'i32';
const BYTES = { u8: 1, u16: 2, u32: 4, i32: 4 } as const;
const ARRAYS = { u8: Uint8Array, u16: Uint16Array, u32: Uint32Array, i32: Int32Array } as const;

/** One column of a kept day; undefined when the day is gone meanwhile. */
export function keptColumn(db: Db, day: number, part: Part, name: ColumnName): KeptColumn | undefined {
  const found = row<{ kind: Kind; entries: string | null; data: Buffer }>(
    db,
    'SELECT kind, entries, data FROM fact_columns WHERE day = ? AND part = ? AND name = ?',
    day,
    part,
    name,
  );
  if (!found) return undefined;
  const { kind, data } = found;
  // Numbers of several bytes are read where they lie, which must be at a multiple of their width.
  const bytes = data.byteOffset % BYTES[kind] === 0 ? data : Uint8Array.from(data);
  return {
    name,
    data: new ARRAYS[kind](bytes.buffer as ArrayBuffer, bytes.byteOffset, bytes.byteLength / BYTES[kind]),
    entries: found.entries === null ? null : (JSON.parse(found.entries) as string[][]),
  };
}

/** What is counted of a kept day by one key; undefined when the day is gone meanwhile. */
export function keptRollUp<K extends RolledPiece>(db: Db, day: number, key: RolledBy, piece: K): RollUp[K] | undefined {
  const found = row<{ counted: string }>(
    db,
    'SELECT counted FROM fact_rollups WHERE day = ? AND key = ? AND piece = ?',
    day,
    key,
    piece,
  );
  return found && (JSON.parse(found.counted) as RollUp[K]);
}

/** The shape of a day whose columns are not all there yet: nobody reads it. */
const COMING = 0;

/** Begins a day anew; its columns and roll-ups follow by `keepColumn` and `keepRollUp`, and `dayKept` says that all are there. */
export function keepDay(db: Db, { fromAt, toAt, seq, openContacts, settled }: KeptDay): void {
  run(db, 'DELETE FROM fact_days WHERE from_at < ? AND to_at > ?', toAt, fromAt);
  run(
    db,
    'INSERT INTO fact_days (from_at, to_at, shape, seq, open_contacts, settled) VALUES (?, ?, ?, ?, ?, ?)',
    fromAt,
    toAt,
    COMING,
    seq,
    JSON.stringify(openContacts),
    settled ? 1 : 0,
  );
}
/** A day that is forgotten meanwhile takes no more columns. */
export function keepColumn(db: Db, day: number, part: Part, { name, data, entries }: KeptColumn): void {
  run(
    db,
    `INSERT INTO fact_columns (day, part, name, kind, entries, data)
      SELECT from_at, ?, ?, ?, ?, ? FROM fact_days WHERE from_at = ?`,
    part,
    name,
    kindOf(data),
    entries === null ? null : JSON.stringify(entries),
    Buffer.from(data.buffer, data.byteOffset, data.byteLength),
    day,
  );
}
export function keepRollUp(db: Db, day: number, key: RolledBy, counted: RollUp): void {
  for (const piece of ROLLED_PIECES)
    run(
      db,
      'INSERT INTO fact_rollups (day, key, piece, counted) SELECT from_at, ?, ?, ? FROM fact_days WHERE from_at = ?',
      key,
      piece,
      JSON.stringify(counted[piece]),
      day,
    );
}
export const dayKept = (db: Db, day: number): void =>
  void run(db, 'UPDATE fact_days SET shape = ? WHERE from_at = ?', SHAPE, day);

const drops = new WeakMap<Db, number>();
/** How often days have been forgotten on this connection. */
export const dropsOf = (db: Db): number => drops.get(db) ?? 0;

/** Forgets the days kept that hold an instant of [from, to): something in them has changed. */
export function dropDays(db: Db, from: number, to: number): void {
  drops.set(db, dropsOf(db) + 1);
  run(db, 'DELETE FROM fact_days WHERE from_at < ? AND to_at > ?', to, from);
}
