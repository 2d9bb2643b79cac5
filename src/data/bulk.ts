import { placesInBulk, writeBotState } from './askings';
import { type Db, rows, run } from './database';
import { remember } from './memory';
import { setTimer, timersInBulk } from './timers';

/**
 * Filling a database in one go: one transaction spans everything, nothing of it can be undone in part, and what only a
 * stop or a reader would need comes at its end. What a stop leaves of it is to be thrown away.
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
/** What has happened, each after what it refers to. */
const HAPPENED = [
  'customers',
  'contacts',
  'contact_values',
  'visits',
  'offers',
  'legs',
  'partner_calls',
  'callbacks',
  'packed_contacts',
  'events',
  'person_states',
  'fact_days',
  'fact_columns',
];
const leftOut = new WeakMap<Db, readonly { readonly name: string; readonly sql: string }[]>();

/** `after` leaves the first places of the log to parts that are taken over at the end. */
export function beginBulk(db: Db, after = 0): void {
  db.exec('BEGIN');
  if (after > 0) {
    run(db, "DELETE FROM sqlite_sequence WHERE name = 'events'");
    run(db, "INSERT INTO sqlite_sequence (name, seq) VALUES ('events', ?)", after);
  }
  const found = rows<{ name: string; sql: string }>(
    db,
    `SELECT name, sql FROM sqlite_schema WHERE type = 'index' AND name IN (${FOR_READERS.map(() => '?').join()})`,
    ...FOR_READERS,
  );
  for (const { name } of found) db.exec(`DROP INDEX ${name}`);
  leftOut.set(db, found);
}

/**
 * Writes what was only remembered, takes over what happened in databases of the same settings that were filled beside this
 * one (by other customers, in other places of the log), makes the indexes, and keeps it all.
 */
export function endBulk(db: Db, parts: readonly string[] = []): void {
  const [places, timers] = [placesInBulk(db), timersInBulk(db)];
  remember(db);
  for (const [contactId, { state }] of places) writeBotState(db, contactId, state);
  for (const { kind, thingId, clock, dueAt } of timers) setTimer(db, kind, thingId, clock, dueAt);
  // No database is attached within a transaction.
  db.exec('COMMIT');
  for (const part of parts) takeOver(db, part);
  for (const { sql } of leftOut.get(db) ?? []) db.exec(sql);
}

function takeOver(db: Db, file: string): void {
  run(db, 'ATTACH ? AS part', file);
  try {
    db.exec(`BEGIN; ${HAPPENED.map((table) => `INSERT INTO ${table} SELECT * FROM part.${table}`).join('; ')};
      -- How people were left there holds for whoever has not been otherwise since.
      UPDATE people SET (duty, duty_reason, duty_since, last_contact_at) =
          (SELECT duty, duty_reason, duty_since, last_contact_at FROM part.people p WHERE p.id = people.id)
        WHERE duty_since < (SELECT duty_since FROM part.people p WHERE p.id = people.id);
      COMMIT`);
  } finally {
    db.exec('DETACH part');
  }
}
