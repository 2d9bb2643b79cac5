import { row, rows, run, type Db } from './database';
import { isBulk, remembered } from './memory';

const COLUMNS = 'seq, clock, due_at AS dueAt, kind, thing_id AS thingId, attempts, reason';

/** Something that must happen later. `clock` says whether `dueAt` (UTC ms) is real time or the floor's. */
export type TimerKind =
  | 'offer-expires'
  | 'visit-due'
  | 'group-due'
  | 'person-due'
  | 'partner-due'
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
  | 'post-due'
  | 'view-mail'
  | 'door-by-hand'
  | 'plan-begins'
  | 'plan-ends';
export type Timer = {
  readonly seq: number;
  readonly clock: 'real' | 'floor';
  readonly dueAt: number;
  readonly kind: TimerKind;
  readonly thingId: string;
  /** How often it has failed since it was set, and why last. */ readonly attempts: number;
  readonly reason: string | null;
};

type Due = Pick<Timer, 'clock' | 'dueAt' | 'kind' | 'thingId'>;
/** The timers that are set, and when the first of each clock is due: null for none, undefined until it is looked up. */
type Timers = {
  readonly set: Map<string, Due>;
  readonly first: { real: number | null | undefined; floor: number | null | undefined };
};
const keyOf = (kind: TimerKind, thingId: string): string => `${kind} ${thingId}`;
const timers = remembered((db): Timers => ({
  set: new Map(rows<Due>(db, `SELECT ${COLUMNS} FROM timers ORDER BY seq`).map((t) => [keyOf(t.kind, t.thingId), t])),
  first: { real: undefined, floor: undefined },
}));
/** One is not due any more when it was. */
const moved = ({ first }: Timers, { clock, dueAt }: Due): void => {
  if (dueAt === first[clock]) first[clock] = undefined;
};
/** One timer per kind and thing; setting it again moves it. */
export const setTimer = (db: Db, kind: TimerKind, thingId: string, clock: Timer['clock'], dueAt: number): void => {
  const known = timers.toChange(db);
  if (known) {
    const key = keyOf(kind, thingId);
    const before = known.set.get(key);
    if (before) moved(known, before);
    known.set.set(key, { clock, dueAt, kind, thingId });
    const first = known.first[clock];
    if (first === null || (first !== undefined && dueAt < first)) known.first[clock] = dueAt;
    if (isBulk(db)) return;
  }
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
  const key = keyOf(kind, thingId);
  // Most of what is cleared was never set.
  if (timers.of(db)?.set.has(key) === false) return;
  const known = timers.toChange(db);
  const before = known?.set.get(key);
  if (known && before) {
    known.set.delete(key);
    moved(known, before);
  }
  if (!isBulk(db)) run(db, 'DELETE FROM timers WHERE kind = ? AND thing_id = ?', kind, thingId);
};

/** Timers that are due, oldest first. */
export function dueTimers(db: Db, realNow: number, floorAt: number): Timer[] {
  const known = isBulk(db) ? timers.of(db) : null;
  if (!known)
    return rows<Timer>(
      db,
      `SELECT ${COLUMNS} FROM timers WHERE (clock = 'real' AND due_at <= ?) OR (clock = 'floor' AND due_at <= ?) ORDER BY due_at, seq`,
      realNow,
      floorAt,
    );
  return [...known.set.values()]
    .filter((t) => t.dueAt <= (t.clock === 'real' ? realNow : floorAt))
    .sort((a, b) => a.dueAt - b.dueAt)
    .map((t) => ({ ...t, seq: 0, attempts: 0, reason: null }));
}
/** When the first timer of a clock is due; null for none. */
export function nextTimer(db: Db, clock: Timer['clock']): number | null {
  const known = timers.of(db);
  if (known && known.first[clock] !== undefined) return known.first[clock];
  const first = known && isBulk(db) ? firstOf(known, clock) : firstKept(db, clock);
  if (known) known.first[clock] = first;
  return first;
}
const firstOf = ({ set }: Timers, clock: Timer['clock']): number | null => {
  let first: number | null = null;
  for (const t of set.values()) if (t.clock === clock && (first === null || t.dueAt < first)) first = t.dueAt;
  return first;
};
const firstKept = (db: Db, clock: Timer['clock']): number | null =>
  row<{ dueAt: number }>(db, 'SELECT due_at AS dueAt FROM timers WHERE clock = ? ORDER BY due_at, seq LIMIT 1', clock)
    ?.dueAt ?? null;
/** The timers that were only remembered, in the order in which they were set. */
export const timersInBulk = (db: Db): readonly Due[] => [...(timers.of(db)?.set.values() ?? [])];

/** The timers that the router itself asked for. */
export const floorTimers = (db: Db): Timer[] =>
  rows<Timer>(
    db,
    `SELECT ${COLUMNS} FROM timers WHERE kind IN ('visit-due', 'group-due', 'person-due', 'partner-due', 'number-due')`,
  );

/** A timer that failed is set aside until another instant, real ms. */
export const setAside = (db: Db, { kind, thingId }: Timer, reason: string, untilAt: number): void => {
  timers.forget(db);
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
export const dueNow = (db: Db, seq: number, realAt: number): boolean => {
  timers.forget(db);
  return run(db, 'UPDATE timers SET due_at = ? WHERE seq = ? AND attempts > 0', realAt, seq) > 0;
};
