import type { Db } from './database';

/**
 * What was read last, on the one connection through which everything is changed: whoever changes a thing keeps what is
 * remembered of it true. When work was undone, nothing is remembered any more, and all is read anew.
 */
type Memory = {
  readonly things: Map<symbol, unknown>;
  readonly bulk: boolean;
  /** Whether what is remembered was changed by the work under way. */
  changed: boolean;
};
const memories = new WeakMap<Db, Memory>();

/**
 * From here on things are remembered: for the connection through which all changes go. In `bulk`, what only a stop would
 * need is remembered alone until it is settled, and nothing can be undone: for filling a database in one go.
 */
export const remember = (db: Db, bulk = false): void =>
  void memories.set(db, { things: new Map(), bulk, changed: false });

export const isBulk = (db: Db): boolean => memories.get(db)?.bulk ?? false;

/** Something was changed in another way than it usually is: all is read anew. */
export function forget(db: Db): void {
  if (isBulk(db)) throw new Error('what is filled in one go cannot be undone in part');
  memories.get(db)?.things.clear();
}

/** Work begins that is kept or undone as a whole. */
export function workBegins(db: Db): void {
  const memory = memories.get(db);
  if (memory) memory.changed = false;
}
/** Some of it was undone. Most of what is undone was refused before it had changed anything, and costs nothing then. */
export function workUndone(db: Db): void {
  if (memories.get(db)?.changed) forget(db);
}

/** One kind of thing that is remembered, made when it is first looked at; null on a connection that remembers nothing. */
export type Remembered<T> = {
  readonly of: (db: Db) => T | null;
  /** The same, to be changed together with the tables. */
  readonly toChange: (db: Db) => T | null;
  readonly forget: (db: Db) => void;
};

export function remembered<T extends object>(make: (db: Db) => T): Remembered<T> {
  const key = Symbol();
  const of = (db: Db): T | null => {
    const memory = memories.get(db);
    if (!memory) return null;
    let thing = memory.things.get(key) as T | undefined;
    if (!thing) memory.things.set(key, (thing = make(db)));
    return thing;
  };
  return {
    of,
    toChange: (db) => {
      const memory = memories.get(db);
      if (memory) memory.changed = true;
      return of(db);
    },
    forget: (db) => {
      const memory = memories.get(db);
      memory?.things.delete(key);
      if (memory) memory.changed = true;
    },
  };
}
