import { contactOf, type EventType, type LaneEvent } from '../core/events';
import type { Db } from './database';
import { remembered } from './memory';

/**
 * Rows of contacts as they were last read. What is made from events alone can only have changed when an event says so.
 * Rows are shared by all who read them, and frozen.
 */
type EventTable = 'contacts' | 'visits' | 'legs';
type Table = EventTable | 'private_values';

/** Which rows of its contact an event changes. */
const CHANGED_BY: { readonly [T in EventType]: readonly EventTable[] } = {
  'contact.started': ['contacts'],
  'contact.language': ['contacts'],
  'contact.ended': ['contacts'],
  'bot.started': ['contacts'],
  'visit.began': ['visits'],
  'visit.staged': ['visits'],
  'visit.opened': ['visits'],
  'visit.asked': ['visits'],
  'visit.ended': ['visits'],
  'leg.began': ['legs'],
  'leg.wrapping': ['legs'],
  'leg.filed': ['legs'],
  'leg.ended': ['legs'],
  /** A person's first reply changes a leg, and says so itself. */
  'message.written': [],
  'bot.heard': [],
  'bot.asked': [],
  'bot.texted': [],
  'bot.finished': [],
  'value.set': [],
  'partner.dialled': [],
  'partner.answered': [],
  'partner.ended': [],
  'callback.changed': [],
  'offer.made': [],
  'offer.ended': [],
  'person.duty': [],
  'person.reach': [],
  'settings.changed': [],
};

/** Contacts whose rows are remembered at most; with one more, all are forgotten. */
const MOST = 2000;
const known = remembered(() => ({
  contacts: new Map<string, { [T in Table]?: unknown }>(),
  /** The contact of a visit or leg that was read; that never changes. */
  owners: new Map<string, string>(),
}));

/** Rows of a contact were written. */
export function rowsWritten(db: Db, table: Table, contactId: string): void {
  const rows = known.toChange(db)?.contacts.get(contactId);
  if (rows) rows[table] = undefined;
}

/** An event has been applied. */
export function rowsChanged(db: Db, event: LaneEvent): void {
  const tables = CHANGED_BY[event.type];
  const contactId = contactOf(event);
  if (tables.length === 0 || contactId === null) return;
  const rows = known.toChange(db)?.contacts.get(contactId);
  if (rows) for (const table of tables) rows[table] = undefined;
}

/** A contact's rows of a table: as remembered, else as `read` gives them. */
export function rowsOf<T>(db: Db, table: Table, contactId: string, read: () => T): T {
  const memory = known.of(db);
  if (!memory) return read();
  const { contacts, owners } = memory;
  let rows = contacts.get(contactId);
  if (rows?.[table] !== undefined) return rows[table] as T;
  const found = read();
  if (found === undefined) return found;
  if (contacts.size >= MOST) {
    contacts.clear();
    owners.clear();
  }
  Object.freeze(found);
  if (Array.isArray(found))
    for (const row of found as { readonly id: string }[]) {
      Object.freeze(row);
      owners.set(row.id, contactId);
    }
  rows = contacts.get(contactId);
  if (!rows) contacts.set(contactId, (rows = {}));
  rows[table] = found;
  return found;
}

/** The contact to which a visit or leg belongs, where that was read before. */
export const ownerOf = (db: Db, id: string): string | undefined => known.of(db)?.owners.get(id);
