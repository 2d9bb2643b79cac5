import type { Channel } from '../core/channels';
import type { ContactEnd } from '../core/measures/facts';
import { searchedDigits } from '../core/wordsearch';
import { type Db, rows } from './database';
import { packedLife } from './packed';

/** Customers that are looked for at once: more say nothing. */
const MOST_CUSTOMERS = 5000;

/** Customers by a part of their name or address, or by a number in any spelling. */
export function customersLike(db: Db, typed: string): ReadonlySet<string> {
  const like = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
  const digits = searchedDigits(typed);
  return new Set(
    rows<{ id: string }>(
      db,
      `SELECT id FROM customers WHERE name LIKE ?1 ESCAPE '\\' OR address LIKE ?1 ESCAPE '\\'
        OR (?2 <> '' AND replace(replace(address, ' ', ''), '-', '') LIKE ?3) LIMIT ${MOST_CUSTOMERS}`,
      like(typed.trim()),
      digits,
      `%${digits}%`,
    ).map((customer) => customer.id),
  );
}

/** A contact as a list of those found shows it. */
export type FoundContact = {
  readonly no: number;
  readonly id: string;
  readonly channel: Channel;
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly endedHow: ContactEnd | null;
  readonly customerId: string;
  readonly customer: string;
  readonly queues: string | null;
  readonly people: string | null;
  readonly outcomes: string | null;
  readonly handleSeconds: number | null;
};
export function foundContacts(db: Db, nos: readonly number[]): FoundContact[] {
  const found = rows<FoundContact>(
    db,
    `SELECT c.no, c.id, c.channel, c.started_at AS startedAt, c.ended_at AS endedAt, c.ended_how AS endedHow,
        c.customer_id AS customerId, coalesce(u.name, u.address) AS customer,
        (SELECT group_concat(queue_id) FROM visits WHERE contact_id = c.id) AS queues,
        (SELECT group_concat(person_id) FROM legs WHERE contact_id = c.id) AS people,
        (SELECT group_concat(outcome) FROM legs WHERE contact_id = c.id) AS outcomes,
        (SELECT sum(handle_seconds) FROM legs WHERE contact_id = c.id) AS handleSeconds
      FROM contacts c JOIN customers u ON u.id = c.customer_id WHERE c.no IN (SELECT value FROM json_each(?))`,
    JSON.stringify(nos),
  );
  const byNo = new Map(found.map((contact) => [contact.no, contact]));
  return nos.flatMap((no) => byNo.get(no) ?? []);
}

/** Whose contacts these are, by number. */
export const customersOf = (db: Db, nos: readonly number[]): ReadonlyMap<number, string> =>
  new Map(
    rows<{ no: number; customerId: string }>(
      db,
      'SELECT no, customer_id AS customerId FROM contacts WHERE no IN (SELECT value FROM json_each(?))',
      JSON.stringify(nos),
    ).map((contact) => [contact.no, contact.customerId]),
  );

/** What was said in contacts, by number; also in those that have been packed. Private values stand as tokens. */
export function textsOf(db: Db, nos: readonly number[]): ReadonlyMap<number, readonly string[]> {
  const texts = new Map<number, string[]>(nos.map((no) => [no, []]));
  for (const { no, text } of rows<{ no: number; text: string }>(
    db,
    `SELECT e.contact AS no, m.text FROM events e JOIN messages m ON m.seq = e.seq
      WHERE e.contact IN (SELECT value FROM json_each(?)) ORDER BY e.seq`,
    JSON.stringify(nos),
  ))
    texts.get(no)?.push(text);
  for (const [no, said] of texts)
    if (said.length === 0) said.push(...(packedLife(db, no)?.said ?? []).map((s) => s.text));
  return texts;
}
