import type { EventBody, LaneEvent } from '../../core/events';
import type { IdSource } from '../../core/ids';
import { appendEvent } from '../../data/events';
import type { Db } from '../../data/database';

/** Real time and the floor's, UTC ms. */
export type Times = { readonly real: () => number; readonly floor: () => number };

/** One change in progress: all of it is kept, or none. Both times stand still within it. */
export type Tx = {
  readonly db: Db;
  readonly ids: IdSource;
  readonly realAt: number;
  readonly floorAt: number;
  readonly emit: (body: EventBody) => LaneEvent;
};

export type Listener = (events: readonly LaneEvent[]) => void;

/** What every service stands on: the database, time, ids, one way to change things and one way to hear of changes. */
export type Host = {
  readonly db: Db;
  readonly ids: IdSource;
  readonly times: Times;
  /** Runs work in one transaction and tells listeners once it is kept. Work inside work joins the outer transaction. */
  readonly transact: <T>(work: (tx: Tx) => T) => T;
  /** What `read` gives, kept until settings change: for settings that every contact looks at. */
  readonly remembered: <T>(name: string, read: (db: Db) => T) => T;
  readonly listen: (listener: Listener) => () => void;
  /** Called when a change was undone, so that whatever is kept in memory is read anew. */
  /** Filled in bulk: what only a stop would need is written at the end. */
  readonly bulk: boolean;
  readonly onUndone: (handler: () => void) => void;
};

/** `oneTransaction` leaves beginning and committing to the caller: for filling a database in bulk. */
export function createHost(db: Db, ids: IdSource, times: Times, options: { oneTransaction?: boolean } = {}): Host {
  const listeners = new Set<Listener>();
  const undone: (() => void)[] = [];
  const memory = new Map<string, unknown>();
  let current: Tx | null = null;
  const transact = <T>(work: (tx: Tx) => T): T => {
    if (current) return work(current);
    const events: LaneEvent[] = [];
    const realAt = times.real();
    const floorAt = times.floor();
    const tx: Tx = {
      db,
      ids,
      realAt,
      floorAt,
      emit: (body) => {
        const event = appendEvent(db, body, floorAt, realAt);
        events.push(event);
        if (event.type === 'settings.changed') memory.clear();
        return event;
      },
    };
    current = tx;
    let result: T;
    try {
      result = options.oneTransaction ? work(tx) : db.transaction(() => work(tx))();
    } catch (error) {
      current = null;
      memory.clear();
      undone.forEach((handler) => handler());
      throw error;
    }
    current = null;
    if (events.some((e) => e.type === 'settings.changed')) memory.clear();
    if (events.length > 0) for (const listener of [...listeners]) listener(events);
    return result;
  };
  return {
    db,
    ids,
    times,
    transact,
    bulk: options.oneTransaction ?? false,
    remembered: <T>(name: string, read: (db: Db) => T): T => {
      if (!memory.has(name)) memory.set(name, read(db));
      return memory.get(name) as T;
    },
    listen: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    onUndone: (handler) => void undone.push(handler),
  };
}
