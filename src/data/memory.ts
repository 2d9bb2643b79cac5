import type { Db } from './database';

/**
 * What was read last, on the one connection through which everything is changed: whoever changes a thing keeps what is
 * remembered of it true. When work was undone, nothing is remembered any more, and all is read anew.
 */
type Memory = { readonly things: Map<symbol, unknown>; readonly bulk: boolean };
const memories = new WeakMap<Db, Memory>();

/**
 * From here on things are remembered: for the connection through which all changes go. In `bulk`, what only a stop would
 * need is remembered alone until it is settled, and nothing can be undone: for filling a database in one go.
 */
export const remember = (db: Db, bulk = false): void => void memories.set(db, { things: new Map(), bulk });

export const isBulk = (db: Db): boolean => memories.get(db)?.bulk ?? false;

/** Something was undone, or changed in another way than it usually is. */
export function forget(db: Db): void {
  if (isBulk(db)) throw new Error('what is filled in one go cannot be undone in part');
  memories.get(db)?.things.clear();
}

/** One kind of thing that is remembered, made when it is first looked at; null on a connection that remembers nothing. */
export type Remembered<T> = { readonly of: (db: Db) => T | null; readonly forget: (db: Db) => void };

export function remembered<T extends object>(make: (db: Db) => T): Remembered<T> {
  const key = Symbol();
  return {
    of: (db) => {
      const memory = memories.get(db);
      if (!memory) return null;
      let thing = memory.things.get(key) as T | undefined;
      if (!thing) memory.things.set(key, (thing = make(db)));
      return thing;
    },
    forget: (db) => void memories.get(db)?.things.delete(key),
  };
}
