import type { Channel } from '../core/channels';
import { searchedDigits } from '../core/wordsearch';
import { membersOf } from './customerties';
import { type Db, row, rows, run } from './database';

/** `vouched`: the channel stands in for the address being theirs. Whoever only says so is another customer. */
export type Customer = {
  readonly id: string;
  readonly channel: Channel;
  readonly address: string;
  readonly name: string | null;
  readonly vouched: boolean;
  /** The language they like to be spoken to in, as somebody noted it. */ readonly language: string | null;
  /** When somebody said what they are called, floor ms; null where that came from outside. */
  readonly namedAt: number | null;
};
type CustomerRow = Omit<Customer, 'vouched'> & { readonly vouched: number };

const CUSTOMERS = 'SELECT id, channel, address, name, vouched, language, named_at AS namedAt FROM customers';
const opened = (found: CustomerRow): Customer => ({ ...found, vouched: found.vouched === 1 });
const customerFrom = (found: CustomerRow | undefined): Customer | undefined => found && opened(found);

export const customerAt = (db: Db, channel: Channel, address: string, vouched: boolean): Customer | undefined =>
  customerFrom(
    row<CustomerRow>(
      db,
      `${CUSTOMERS} WHERE channel = ? AND address = ? AND vouched = ?`,
      channel,
      address,
      vouched ? 1 : 0,
    ),
  );

export const readCustomer = (db: Db, id: string): Customer | undefined =>
  customerFrom(row<CustomerRow>(db, `${CUSTOMERS} WHERE id = ?`, id));

export const writeCustomer = (db: Db, c: Omit<Customer, 'language' | 'namedAt'>): void => {
  run(
    db,
    `INSERT INTO customers (id, channel, address, name, vouched) VALUES (?1, ?2, ?3, ?4, ?5)
      ON CONFLICT (id) DO UPDATE SET name = ?4`,
    c.id,
    c.channel,
    c.address,
    c.name,
    c.vouched ? 1 : 0,
  );
};

/** Everybody whom a customer is one with, itself among them; whoever stands for all first. Empty where there is none. */
export const customersAsOne = (db: Db, customerId: string): Customer[] =>
  membersOf(db, customerId).flatMap((id) => readCustomer(db, id) ?? []);

/** Notes by hand what a customer is called and spoken to in; whom they are one with keep what they have. */
export const setCustomer = (
  db: Db,
  customerId: string,
  set: { readonly name: string | null; readonly language: string | null },
  floorAt: number,
): void =>
  void run(
    db,
    'UPDATE customers SET name = ?, language = ?, named_at = ? WHERE id = ?',
    set.name,
    set.language,
    floorAt,
    customerId,
  );

/** What customers who are one are called: as somebody said last, else where the channel stands in for them, else at all. */
export function nameAmong(all: readonly Customer[]): string | null {
  const named = all.filter((c) => c.name !== null);
  const byHand = named.filter((c) => c.namedAt !== null).sort((a, b) => (b.namedAt ?? 0) - (a.namedAt ?? 0));
  return (byHand[0] ?? named.find((c) => c.vouched) ?? named[0])?.name ?? null;
}

/** What an erased customer is left with: a row that contacts point at, which says nothing of anybody. */
export const blankCustomer = (db: Db, id: string): void =>
  void run(
    db,
    "UPDATE customers SET name = 'Erased', language = NULL, named_at = NULL, address = 'erased ' || id WHERE id = ?",
    id,
  );

/** Customers whose name or address holds what was typed, a number however it is written; those with a name first. */
export function customersLike(db: Db, typed: string, most: number): Customer[] {
  const digits = searchedDigits(typed);
  return rows<CustomerRow>(
    db,
    `${CUSTOMERS} u WHERE address NOT LIKE 'erased %' AND (u.name LIKE ?1 ESCAPE '\\' OR u.address LIKE ?1 ESCAPE '\\'
        OR (?2 <> '' AND replace(replace(replace(replace(u.address, ' ', ''), '-', ''), '(', ''), ')', '') LIKE ?3))
      ORDER BY u.name IS NULL, u.name, u.address LIMIT ?4`,
    `%${typed.trim().replace(/[\\%_]/g, '\\$&')}%`,
    digits,
    `%${digits}%`,
    most,
  ).map(opened);
}

/** What somebody noted about a customer; `at` is floor ms. */
export type CustomerNote = {
  readonly id: string;
  readonly customerId: string;
  readonly personId: string;
  readonly words: string;
  readonly at: number;
};
const NOTE = 'SELECT id, customer_id AS customerId, person_id AS personId, words, floor_at AS at FROM customer_notes';
export const notesOn = (db: Db, customerIds: readonly string[]): CustomerNote[] =>
  rows<CustomerNote>(
    db,
    `${NOTE} WHERE customer_id IN (SELECT value FROM json_each(?)) ORDER BY floor_at DESC, rowid DESC`,
    JSON.stringify(customerIds),
  );
export const readCustomerNote = (db: Db, id: string): CustomerNote | undefined =>
  row<CustomerNote>(db, `${NOTE} WHERE id = ?`, id);
export const writeCustomerNote = (db: Db, n: CustomerNote): void =>
  void run(
    db,
    'INSERT INTO customer_notes (id, customer_id, person_id, words, floor_at) VALUES (?, ?, ?, ?, ?)',
    n.id,
    n.customerId,
    n.personId,
    n.words,
    n.at,
  );
export const dropCustomerNote = (db: Db, id: string): void =>
  void run(db, 'DELETE FROM customer_notes WHERE id = ?', id);

/**
 * A customer of whom somebody asked that they be blocked: they are, from when somebody decided so. `came` counts how often
 * they have tried since. Instants are floor ms.
 */
export type CustomerBlock = {
  readonly customerId: string;
  readonly why: string;
  readonly askedBy: string;
  readonly askedAt: number;
  readonly decidedBy: string | null;
  readonly decidedAt: number | null;
  readonly came: number;
  readonly cameAt: number | null;
};
const BLOCK = `SELECT customer_id AS customerId, why, asked_by AS askedBy, asked_at AS askedAt, decided_by AS decidedBy,
      decided_at AS decidedAt, came, came_at AS cameAt FROM customer_blocks`;
export const blocksOf = (db: Db, customerIds: readonly string[]): CustomerBlock[] =>
  rows<CustomerBlock>(
    db,
    `${BLOCK} WHERE customer_id IN (SELECT value FROM json_each(?)) ORDER BY decided_at IS NULL, asked_at`,
    JSON.stringify(customerIds),
  );
export const blocksAskedFor = (db: Db): CustomerBlock[] =>
  rows<CustomerBlock>(db, `${BLOCK} WHERE decided_at IS NULL ORDER BY asked_at`);
export const writeBlock = (
  db: Db,
  b: Pick<CustomerBlock, 'customerId' | 'why' | 'askedBy' | 'askedAt' | 'decidedBy' | 'decidedAt'>,
): void =>
  void run(
    db,
    `INSERT INTO customer_blocks (customer_id, why, asked_by, asked_at, decided_by, decided_at)
      VALUES (?1, ?2, ?3, ?4, ?5, ?6) ON CONFLICT (customer_id) DO UPDATE SET decided_by = ?5, decided_at = ?6`,
    b.customerId,
    b.why,
    b.askedBy,
    b.askedAt,
    b.decidedBy,
    b.decidedAt,
  );
export const dropBlock = (db: Db, customerId: string): void =>
  void run(db, 'DELETE FROM customer_blocks WHERE customer_id = ?', customerId);
/** The block that keeps a customer out, theirs or of one with whom they are one; null where they may come. */
export const blockedBy = (db: Db, customerId: string): CustomerBlock | null =>
  blocksOf(db, membersOf(db, customerId)).find((b) => b.decidedAt !== null) ?? null;
export const cameBlocked = (db: Db, customerId: string, floorAt: number): void =>
  void run(db, 'UPDATE customer_blocks SET came = came + 1, came_at = ? WHERE customer_id = ?', floorAt, customerId);
