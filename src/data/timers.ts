import { row, rows, run, type Db } from './database';

/** Something that must happen later. `clock` says whether `dueAt` (UTC ms) is real time or the floor's. */
export type TimerKind =
  | 'offer-expires'
  | 'visit-due'
  | 'group-due'
  | 'person-due'
  | 'number-due'
  | 'dial-answered'
  | 'dial-ends'
  | 'callback-due'
  | 'wrap-up-ends'
  | 'leg-rests'
  | 'person-changes'
  | 'bot-waits'
  | 'bot-slow'
  | 'outside-answers'
  | 'bot-goes-live'
  | 'post-due';
export type Timer = {
  readonly seq: number;
  readonly clock: 'real' | 'floor';
  readonly dueAt: number;
  readonly kind: TimerKind;
  readonly thingId: string;
  /** How often it has failed since it was set, and why last. */ readonly attempts: number;
  readonly reason: string | null;
};

/** One timer per kind and thing; setting it again moves it. */
export const setTimer = (db: Db, kind: TimerKind, thingId: string, clock: Timer['clock'], dueAt: number): void => {
  run(
    db,
    `INSERT INTO timers (clock, due_at, kind, thing_id) VALUES (?1, ?2, ?3, ?4)
      ON CONFLICT (kind, thing_id) DO UPDATE SET clock = ?1, due_at = ?2, attempts = 0, reason = NULL`,
    clock,
    dueAt,
    kind,
    thingId,
  );
};
export const clearTimer = (db: Db, kind: TimerKind, thingId: string): void => {
  run(db, 'DELETE FROM timers WHERE kind = ? AND thing_id = ?', kind, thingId);
};

const COLUMNS = 'seq, clock, due_at AS dueAt, kind, thing_id AS thingId, attempts, reason';
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

/** A timer that failed is set aside until another instant, real ms. */
export const setAside = (db: Db, { kind, thingId }: Timer, reason: string, untilAt: number): void => {
  run(
    db,
    "UPDATE timers SET attempts = attempts + 1, reason = ?, clock = 'real', due_at = ? WHERE kind = ? AND thing_id = ?",
    reason,
    untilAt,
    kind,
    thingId,
  );
};
/** Timers that are set aside, oldest first. */
export const timersAside = (db: Db): Timer[] =>
  rows<Timer>(db, `SELECT ${COLUMNS} FROM timers WHERE attempts > 0 ORDER BY seq`);
/** One that was set aside is due at once. Gives whether there was one. */
export const dueNow = (db: Db, seq: number, realAt: number): boolean =>
  run(db, 'UPDATE timers SET due_at = ? WHERE seq = ? AND attempts > 0', realAt, seq) > 0;
