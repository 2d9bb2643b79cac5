import { row, rows, run, type Db } from './database';

/** Something that must happen later. `clock` says whether `dueAt` (UTC ms) is real time or the floor's. */
export type TimerKind =
  | 'offer-expires'
  | 'visit-due'
  | 'group-due'
  | 'person-due'
  | 'number-due'
  | 'dial-ends'
  | 'callback-due'
  | 'wrap-up-ends'
  | 'leg-rests'
  | 'person-changes'
  | 'bot-waits'
  | 'bot-slow'
  | 'outside-answers'
  | 'bot-goes-live';
export type Timer = {
  readonly seq: number;
  readonly clock: 'real' | 'floor';
  readonly dueAt: number;
  readonly kind: TimerKind;
  readonly thingId: string;
};

/** One timer per kind and thing; setting it again moves it. */
export const setTimer = (db: Db, kind: TimerKind, thingId: string, clock: Timer['clock'], dueAt: number): void => {
  run(
    db,
    `INSERT INTO timers (clock, due_at, kind, thing_id) VALUES (?1, ?2, ?3, ?4)
      ON CONFLICT (kind, thing_id) DO UPDATE SET clock = ?1, due_at = ?2`,
    clock,
    dueAt,
    kind,
    thingId,
  );
};
export const clearTimer = (db: Db, kind: TimerKind, thingId: string): void => {
  run(db, 'DELETE FROM timers WHERE kind = ? AND thing_id = ?', kind, thingId);
};

const COLUMNS = 'seq, clock, due_at AS dueAt, kind, thing_id AS thingId';
/** Timers that are due, oldest first. */
export const dueTimers = (db: Db, realNow: number, floorAt: number): Timer[] =>
  rows<Timer>(
    db,
    `SELECT ${COLUMNS} FROM timers WHERE (clock = 'real' AND due_at <= ?) OR (clock = 'floor' AND due_at <= ?) ORDER BY due_at, seq`,
    realNow,
    floorAt,
  );
export const nextTimer = (db: Db, clock: Timer['clock']): number | null =>
  row<{ dueAt: number }>(db, 'SELECT due_at AS dueAt FROM timers WHERE clock = ? ORDER BY due_at, seq LIMIT 1', clock)
    ?.dueAt ?? null;
/** The timers that the router itself asked for. */
export const floorTimers = (db: Db): Timer[] =>
  rows<Timer>(db, `SELECT ${COLUMNS} FROM timers WHERE kind IN ('visit-due', 'group-due', 'person-due', 'number-due')`);
