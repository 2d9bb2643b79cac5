import { performance } from 'node:perf_hooks';
import { committed, timed } from './holds';
import type { EventBody, LaneEvent } from '../../core/events';
import type { IdSource } from '../../core/ids';
import { appendEvent } from '../../data/events';
import { type Db, inTransaction } from '../../data/database';
import { remember, workBegins, workUndone } from '../../data/memory';

/** Real time and the floor's, UTC ms. */
export type Times = { readonly real: () => number; readonly floor: () => number };

/** One change in progress: all of it is kept, or none. Both times stand still within it. */
export type Tx = {
  readonly db: Db;
  readonly ids: IdSource;
  readonly realAt: number;
  readonly floorAt: number;
  readonly emit: (body: EventBody) => LaneEvent;
  /**
   * `handler` is called when what is being done now is undone, with the tables as they were before it: so that whatever
   * holds them in memory is read anew. The same handler is called once, however often it is named.
   */
  readonly ifUndone: (handler: () => void) => void;
  /**
   * `handler` is called once, at the end of the outermost work and still within it: for what follows from many changes
   * together.
   */
  readonly atEnd: (handler: (tx: Tx) => void) => void;
  /** `handler` is called once everything is kept, outside any transaction: for what goes out of the house. */
  readonly onceKept: (handler: () => void) => void;
};

export type Listener = (events: readonly LaneEvent[]) => void;
/** Takes what went wrong where nobody waits for an answer. */
export type FaultSink = (error: unknown) => void;

/** What every service stands on: the database, time, ids, one way to change things and one way to hear of changes. */
export type Host = {
  readonly db: Db;
  readonly ids: IdSource;
  readonly times: Times;
  /**
   * Runs work in one transaction and tells listeners once it is kept. Work inside work is a savepoint: when it throws,
   * only its own part is undone, and the outer work may catch that and go on.
   */
  readonly transact: <T>(work: (tx: Tx) => T) => T;
  /** What `read` gives, kept until settings change: for settings that every contact looks at. */
  readonly remembered: <T>(name: string, read: (db: Db) => T) => T;
  /** A listener that throws is reported; the others hear all the same. */
  readonly listen: (listener: Listener) => () => void;
  readonly fault: FaultSink;
  /** Filled in bulk: what only a stop would need is written at the end. */
  readonly bulk: boolean;
};

/** For readings in a thread of their own: nothing can be changed, and nothing is remembered from one to the next. */
export const readingHost = (db: Db, times: Times): Host => ({
  db,
  times,
  ids: () => {
    throw new Error('a reading makes nothing');
  },
  transact: () => {
    throw new Error('a reading changes nothing');
  },
  remembered: (_name, read) => read(db),
  listen: () => () => undefined,
  fault: (error) => console.error(error),
  bulk: false,
});

/** What has been done in the transaction under way, up to the savepoint it stands in. */
type Doing = {
  readonly events: LaneEvent[];
  readonly undone: Set<() => void>;
  readonly ending: Set<(tx: Tx) => void>;
  readonly kept: Set<() => void>;
};
const nothingDone = (): Doing => ({ events: [], undone: new Set(), ending: new Set(), kept: new Set() });

/** `oneTransaction` leaves beginning and committing to the caller: for filling a database in bulk. */
export function createHost(
  db: Db,
  ids: IdSource,
  times: Times,
  options: { readonly oneTransaction?: boolean; readonly onFault?: FaultSink } = {},
): Host {
  remember(db, options.oneTransaction ?? false);
  const listeners = new Set<Listener>();
  const memory = new Map<string, unknown>();
  const fault: FaultSink = options.onFault ?? ((error) => console.error(error));
  let current: Tx | null = null;
  let doing = nothingDone();

  function begin(): Tx {
    const realAt = times.real();
    const floorAt = times.floor();
    return {
      db,
      ids,
      realAt,
      floorAt,
      emit: (body) => {
        const event = appendEvent(db, body, floorAt, realAt);
        doing.events.push(event);
        if (event.type === 'settings.changed') memory.clear();
        return event;
      },
      ifUndone: (handler) => void doing.undone.add(handler),
      atEnd: (handler) => void doing.ending.add(handler),
      onceKept: (handler) => void doing.kept.add(handler),
    };
  }
  /** Calls each; what one throws is reported and keeps none of the others from being called. */
  function tell(handlers: Iterable<() => void>): void {
    for (const handler of handlers)
      try {
        handler();
      } catch (error) {
        fault(error);
      }
  }

  /** Does what was left for the end, until nothing more is. */
  function finish(tx: Tx, { ending }: Doing): void {
    while (ending.size > 0) {
      const handlers = [...ending];
      ending.clear();
      for (const handler of handlers) handler(tx);
    }
  }

  function transact<T>(work: (tx: Tx) => T): T {
    const outer = current;
    const around = doing;
    const tx = outer ?? begin();
    const mine = nothingDone();
    let worked = 0;
    const all = () => {
      const given = work(tx);
      if (!outer) finish(tx, mine);
      worked = performance.now();
      return given;
    };
    if (!outer) workBegins(db);
    current = tx;
    doing = mine;
    let result: T;
    try {
      result = options.oneTransaction && !outer ? all() : inTransaction(db, all);
    } catch (error) {
      current = outer;
      doing = around;
      memory.clear();
      workUndone(db);
      tell(mine.undone);
      throw error;
    }
    if (!outer) committed(performance.now() - worked);
    current = outer;
    doing = around;
    if (outer) {
      // One by one: a large change has more events than a call takes arguments.
      for (const event of mine.events) around.events.push(event);
      for (const handler of mine.undone) around.undone.add(handler);
      for (const handler of mine.ending) around.ending.add(handler);
      for (const handler of mine.kept) around.kept.add(handler);
      return result;
    }
    if (mine.events.some((e) => e.type === 'settings.changed')) memory.clear();
    tell(mine.kept);
    if (mine.events.length > 0) tell([...listeners].map((listener) => () => listener(mine.events)));
    return result;
  }

  return {
    db,
    ids,
    times,
    transact: (work) => timed('a transaction', () => transact(work)),
    fault,
    bulk: options.oneTransaction ?? false,
    remembered: <T>(name: string, read: (db: Db) => T): T => {
      if (!memory.has(name)) memory.set(name, read(db));
      return memory.get(name) as T;
    },
    listen: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}
