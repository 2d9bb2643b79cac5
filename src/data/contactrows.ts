import { contactOf, type EventType, type LaneEvent } from '../core/events';
import type { Db } from './database';
import { remembered } from './memory';

/**
 * Rows of contacts as they were last read. What is made from events alone can only have changed when an event says so.
 * Rows are shared by all who read them, and frozen.
 */
type EventTable = 'contacts' | 'visits' | 'legs';
type Table = EventTable | 'private_values' | 'callbacks' | 'said';

/** Which rows of its contact an event changes. */
const CHANGED_BY: { readonly [T in EventType]: readonly EventTable[] } = {
  'contact.started': ['contacts'],
  'contact.language': ['contacts'],
  'contact.ended': ['contacts'],
  'bot.started': ['contacts'],
  'bot.mended': ['contacts'],
  'visit.began': ['visits'],
  'visit.staged': ['visits'],
  'visit.told': ['visits'],
  'message.left': ['contacts'],
  'visit.opened': ['visits'],
  'visit.asked': ['visits'],
  'visit.ended': ['visits'],
  'leg.began': ['legs'],
  'leg.wrapping': ['legs'],
  'leg.filed': ['legs'],
  'leg.ended': ['legs'],
  'leg.front': [],
  'leg.line': ['legs'],
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
  'customer.joined': [],
  'customer.parted': [],
  'mood.said': [],
  'person.duty': [],
  'person.reach': [],
  'settings.changed': [],
};

/** Contacts whose rows are remembered at most; with one more, the one that was looked at first is forgotten. */
const MOST = 2000;
type Rows = { [T in Exclude<Table, 'said'>]?: unknown } & {
  said?: Said;
  words?: OwnWords;
  /** Its visits and legs that were read. */
  readonly owned: Set<string>;
};
/** A contact that begins has nothing else yet. */
const NONE = Object.freeze([]);
const begun = (): Rows => ({
  owned: new Set(),
  visits: NONE,
  legs: NONE,
  private_values: NONE,
  callbacks: NONE,
  said: { times: [], customerAt: null },
  words: { offered: new Set(), own: [] },
});
/** When words were said in a contact, floor ms, and when its customer last said some. Grows as more are said. */
export type Said = { readonly times: number[]; readonly customerAt: number | null };

/** What a customer said in words of their own, in order, and what they were offered last. Grows as more is said. */
export type OwnWords = { readonly offered: ReadonlySet<string>; readonly own: string[] };
type Written = {
  readonly sender: 'customer' | 'bot' | 'person';
  readonly text: string;
  readonly options: readonly { readonly key: string; readonly label: string }[];
};
/** The same with one more message. What is chosen of what was offered is not one's own. */
export function withWritten(words: OwnWords, { sender, text, options }: Written): OwnWords {
  if (sender !== 'customer')
    return options.length === 0
      ? words
      : { ...words, offered: new Set(options.flatMap(({ key, label }) => [key, label])) };
  if (!words.offered.has(text.trim())) words.own.push(text);
  return words;
}

type Known = {
  readonly contacts: Map<string, Rows>;
  /** The contact of a visit or leg that was read; that never changes. */
  readonly owners: Map<string, string>;
};
const known = remembered((): Known => ({ contacts: new Map(), owners: new Map() }));

/** Rows of a contact were written. */
export function rowsWritten(db: Db, table: Table, contactId: string): void {
  const rows = known.toChange(db)?.contacts.get(contactId);
  if (rows) rows[table] = undefined;
}

/** An event has been applied. */
export function rowsChanged(db: Db, event: LaneEvent): void {
  const tables = CHANGED_BY[event.type];
  const written = event.type === 'message.written';
  const contactId = contactOf(event);
  if ((tables.length === 0 && !written) || contactId === null) return;
  const memory = known.toChange(db);
  if (!memory) return;
  if (event.type === 'contact.started') return keep(memory, contactId, begun());
  const rows = memory.contacts.get(contactId);
  if (!rows) return;
  for (const table of tables) rows[table] = undefined;
  if (!written || !rows.said) return;
  rows.said.times.push(event.floorAt);
  if (event.from === 'customer') rows.said = { ...rows.said, customerAt: event.floorAt };
}

function keep({ contacts, owners }: Known, contactId: string, rows: Rows): void {
  for (const [first, { owned }] of contacts) {
    if (contacts.size < MOST) break;
    contacts.delete(first);
    for (const id of owned) owners.delete(id);
  }
  contacts.set(contactId, rows);
}

/** A contact's rows of a table: as remembered, else as `read` gives them. */
export function rowsOf<T>(db: Db, table: Table, contactId: string, read: () => T): T {
  const memory = known.of(db);
  if (!memory) return read();
  let rows = memory.contacts.get(contactId);
  if (rows?.[table] !== undefined) return rows[table] as T;
  const found = read();
  if (found === undefined) return found;
  if (!rows) keep(memory, contactId, (rows = { owned: new Set() }));
  Object.freeze(found);
  if (Array.isArray(found))
    for (const row of found as { readonly id: string }[]) {
      Object.freeze(row);
      rows.owned.add(row.id);
      memory.owners.set(row.id, contactId);
    }
  Object.assign(rows, { [table]: found });
  return found;
}

/** The contact to which a visit or leg belongs, where that was read before. */
export const ownerOf = (db: Db, id: string): string | undefined => known.of(db)?.owners.get(id);

/** A message was written in a contact. */
export function wordsWritten(db: Db, contactId: string, message: Written): void {
  const rows = known.toChange(db)?.contacts.get(contactId);
  if (rows?.words) rows.words = withWritten(rows.words, message);
}
/** What the customer of a contact said in their own words: as remembered, else as `read` gives it. */
export function ownWordsOf(db: Db, contactId: string, read: () => OwnWords): readonly string[] {
  const rows = known.of(db)?.contacts.get(contactId);
  if (!rows) return read().own;
  return (rows.words ??= read()).own;
}

/** Nothing of a contact is remembered any more: it is gone, or long over. */
export function forgetContact(db: Db, contactId: string): void {
  const memory = known.toChange(db);
  for (const id of memory?.contacts.get(contactId)?.owned ?? []) memory?.owners.delete(id);
  memory?.contacts.delete(contactId);
}
