import { type Db, row } from './database';

/**
 * A contact's number (the place in the log at which it began) stands for it wherever many rows do; outside this folder
 * there are only ids. Numbers that were looked up are remembered for a while: an id has one for good.
 */
const MOST_KNOWN = 5000;
const known = new WeakMap<Db, Map<string, number>>();

/** The number of a contact that is there; throws where it is not. */
export function contactNo(db: Db, id: string): number {
  const found = numberOf(db, id);
  if (found === null) throw new Error(`there is no contact ${id}`);
  return found;
}

/** The number of a contact, or null. */
export function numberOf(db: Db, id: string): number | null {
  let numbers = known.get(db);
  if (!numbers || numbers.size > MOST_KNOWN) known.set(db, (numbers = new Map()));
  const there = numbers.get(id);
  if (there !== undefined) return there;
  const found = row<{ no: number }>(db, 'SELECT no FROM contacts WHERE id = ?', id);
  if (found) numbers.set(id, found.no);
  return found?.no ?? null;
}
