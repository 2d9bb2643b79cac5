import type { Channel } from '../core/channels';
import type { ContactEnd } from '../core/measures/facts';
import type { Mood } from '../core/mood/mood';
import { searchedDigits } from '../core/wordsearch';
import { type Db, row, rows } from './database';
import { MOOD_OF } from './moods';
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
  readonly mood: Mood | null;
  /** Whether somebody said so, rather than that it was judged by itself: 1 or 0. */
  readonly moodSaid: number;
  /** What it came to; private values stand as tokens. */
  readonly summary: string | null;
};
export function foundContacts(db: Db, nos: readonly number[]): FoundContact[] {
  const found = rows<FoundContact>(
    db,
    `SELECT c.no, c.id, c.channel, c.started_at AS startedAt, c.ended_at AS endedAt, c.ended_how AS endedHow,
        c.customer_id AS customerId, coalesce(u.name, u.address) AS customer,
        (SELECT group_concat(queue_id) FROM visits WHERE contact_id = c.id) AS queues,
        (SELECT group_concat(person_id) FROM legs WHERE contact_id = c.id) AS people,
        (SELECT group_concat(outcome) FROM legs WHERE contact_id = c.id) AS outcomes,
        (SELECT sum(handle_seconds) FROM legs WHERE contact_id = c.id) AS handleSeconds,
        ${MOOD_OF} AS mood, c.mood_said IS NOT NULL AS moodSaid,
        (SELECT words FROM contact_summaries WHERE contact_id = c.id) AS summary
      FROM contacts c JOIN customers u ON u.id = c.customer_id WHERE c.no IN (SELECT value FROM json_each(?))`,
    JSON.stringify(nos),
  );
  const byNo = new Map(found.map((contact) => [contact.no, contact]));
  return nos.flatMap((no) => byNo.get(no) ?? []);
}

/** When a contact began, by its number; null where there is none. */
export const startOf = (db: Db, no: number): number | null =>
  row<{ at: number }>(db, 'SELECT started_at AS at FROM contacts WHERE no = ?', no)?.at ?? null;

/** Customers whose name or address holds what was typed; a number however it is written. */
const LIKE = `(u.name LIKE ?2 ESCAPE '\\' OR u.address LIKE ?2 ESCAPE '\\'
    OR (?3 <> '' AND replace(replace(u.address, ' ', ''), '-', '') LIKE ?4))`;
function likeTyped(typed: string): readonly string[] {
  const digits = searchedDigits(typed);
  return [`%${typed.trim().replace(/[\\%_]/g, '\\$&')}%`, digits, `%${digits}%`];
}

/** Of these contacts, those of customers like what was typed. */
export const ofCustomersLike = (db: Db, nos: readonly number[], typed: string): ReadonlySet<number> =>
  new Set(
    rows<{ no: number }>(
      db,
      `SELECT c.no FROM contacts c JOIN customers u ON u.id = c.customer_id
        WHERE c.no IN (SELECT value FROM json_each(?1)) AND ${LIKE}`,
      JSON.stringify(nos),
      ...likeTyped(typed),
    ).map((contact) => contact.no),
  );

/** All contacts in [from, to) of customers like what was typed; null where these are more than so many. */
export function contactsOfCustomersLike(
  db: Db,
  typed: string,
  { from, to, most }: { readonly from: number; readonly to: number; readonly most: number },
): ReadonlySet<number> | null {
  const found = rows<{ id: string }>(
    db,
    `SELECT u.id FROM customers u WHERE ${LIKE} LIMIT ?1`,
    most + 1,
    ...likeTyped(typed),
  );
  if (found.length > most) return null;
  return new Set(
    rows<{ no: number }>(
      db,
      `SELECT c.no FROM json_each(?) i JOIN contacts c ON c.customer_id = i.value AND c.started_at >= ? AND c.started_at < ?`,
      JSON.stringify(found.map((customer) => customer.id)),
      from,
      to,
    ).map((contact) => contact.no),
  );
}

/** What was said in contacts and what they came to, by number; also in those that have been packed. Private values stand as tokens. */
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
  for (const { no, words } of rows<{ no: number; words: string }>(
    db,
    `SELECT c.no, s.words FROM contacts c JOIN contact_summaries s ON s.contact_id = c.id
      WHERE c.no IN (SELECT value FROM json_each(?))`,
    JSON.stringify(nos),
  ))
    texts.get(no)?.push(words);
  return texts;
}
