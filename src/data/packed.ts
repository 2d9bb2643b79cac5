import type { SomeContacts } from './contactsofday';
import { numberOf } from './contactnumbers';
import { type Db, row, rows, run } from './database';
import { deflated, inflated } from './deflated';

/**
 * A contact that has been over for a while is packed: its events, what was said and its trails become one deflated row.
 * What is read of it afterwards is what was there before, to the letter. Private values are not in it but by their tokens,
 * so that erasing one erases it everywhere.
 */
const DICTIONARY = 2;

/** An event as it stood in its table. */
export type EventRow = {
  readonly seq: number;
  readonly code: number;
  readonly v: number;
  readonly floorAt: number;
  readonly realAt: number | null;
  readonly body: string | null;
};
/** What was said, as it stood in its table. */
export type SaidRow = {
  readonly seq: number;
  readonly text: string;
  readonly options: string | null;
  readonly ssml: string | null;
  readonly mayInterrupt: number | null;
  readonly image: string | null;
};
/** A decision of a visit of the contact's: the trail with numbers for people. */
export type DecisionRow = { readonly id: number; readonly visitId: string; readonly trail: string };
export type Life = {
  readonly events: readonly EventRow[];
  readonly said: readonly SaidRow[];
  readonly decisions: readonly DecisionRow[];
};

/** Places in the log and instants are kept as steps from the one before; JSON within JSON as it is, not as text. */
function lifeText({ events, said, decisions }: Life): string {
  let [seq, at] = [0, 0];
  const e = events.map((one) => {
    const packed = [one.seq - seq, one.code, one.v, one.floorAt - at, one.realAt, raw(one.body)];
    [seq, at] = [one.seq, one.floorAt];
    return packed;
  });
  const place = new Map(events.map((one, i) => [one.seq, i]));
  const m = said.map((one) =>
    trimmed([place.get(one.seq) ?? -1, one.text, raw(one.options), one.ssml, one.mayInterrupt, raw(one.image)]),
  );
  const d = decisions.map((one) => [one.id, one.visitId, raw(one.trail)]);
  return JSON.stringify([e, m, d]);
}

/** Only JSON that comes out again as it went in is taken apart. */
function raw(json: string | null): unknown {
  if (json === null) return null;
  const value: unknown = JSON.parse(json);
  return value !== null && typeof value === 'object' && !isText(value) && JSON.stringify(value) === json
    ? value
    : { text: json };
}
/** How text stands that is not taken apart. */
const isText = (value: unknown): value is { readonly text: string } =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.keys(value).length === 1 &&
  'text' in value &&
  typeof value.text === 'string';
function unraw(value: unknown): string | null {
  if (value === null || value === undefined) return null;
  return isText(value) ? value.text : JSON.stringify(value);
}
function trimmed(values: unknown[]): unknown[] {
  while (values.length > 0 && values.at(-1) === null) values.pop();
  return values;
}

type Packed = readonly [
  readonly (readonly [number, number, number, number, number | null, unknown])[],
  readonly (readonly [number, string, unknown?, (string | null)?, (number | null)?, unknown?])[],
  readonly (readonly [number, string, unknown])[],
];

function eventsFrom(e: Packed[0], codes: ReadonlySet<number> | null): EventRow[] {
  let [seq, floorAt] = [0, 0];
  const events: EventRow[] = [];
  for (const [step, code, v, later, realAt, body] of e) {
    seq += step;
    floorAt += later;
    if (codes === null || codes.has(code)) events.push({ seq, code, v, floorAt, realAt, body: unraw(body) });
  }
  return events;
}
function lifeFrom(text: string): Life {
  const [e, m, d] = JSON.parse(text) as Packed;
  const events = eventsFrom(e, null);
  return {
    events,
    said: m.map(([place, words, options, ssml, mayInterrupt, image]) => ({
      seq: events[place]?.seq ?? 0,
      text: words,
      options: unraw(options),
      ssml: ssml ?? null,
      mayInterrupt: mayInterrupt ?? null,
      image: unraw(image),
    })),
    decisions: d.map(([id, visitId, trail]) => ({ id, visitId, trail: unraw(trail) ?? '' })),
  };
}

const EVENTS = `SELECT seq, type AS code, v, floor_at AS floorAt, real_at AS realAt, body FROM events WHERE contact = ?
      ORDER BY seq`;

/**
 * Packs a contact that is over; `numbered` gives a kept trail with numbers for people. Call inside a transaction. Gives the
 * bytes that its life takes now.
 */
export function packContact(db: Db, no: number, numbered: (kept: Buffer | string) => string): number {
  const visits = rows<{ id: string }>(
    db,
    'SELECT v.id FROM visits v JOIN contacts c ON c.id = v.contact_id WHERE c.no = ? ORDER BY v.rowid',
    no,
  );
  const life: Life = {
    events: rows<EventRow>(db, EVENTS, no),
    said: rows<SaidRow>(
      db,
      `SELECT m.seq, m.text, m.options, m.ssml, m.may_interrupt AS mayInterrupt, m.image FROM messages m
        JOIN events e ON e.seq = m.seq WHERE e.contact = ? ORDER BY m.seq`,
      no,
    ),
    decisions: visits.flatMap(({ id: visitId }) =>
      rows<{ id: number; trail: Buffer | string }>(
        db,
        'SELECT id, trail FROM decisions WHERE visit_id = ? ORDER BY id',
        visitId,
      ).map(({ id, trail }) => ({ id, visitId, trail: numbered(trail) })),
    ),
  };
  const bytes = writePacked(db, no, life);
  run(db, 'DELETE FROM messages WHERE seq IN (SELECT seq FROM events WHERE contact = ?)', no);
  run(db, 'DELETE FROM events WHERE contact = ?', no);
  for (const visit of visits) run(db, 'DELETE FROM decisions WHERE visit_id = ?', visit.id);
  return bytes;
}

/** Writes a life as it is packed; gives the bytes that it takes. */
export function writePacked(db: Db, no: number, life: Life): number {
  const bytes = deflated(lifeText(life), DICTIONARY);
  run(db, 'INSERT INTO packed_contacts (no, life) VALUES (?, ?)', no, bytes);
  return bytes.length;
}

/** The life of a packed contact; null for one that is not packed. */
export function packedLife(db: Db, no: number | null): Life | null {
  const found = row<{ life: Buffer }>(db, 'SELECT life FROM packed_contacts WHERE no = ?', no);
  return found ? lifeFrom(inflated(found.life)) : null;
}

/** Of some contacts, those that are packed: what happened in each that is of one of these kinds, in order. */
export function* packedEventsOf(
  db: Db,
  of: SomeContacts,
  codes: ReadonlySet<number>,
): Generator<{ readonly no: number; readonly contactId: string; readonly events: readonly EventRow[] }> {
  for (const { no, contactId, life } of rows<{ no: number; contactId: string; life: Buffer }>(
    db,
    `SELECT c.no, c.id AS contactId, p.life FROM contacts c JOIN packed_contacts p ON p.no = c.no
      WHERE ${of.where}`,
    ...of.values,
  ))
    yield { no, contactId, events: eventsFrom((JSON.parse(inflated(life)) as Packed)[0], codes) };
}

/** Trails of a visit whose contact is packed, with numbers for people. */
export function packedTrails(db: Db, visitId: string): string[] {
  const found = row<{ contactId: string }>(db, 'SELECT contact_id AS contactId FROM visits WHERE id = ?', visitId);
  const life = found ? packedLife(db, numberOf(db, found.contactId)) : null;
  return (life?.decisions ?? []).filter((d) => d.visitId === visitId).map((d) => d.trail);
}

/** A contact as packing looks at it. */
export type MaybePacked = {
  readonly no: number;
  readonly startedAt: number;
  /** When it was over; null while anything of it is open. */
  readonly overAt: number | null;
  readonly packed: boolean;
};

/** Contacts after one, oldest first. The first event of a contact stands at its number until it is packed. */
export const contactsAfter = (db: Db, afterNo: number, most: number): MaybePacked[] =>
  rows<Omit<MaybePacked, 'packed'> & { packed: number }>(
    db,
    `SELECT c.no, c.started_at AS startedAt, NOT EXISTS (SELECT 1 FROM events e WHERE e.seq = c.no) AS packed,
        CASE WHEN EXISTS (SELECT 1 FROM legs l WHERE l.contact_id = c.id AND l.ended_at IS NULL)
          OR EXISTS (SELECT 1 FROM bot_places b WHERE b.contact_id = c.id) THEN NULL ELSE c.ended_at END AS overAt
      FROM contacts c WHERE c.no > ? ORDER BY c.no LIMIT ?`,
    afterNo,
    most,
  ).map((c) => ({ ...c, packed: c.packed === 1 }));

/** An event with the number of its contact. */
export type NumberedEvent = EventRow & { readonly contact: number | null };

/** Contacts whose lives are read at once. */
const BATCH = 200;

/**
 * The events of all packed contacts in the order of the log. Only the lives of contacts that went on at the same time are
 * held at once.
 */
export function* packedEvents(db: Db): Generator<NumberedEvent> {
  const going: { readonly no: number; readonly events: readonly EventRow[]; at: number }[] = [];
  const next = function* (): Generator<{ no: number; life: Buffer }> {
    for (let after = 0, batch: { no: number; life: Buffer }[]; ; after = batch.at(-1)?.no ?? after) {
      batch = rows(db, 'SELECT no, life FROM packed_contacts WHERE no > ? ORDER BY no LIMIT ?', after, BATCH);
      yield* batch;
      if (batch.length < BATCH) return;
    }
  };
  const seqOf = (one: (typeof going)[number]): number => one.events[one.at]?.seq ?? Infinity;
  const first = (): number => going.reduce((least, one, i) => (seqOf(one) < seqAt(least) ? i : least), 0);
  const seqAt = (i: number): number => (going[i] ? seqOf(going[i]) : Infinity);
  const coming = next();
  let following = coming.next();
  for (;;) {
    let least = first();
    while (!following.done && following.value.no <= seqAt(least)) {
      going.push({ no: following.value.no, events: lifeFrom(inflated(following.value.life)).events, at: 0 });
      following = coming.next();
      least = first();
    }
    const one = going[least];
    const event = one?.events[one.at];
    if (!one || !event) return;
    yield { ...event, contact: one.no };
    one.at++;
    if (one.at >= one.events.length) going.splice(least, 1);
  }
}
