import type { Channel } from '../core/channels';
import type { ContactEnd } from '../core/measures/facts';
import { searchedDigits } from '../core/wordsearch';
import { type Db, row, rows } from './database';
import { packedLife } from './packed';

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

/** When a contact began, by its number; null where there is none. */
export const startOf = (db: Db, no: number): number | null =>
  row<{ at: number }>(db, 'SELECT started_at AS at FROM contacts WHERE no = ?', no)?.at ?? null;

/** Which of some contacts are of a customer by a part of their name or address, or by a number in any spelling. */
export function ofCustomersLike(db: Db, nos: readonly number[], typed: string): ReadonlySet<number> {
  const digits = searchedDigits(typed);
  return new Set(
    rows<{ no: number }>(
      db,
      `SELECT c.no FROM contacts c JOIN customers u ON u.id = c.customer_id
        WHERE c.no IN (SELECT value FROM json_each(?1)) AND (u.name LIKE ?2 ESCAPE '\\' OR u.address LIKE ?2 ESCAPE '\\'
          OR (?3 <> '' AND replace(replace(u.address, ' ', ''), '-', '') LIKE ?4))`,
      JSON.stringify(nos),
      `%${typed.trim().replace(/[\\%_]/g, '\\$&')}%`,
      digits,
      `%${digits}%`,
    ).map((contact) => contact.no),
  );
}

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
