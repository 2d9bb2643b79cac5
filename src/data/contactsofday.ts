import { type Db, rows } from './database';

/** No conversation is looked for that began longer ago than this, ms. */
const LONGEST_MS = 30 * 86_400_000;

/** Some contacts `c`, as a condition of SQL and what stands in it. */
export type SomeContacts = { readonly where: string; readonly values: readonly [number, number] | readonly [string] };

/** These, by their numbers. */
export const someContacts = (nos: readonly number[]): SomeContacts => ({
  where: 'c.no IN (SELECT value FROM json_each(?))',
  values: [JSON.stringify(nos)],
});

/** Those that started in [from, to). */
export const startedIn = (from: number, to: number): SomeContacts => ({
  where: 'c.started_at >= ? AND c.started_at < ?',
  values: [from, to],
});

/** Those that began earlier and were going on at an instant: looked for once, since there are few of them among many. */
export function goingOnAt(db: Db, at: number): SomeContacts {
  const found = rows<{ no: number }>(
    db,
    'SELECT no FROM contacts WHERE started_at >= ? AND started_at < ? AND (ended_at IS NULL OR ended_at >= ?)',
    at - LONGEST_MS,
    at,
    at,
  );
  return someContacts(found.map((c) => c.no));
}
