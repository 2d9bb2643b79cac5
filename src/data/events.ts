import { contactOf, type EventBody, type LaneEvent } from '../core/events';
import { codeOfType, EVENT_VERSION, packedBody, type StoredEvent, upcast } from '../core/eventshapes';
import { contactNo, numberGiven } from './contactnumbers';
import { type Db, insert, row, rows, run } from './database';
import { type NumberedEvent, packedEvents, packedEventsOf } from './packed';
import { rowsChanged, rowsWritten } from './contactrows';
import { readContact } from './contacts';
import type { SomeContacts } from './contactsofday';
import { membersOf, partTie, writeTie } from './customerties';
import { dropDays } from './factdays';
import { joinJourney, journeysAnew } from './journeys';
import { legsOf } from './legs';
import { writeFront } from './fronts';
import { forget } from './memory';

const STORED = 'e.seq, e.type AS code, e.v, e.floor_at AS floorAt, e.real_at AS realAt, e.body';
const EVENT = `SELECT ${STORED}, c.id AS contactId FROM events e LEFT JOIN contacts c ON c.no = e.contact`;

/**
 * Adds an event to the log and makes its change in the tables read from; call inside a transaction. The body becomes the
 * event.
 */
export function appendEvent(db: Db, body: EventBody, floorAt: number, realAt: number): LaneEvent {
  const contactId = body.type === 'contact.started' ? null : contactOf(body);
  const seq = insert(
    db,
    'INSERT INTO events (type, v, floor_at, real_at, contact, body) VALUES (?, ?, ?, ?, ?, ?)',
    codeOfType(body.type),
    EVENT_VERSION,
    floorAt,
    realAt === floorAt ? null : realAt,
    contactId === null ? null : contactNo(db, contactId),
    packedBody(body),
  );
  // A contact's number is the place at which it began.
  if (body.type === 'contact.started') {
    run(db, 'UPDATE events SET contact = seq WHERE seq = ?', seq);
    numberGiven(db, body.contactId, seq);
  }
  // A copy of what may be any of thirty shapes costs more than writing it down.
  const event: LaneEvent = Object.assign(body, { seq, v: EVENT_VERSION, floorAt, realAt });
  applyToTables(db, event);
  return event;
}

/** Makes an event's change in the tables that are read, and in what is remembered of them. */
export function applyToTables(db: Db, event: LaneEvent): void {
  applyEvent(db, event);
  rowsChanged(db, event);
}

export const eventsAfter = (db: Db, seq: number, limit: number): LaneEvent[] =>
  rows<StoredEvent>(db, `${EVENT} WHERE e.seq > ? ORDER BY e.seq LIMIT ?`, seq, limit).map(upcast);

/** Conversations with bots that ended since an instant of the floor, each with its bot. */
export const conversationsEnded = (
  db: Db,
  since: number,
): (Extract<LaneEvent, { type: 'bot.finished' }> & { readonly botId: string })[] =>
  rows<StoredEvent & { readonly botId: string }>(
    db,
    `SELECT ${STORED}, c.id AS contactId, c.bot_id AS botId FROM events e JOIN contacts c ON c.no = e.contact
      WHERE e.type = ${codeOfType('bot.finished')} AND e.floor_at >= ? AND c.bot_id IS NOT NULL`,
    since,
  ).flatMap(({ botId, ...stored }) => {
    const event = upcast(stored);
    return event.type === 'bot.finished' ? [{ ...event, botId }] : [];
  });

type OfLife = Extract<LaneEvent, { type: 'bot.heard' | 'bot.finished' | 'message.written' }>;
const OF_LIFE: ReadonlySet<number> = new Set(
  (['bot.heard', 'bot.finished', 'message.written'] as const).map((type) => codeOfType(type)),
);

/** What was written, what bots heard and how they finished in some contacts; each with its contact's number. */
export function* lifeEvents(db: Db, of: SomeContacts): Generator<{ readonly no: number; readonly event: OfLife }> {
  const plain = rows<StoredEvent & { no: number }>(
    db,
    `SELECT ${STORED}, c.id AS contactId, c.no FROM contacts c JOIN events e ON e.contact = c.no
      WHERE ${of.where} AND e.type IN (${[...OF_LIFE].join()}) ORDER BY c.no, e.seq`,
    ...of.values,
  );
  for (const { no, ...stored } of plain) yield { no, event: upcast(stored) as OfLife };
  for (const { no, contactId, events } of packedEventsOf(db, of, OF_LIFE))
    for (const stored of events) yield { no, event: upcast({ ...stored, contactId }) as OfLife };
}

/** How far the log has come, whether or not its last events have been packed since. */
export const lastSeq = (db: Db): number =>
  row<{ seq: number }>(db, "SELECT seq FROM sqlite_sequence WHERE name = 'events'")?.seq ?? 0;

/** Something new happens in a contact: where it was over, its days are counted anew. */
function goesOn(db: Db, contactId: string): void {
  const contact = readContact(db, contactId);
  if (contact && contact.endedAt !== null) dropDays(db, contact.startedAt, contact.endedAt + 1);
}

/** Something of a contact is otherwise than its day was counted by. */
function dayOfContact(db: Db, contactId: string): void {
  const contact = readContact(db, contactId);
  if (contact) dropDays(db, contact.startedAt, contact.startedAt + 1);
}

/** The only writer of contacts, visits, offers, legs and duty states: each is what the events say. */
function applyEvent(db: Db, e: LaneEvent): void {
  switch (e.type) {
    case 'contact.started':
      run(
        db,
        `INSERT INTO contacts (no, id, door_id, channel, customer_id, language, bot_id, bot_version, open, started_at)
          VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
        e.seq,
        e.contactId,
        e.doorId,
        e.channel,
        e.customerId,
        e.language,
        e.botId,
        e.botVersion,
        e.open === undefined ? null : Number(e.open),
        e.floorAt,
      );
      joinJourney(db, e);
      break;
    case 'bot.started':
      run(db, 'UPDATE contacts SET bot_id = ?, bot_version = ? WHERE id = ?', e.botId, e.botVersion, e.contactId);
      break;
    case 'bot.mended':
      run(db, 'UPDATE contacts SET bot_version = ? WHERE id = ?', e.botVersion, e.contactId);
      break;
    case 'contact.ended':
      run(
        db,
        'UPDATE contacts SET ended_at = ?, ended_how = ?, mood = ? WHERE id = ?',
        e.floorAt,
        e.how,
        e.mood ?? null,
        e.contactId,
      );
      break;
    case 'visit.began':
      goesOn(db, e.contactId);
      run(
        db,
        `INSERT INTO visits (id, entry, contact_id, queue_id, channel, settings_version, placed_at, entered_at,
            needs, priority, goal_seconds, hand_over, passed, familiar_id, callback, message)
          VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
        e.visitId,
        e.entry ?? e.seq,
        e.contactId,
        e.queueId,
        e.channel,
        e.settingsVersion,
        e.placedAt,
        e.floorAt,
        JSON.stringify(e.needs),
        e.priority,
        e.goalSeconds,
        JSON.stringify(e.handOver ?? []),
        JSON.stringify(e.passed ?? []),
        e.familiarId ?? null,
        e.callback ? 1 : 0,
        e.message ? 1 : 0,
      );
      break;
    case 'visit.staged':
      run(db, "UPDATE visits SET staged_at = json_insert(staged_at, '$[#]', ?) WHERE id = ?", e.floorAt, e.visitId);
      break;
    case 'message.left':
      run(
        db,
        'UPDATE contacts SET left_for = ? WHERE id = ?',
        e.queueId === null ? null : JSON.stringify({ queueId: e.queueId, needs: e.needs }),
        e.contactId,
      );
      break;
    case 'visit.told':
      // What they are told first is what they go by.
      run(
        db,
        'UPDATE visits SET told_at = ?, told_seconds = ? WHERE id = ? AND told_at IS NULL',
        e.floorAt,
        e.seconds,
        e.visitId,
      );
      break;
    case 'visit.opened':
      run(
        db,
        "UPDATE visits SET opened = json_insert(opened, '$[#]', json_object('to', ?, 'id', ?)) WHERE id = ?",
        e.to,
        e.id,
        e.visitId,
      );
      break;
    case 'visit.asked':
      run(db, 'UPDATE visits SET choosing_until = ? WHERE id = ?', e.until, e.visitId);
      break;
    case 'partner.dialled':
      run(
        db,
        'INSERT INTO partner_calls (id, visit_id, contact_id, partner_id, number_id, started_at) VALUES (?, ?, ?, ?, ?, ?)',
        e.callId,
        e.visitId,
        e.contactId,
        e.partnerId,
        e.numberId,
        e.floorAt,
      );
      break;
    case 'partner.answered':
      run(db, 'UPDATE partner_calls SET answered_at = ? WHERE id = ?', e.floorAt, e.callId);
      break;
    case 'partner.ended':
      run(
        db,
        'UPDATE partner_calls SET ended_at = ?, ended_how = ?, counted = ? WHERE id = ?',
        e.floorAt,
        e.how,
        e.counted ? 1 : 0,
        e.callId,
      );
      break;
    case 'visit.ended':
      run(db, 'UPDATE visits SET ended_at = ?, ended_how = ? WHERE id = ?', e.floorAt, e.how, e.visitId);
      break;
    case 'offer.made':
      run(
        db,
        'INSERT INTO offers (id, visit_id, person_id, made_at, accept_by, group_id) VALUES (?, ?, ?, ?, ?, ?)',
        e.offerId,
        e.visitId,
        e.personId,
        e.floorAt,
        e.acceptBy,
        e.groupId ?? null,
      );
      break;
    case 'offer.ended':
      run(db, 'UPDATE offers SET ended_at = ?, ended_how = ? WHERE id = ?', e.floorAt, e.how, e.offerId);
      break;
    case 'leg.began':
      run(
        db,
        'INSERT INTO legs (id, contact_id, visit_id, person_id, accepted_at, group_id) VALUES (?, ?, ?, ?, ?, ?)',
        e.legId,
        e.contactId,
        e.visitId,
        e.personId,
        e.floorAt,
        e.groupId ?? null,
      );
      if (!e.broughtIn) run(db, 'UPDATE people SET last_contact_at = ? WHERE id = ?', e.floorAt, e.personId);
      break;
    case 'message.written':
      // A person's first reply.
      if (e.from === 'person' && legsOf(db, e.contactId).some((l) => l.endedAt === null && l.firstReplyAt === null)) {
        run(
          db,
          'UPDATE legs SET first_reply_at = ? WHERE contact_id = ? AND person_id = ? AND ended_at IS NULL AND first_reply_at IS NULL',
          e.floorAt,
          e.contactId,
          e.personId,
        );
        rowsWritten(db, 'legs', e.contactId);
      }
      break;
    case 'leg.wrapping':
      run(db, 'UPDATE legs SET talk_ended_at = ?, passed_on = ? WHERE id = ?', e.floorAt, e.passedOn ? 1 : 0, e.legId);
      break;
    case 'leg.line':
      // What a hold lasted is known when it ends.
      run(
        db,
        `UPDATE legs SET held_ms = held_ms + CASE line WHEN 'held' THEN ?2 - line_since ELSE 0 END, line = ?1, line_since = ?2
          WHERE id = ?3`,
        e.line,
        e.floorAt,
        e.legId,
      );
      break;
    case 'leg.filed':
      run(db, 'UPDATE legs SET outcome = ? WHERE id = ?', e.outcome, e.legId);
      break;
    case 'leg.ended':
      run(
        db,
        'UPDATE legs SET ended_at = ?, outcome = ?, handle_seconds = ?, in_front = ? WHERE id = ?',
        e.floorAt,
        e.outcome,
        e.handleSeconds,
        e.inFront ? 1 : 0,
        e.legId,
      );
      break;
    case 'leg.front':
      writeFront(db, e);
      break;
    case 'person.duty':
      // Coming on duty counts as just having had a contact, as in the router.
      run(
        db,
        `UPDATE people SET last_contact_at = CASE WHEN duty = 'off'
            AND ?1 = 'ready' THEN ?3 ELSE last_contact_at END, duty = ?1, duty_reason = ?2,
            duty_since = ?3 WHERE id = ?4`,
        e.duty,
        e.reason,
        e.floorAt,
        e.personId,
      );
      stateChanged(db, e, e.duty, e.reason, null);
      break;
    case 'person.reach':
      stateChanged(db, e, null, null, e.reachable);
      break;
    case 'customer.joined':
      writeTie(db, e);
      journeysAnew(db, membersOf(db, e.customerId));
      break;
    case 'customer.parted':
      for (const id of partTie(db, e)) journeysAnew(db, membersOf(db, id));
      break;
    case 'mood.said':
      run(
        db,
        'UPDATE contacts SET mood_said = ?, mood_by = ? WHERE id = ?',
        e.says,
        e.says === null ? null : e.personId,
        e.ofContactId,
      );
      dayOfContact(db, e.ofContactId);
      break;
    case 'contact.language':
      run(db, 'UPDATE contacts SET language = ? WHERE id = ?', e.language, e.contactId);
      break;
    case 'bot.asked':
    case 'bot.texted':
    case 'callback.changed':
    case 'bot.heard':
    case 'value.set':
    case 'bot.finished':
    case 'settings.changed':
      break;
  }
}

/** What became otherwise with a person's state; null where it is as it was. */
function stateChanged(
  db: Db,
  { personId, floorAt, seq }: { readonly personId: string; readonly floorAt: number; readonly seq: number },
  duty: string | null,
  reason: string | null,
  reachable: boolean | null,
): void {
  run(
    db,
    'INSERT INTO person_states (person_id, at, seq, duty, reason, reachable) VALUES (?, ?, ?, ?, ?, ?)',
    personId,
    floorAt,
    seq,
    duty,
    reason,
    reachable === null ? null : Number(reachable),
  );
}

const idOf = (db: Db, no: number | null): string | null =>
  no === null ? null : (row<{ id: string }>(db, 'SELECT id FROM contacts WHERE no = ?', no)?.id ?? null);

/** Events that are read at once when all of them are. */
const BATCH = 1000;

function* keptEvents(db: Db): Generator<NumberedEvent> {
  for (let seq = 0, batch: NumberedEvent[]; ; seq = batch.at(-1)?.seq ?? seq) {
    batch = rows(db, `SELECT ${STORED}, e.contact FROM events e WHERE e.seq > ? ORDER BY e.seq LIMIT ?`, seq, BATCH);
    yield* batch;
    if (batch.length < BATCH) return;
  }
}

/** Every event there is, packed or not, in the order of the log and a few at a time. */
export function* wholeLog(db: Db): Generator<NumberedEvent> {
  const [plain, packed] = [keptEvents(db), packedEvents(db)];
  let [a, b] = [plain.next(), packed.next()];
  while (!a.done || !b.done)
    if (b.done || (!a.done && a.value.seq < b.value.seq)) {
      if (!a.done) yield a.value;
      a = plain.next();
    } else {
      yield b.value;
      b = packed.next();
    }
}

/**
 * Empties the tables made from events and makes them anew from the log, event by event. For tests and repair, with no
 * server running.
 */
export function replayAll(db: Db): void {
  forget(db);
  db.transaction(() => {
    // Rows elsewhere point at contacts and visits; they are all back when the transaction ends.
    db.pragma('defer_foreign_keys = ON');
    for (const table of [
      'fact_days',
      'customer_stands',
      'customer_ties',
      'person_states',
      'leg_fronts',
      'partner_calls',
      'legs',
      'offers',
      'visits',
      'contacts',
    ])
      db.exec(`DELETE FROM ${table}`);
    // Which contact an event is about is known once that contact's first one has been applied.
    for (const { contact, ...stored } of wholeLog(db)) {
      const event = upcast({ ...stored, contactId: idOf(db, contact) });
      applyToTables(db, event);
    }
  })();
  forget(db);
}
