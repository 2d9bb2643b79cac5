import { type Db, row } from './database';
import { remembered } from './memory';

/**
 * A contact's number (the place in the log at which it began) stands for it wherever many rows do; outside this folder
 * there are only ids. Numbers that were looked up are remembered for a while: an id has one for good.
 */
const MOST_KNOWN = 5000;
const known = remembered(() => new Map<string, number>());

/** A contact has begun. */
export function numberGiven(db: Db, id: string, no: number): void {
  keep(known.toChange(db), id, no);
}
function keep(numbers: Map<string, number> | null, id: string, no: number): void {
  if (numbers && numbers.size > MOST_KNOWN) numbers.clear();
  numbers?.set(id, no);
}

/** The number of a contact that is there; throws where it is not. */
export function contactNo(db: Db, id: string): number {
  const found = numberOf(db, id);
  if (found === null) throw new Error(`there is no contact ${id}`);
  return found;
}

/** The number of a contact, or null. */
export function numberOf(db: Db, id: string): number | null {
  const numbers = known.of(db);
  const there = numbers?.get(id);
  if (there !== undefined) return there;
  const found = row<{ no: number }>(db, 'SELECT no FROM contacts WHERE id = ?', id);
  if (found) keep(numbers, id, found.no);
  return found?.no ?? null;
}
