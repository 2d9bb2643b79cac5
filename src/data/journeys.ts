import { JOURNEY_MS, journeysOf } from '../core/measures/journeys';
import { membersOf } from './customerties';
import { type Db, row, rows, run } from './database';
import { dropDays } from './factdays';
import type { SomeContacts } from './contactsofday';

type Part = { readonly no: number; readonly at: number; readonly partOf: number | null };
const PART = 'SELECT no, started_at AS at, part_of AS partOf FROM contacts';

/** A contact has begun: it goes on with a journey of its customer, or begins one. */
export function joinJourney(
  db: Db,
  { seq, customerId, floorAt }: { readonly seq: number; readonly customerId: string; readonly floorAt: number },
): void {
  const members = membersOf(db, customerId);
  const last = row<Part>(
    db,
    `${PART} WHERE customer_id IN (SELECT value FROM json_each(?)) AND no <> ? ORDER BY started_at DESC, no DESC LIMIT 1`,
    JSON.stringify(members),
    seq,
  );
  if (!last || last.at < floorAt - JOURNEY_MS) return;
  // What is brought in may have begun before others that are there already.
  if (last.at > floorAt) return beganBefore(db, members, { no: seq, at: floorAt });
  const first = last.partOf === null ? last : row<Part>(db, `${PART} WHERE no = ?`, last.partOf);
  if (!first || first.at < floorAt - JOURNEY_MS) return;
  // The day of the first one is not settled before all of its journey has begun: it need not be forgotten.
  run(db, 'UPDATE contacts SET part_of = ? WHERE no = ?', first.no, seq);
}

/** A contact that began before others of its customer which are there already. */
function beganBefore(
  db: Db,
  members: readonly string[],
  { no, at }: { readonly no: number; readonly at: number },
): void {
  const first = row<Part>(
    db,
    `${PART} WHERE customer_id IN (SELECT value FROM json_each(?)) AND no <> ? AND part_of IS NULL AND started_at <= ?
      ORDER BY started_at DESC, no DESC LIMIT 1`,
    JSON.stringify(members),
    no,
    at,
  );
  if (!first || first.at < at - JOURNEY_MS) return putAnew(db, members, at, at);
  run(db, 'UPDATE contacts SET part_of = ? WHERE no = ?', first.no, no);
  forgetDay(db, first.no);
}

/** Contacts of one customer that are put into journeys anew at once: more than nearly anybody ever has. */
const MOST = 1000;

/** Customers have been joined or parted: their contacts are put into journeys anew. */
export const journeysAnew = (db: Db, members: readonly string[]): void => putAnew(db, members, 0, Infinity);

/** A contact is gone: those that went on with what it began are put into journeys of their own. */
export function firstTakenOut(db: Db, no: number, members: readonly string[]): void {
  const next = row<Part>(db, `${PART} WHERE part_of = ? ORDER BY started_at, no LIMIT 1`, no);
  if (next) putAnew(db, members, next.at, next.at);
}

/**
 * Puts contacts that began from an instant on into journeys anew, as far as that changes anything: what comes after one
 * that began a journey before and after is as it was, once `changedAt` lies behind. Days whose journeys are others now are
 * forgotten.
 */
function putAnew(db: Db, members: readonly string[], from: number, changedAt: number): void {
  const contacts = rows<Part>(
    db,
    `${PART} WHERE customer_id IN (SELECT value FROM json_each(?)) AND started_at >= ? ORDER BY started_at, no LIMIT ?`,
    JSON.stringify(members),
    from,
    MOST,
  );
  const firsts = journeysOf(contacts);
  const firstOf = (one: Part): number | null => firsts.get(one.no) ?? null;
  for (const one of contacts) {
    const first = firstOf(one);
    if (one.at > changedAt && first === null && one.partOf === null) return;
    if (first === one.partOf) continue;
    run(db, 'UPDATE contacts SET part_of = ? WHERE no = ?', first, one.no);
    for (const no of [one.no, one.partOf, first]) if (no !== null) forgetDay(db, no);
  }
  // Of somebody who came more often than that, the rest is left as it is, but for what went on with one that begins no more.
  const last = contacts.at(-1);
  if (contacts.length < MOST || !last) return;
  for (const one of contacts) {
    if (firstOf(one) === null) continue;
    const next = row<Part>(db, `${PART} WHERE part_of = ? ORDER BY started_at, no LIMIT 1`, one.no);
    if (!next) continue;
    run(db, 'UPDATE contacts SET part_of = nullif(?1, no) WHERE part_of = ?2', next.no, one.no);
    forgetDay(db, next.no);
  }
}
function forgetDay(db: Db, no: number): void {
  const found = row<Part>(db, `${PART} WHERE no = ?`, no);
  if (found) dropDays(db, found.at, found.at + 1);
}

/** A contact that goes on with a journey that another began. */
export type FurtherPart = {
  /** The number of the first one, and its own. */
  readonly first: number;
  readonly no: number;
  readonly channel: string;
  readonly endedAt: number | null;
  /** Who dealt with it, with commas between; null for nobody. */
  readonly people: string | null;
};
/** What came after some contacts in their journeys. */
export const furtherParts = (db: Db, of: SomeContacts): FurtherPart[] =>
  rows<FurtherPart>(
    db,
    `SELECT c.no AS first, p.no, p.channel, p.ended_at AS endedAt,
        (SELECT group_concat(DISTINCT person_id) FROM legs WHERE contact_id = p.id) AS people
      FROM contacts c JOIN contacts p ON p.part_of = c.no WHERE ${of.where} ORDER BY c.no, p.no`,
    ...of.values,
  );
