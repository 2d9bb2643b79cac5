import { placesInBulk, writeBotState } from './askings';
import { type Db, rows } from './database';
import { remember } from './memory';
import { setTimer, timersInBulk } from './timers';

/**
 * Filling a database in one go: one transaction spans everything, nothing of it can be undone in part, and what only a
 * stop or a reader would need comes at its end.
 */

/** Indexes by which nothing is looked up meanwhile: made at once at the end, they cost a fraction of keeping them. */
const FOR_READERS = [
  'contacts_started',
  'decisions_of',
  'events_of_bots',
  'events_of_contact',
  'legs_ended',
  'legs_taken',
  'offers_of',
  'offers_of_person',
  'offers_open',
  'offers_pending',
  'visits_entered',
  'visits_open',
];
const leftOut = new WeakMap<Db, readonly { readonly name: string; readonly sql: string }[]>();

export function beginBulk(db: Db): void {
  db.exec('BEGIN');
  const found = rows<{ name: string; sql: string }>(
    db,
    `SELECT name, sql FROM sqlite_schema WHERE type = 'index' AND name IN (${FOR_READERS.map(() => '?').join()})`,
    ...FOR_READERS,
  );
  for (const { name } of found) db.exec(`DROP INDEX ${name}`);
  leftOut.set(db, found);
}

/** Writes what was only remembered, makes the indexes, and keeps it all. */
export function endBulk(db: Db): void {
  const [places, timers] = [placesInBulk(db), timersInBulk(db)];
  remember(db);
  for (const [contactId, { state }] of places) writeBotState(db, contactId, state);
  for (const { kind, thingId, clock, dueAt } of timers) setTimer(db, kind, thingId, clock, dueAt);
  for (const { sql } of leftOut.get(db) ?? []) db.exec(sql);
  db.exec('COMMIT');
}
