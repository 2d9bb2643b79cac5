import { withoutTexts } from '../core/customers/without';
import { numberOf } from './contactnumbers';
import { forgetContact } from './contactrows';
import { type Db, row, rows, run } from './database';
import { packedLife, writePacked } from './packed';

/** Somebody whose data is to be gone, and whether all of it is by now. Instants are real ms. */
export type Erasure = {
  readonly customerId: string;
  readonly personId: string;
  readonly realAt: number;
  readonly doneAt: number | null;
};
const ERASURE =
  'SELECT customer_id AS customerId, by_person_id AS personId, real_at AS realAt, done_at AS doneAt FROM erasures';
export const erasureOf = (db: Db, customerId: string): Erasure | undefined =>
  row<Erasure>(db, `${ERASURE} WHERE customer_id = ?`, customerId);
export const erasuresUnderWay = (db: Db): Erasure[] =>
  rows<Erasure>(db, `${ERASURE} WHERE done_at IS NULL ORDER BY real_at, customer_id`);
export const beginErasure = (db: Db, e: Omit<Erasure, 'doneAt'>): void =>
  void run(
    db,
    'INSERT INTO erasures (customer_id, by_person_id, real_at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING',
    e.customerId,
    e.personId,
    e.realAt,
  );
export const endErasure = (db: Db, customerId: string, realAt: number): void =>
  void run(db, 'UPDATE erasures SET done_at = ? WHERE customer_id = ?', realAt, customerId);

/** All contacts that a customer began. */
export const contactIdsOf = (db: Db, customerId: string): string[] =>
  rows<{ id: string }>(db, 'SELECT id FROM contacts WHERE customer_id = ? ORDER BY no', customerId).map((r) => r.id);

/** Whether anything of a customer is still going on: a contact, or a call that is promised to them. */
export const isGoingOn = (db: Db, customerId: string): boolean =>
  row(
    db,
    `SELECT 1 FROM contacts c WHERE c.customer_id = ?1 AND (c.ended_at IS NULL
        OR EXISTS (SELECT 1 FROM legs l WHERE l.contact_id = c.id AND l.ended_at IS NULL)
        OR EXISTS (SELECT 1 FROM bot_places b WHERE b.contact_id = c.id)
        OR EXISTS (SELECT 1 FROM callbacks k WHERE k.contact_id = c.id AND k.ended_at IS NULL)) LIMIT 1`,
    customerId,
  ) !== undefined;

/** What somebody wrote about a contact says afterwards. */
const GONE = 'Erased with the customer.';

/** Numbers and addresses by which a contact's customer was reached. */
const addressesIn = (db: Db, contactId: string): string[] =>
  rows<{ address: string }>(
    db,
    `SELECT number AS address FROM given_numbers WHERE contact_id = ?1
      UNION SELECT number FROM callbacks WHERE contact_id = ?1`,
    contactId,
  ).map((r) => r.address);

/**
 * Takes all that a customer said, was asked and gave out of one contact, and what was written about it. What counts stays:
 * that something was said, when and by whom.
 */
export function eraseContact(db: Db, contactId: string): void {
  const no = numberOf(db, contactId);
  const life = packedLife(db, no);
  if (no !== null && life) {
    run(db, 'DELETE FROM packed_contacts WHERE no = ?', no);
    writePacked(db, no, {
      ...life,
      said: life.said.map((m) => ({ ...m, text: '', options: null, ssml: null, image: null })),
    });
  }
  run(
    db,
    `UPDATE messages SET text = '', options = NULL, ssml = NULL, image = NULL
      WHERE seq IN (SELECT seq FROM events WHERE contact = ?)`,
    no,
  );
  eraseSent(db, addressesIn(db, contactId));
  run(db, "UPDATE callbacks SET number = '' WHERE contact_id = ?", contactId);
  run(db, "UPDATE coach_notes SET words = ? WHERE contact_id = ? AND words <> ''", GONE, contactId);
  run(db, "UPDATE coach_ratings SET words = ? WHERE contact_id = ? AND words <> ''", GONE, contactId);
  for (const table of [
    'private_values',
    'contact_values',
    'passed_fields',
    'given_numbers',
    'pages',
    'unheard',
    'article_questions',
    'customer_hints',
    'pass_notes',
    'contact_summaries',
    'outbox',
  ])
    run(db, `DELETE FROM ${table} WHERE contact_id = ?`, contactId);
  forgetContact(db, contactId);
}

/** Forgets what was sent to some addresses, or is still to be. */
export function eraseSent(db: Db, addresses: readonly string[]): void {
  const all = JSON.stringify(addresses);
  run(db, 'DELETE FROM outside_messages WHERE address IN (SELECT value FROM json_each(?))', all);
  run(
    db,
    "DELETE FROM outbox WHERE kind = 'post' AND json_extract(body, '$.address') IN (SELECT value FROM json_each(?))",
    all,
  );
}

/** Places in which words may stand that were taken from conversations: the table, what tells a row, and its columns. */
const WORDED = [
  { table: 'history', key: 'id', columns: ['before', 'after'], where: "kind IN ('phrasebook', 'article')" },
  { table: 'drafts', key: 'person_id, kind, thing_id', columns: ['base', 'mine'], where: "kind = 'phrasebook'" },
  { table: 'documents', key: 'kind, id', columns: ['body'], where: "kind = 'article'" },
] as const;

/** One kept thing in which texts may stand; `strip` takes them out. */
export type Worded = { readonly strip: (db: Db) => void };

/**
 * The kept things in which some texts may stand, but for phrasebooks that are kept to be learnt from. There may be many of
 * them, and long ones: each is looked at in its turn.
 */
export function wordedWith(db: Db, texts: readonly string[]): Worded[] {
  const inJson = texts.map((text) => JSON.stringify(text));
  const all = new Set(texts);
  return WORDED.flatMap(({ table, key, columns, where }) => {
    const names = key.split(', ');
    const at = names.map((name) => `${name} = ?`).join(' AND ');
    return rows<Record<string, string | number>>(db, `SELECT ${key} FROM ${table} WHERE ${where}`).flatMap((found) =>
      columns.map((column): Worded => ({
        strip: (on) => {
          const own = names.map((name) => found[name] ?? null);
          const kept = row<{ text: string | null }>(on, `SELECT ${column} AS text FROM ${table} WHERE ${at}`, ...own);
          const text = kept?.text;
          if (!text || !inJson.some((one) => text.includes(one))) return;
          const without = JSON.stringify(withoutTexts(JSON.parse(text), all));
          run(on, `UPDATE ${table} SET ${column} = ? WHERE ${at}`, without, ...own);
        },
      })),
    );
  });
}

/** Versions of the phrasebook in which one of some texts stands, the newest first. */
export const booksWith = (db: Db, texts: readonly string[]): number[] =>
  rows<{ version: number }>(
    db,
    `SELECT version FROM phrasebook_versions
      WHERE EXISTS (SELECT 1 FROM json_each(?) t WHERE instr(book, t.value) > 0) ORDER BY version DESC`,
    JSON.stringify(texts.map((text) => JSON.stringify(text))),
  ).map((r) => r.version);

/** Takes texts out of a version of the phrasebook, with what is learnt of it without them. */
export function stripBook(db: Db, version: number, texts: readonly string[], learnt: string): void {
  const kept = row<{ book: string }>(db, 'SELECT book FROM phrasebook_versions WHERE version = ?', version);
  if (!kept) return;
  const without = JSON.stringify(withoutTexts(JSON.parse(kept.book), new Set(texts)));
  run(db, 'UPDATE phrasebook_versions SET book = ?, learnt = ? WHERE version = ?', without, learnt, version);
}

/** Drops all that History kept of a thing. */
export const forgetHistoryOf = (db: Db, kind: string, thingId: string): void =>
  void run(db, 'DELETE FROM history WHERE kind = ? AND thing_id = ?', kind, thingId);
