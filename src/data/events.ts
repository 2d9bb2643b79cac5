import { contactOf, EVENT_VERSION, upcast, type EventBody, type LaneEvent } from '../core/events';
import { insert, row, rows, run, type Db } from './database';

type EventRow = { seq: number; type: string; v: number; floorAt: number; realAt: number; body: string };
const COLUMNS = 'seq, type, v, floor_at AS floorAt, real_at AS realAt, body';

/** Adds an event to the log and makes its change in the tables read from; call inside a transaction. */
export function appendEvent(db: Db, body: EventBody, floorAt: number, realAt: number): LaneEvent {
  const seq = insert(
    db,
    'INSERT INTO events (type, v, floor_at, real_at, contact_id, body) VALUES (?, ?, ?, ?, ?, ?)',
    body.type,
    EVENT_VERSION,
    floorAt,
    realAt,
    contactOf(body),
    JSON.stringify(body),
  );
  const event: LaneEvent = { ...body, seq, v: EVENT_VERSION, floorAt, realAt };
  applyEvent(db, event);
  return event;
}

export const eventsAfter = (db: Db, seq: number, limit: number): LaneEvent[] =>
  rows<EventRow>(db, `SELECT ${COLUMNS} FROM events WHERE seq > ? ORDER BY seq LIMIT ?`, seq, limit).map(upcast);

export const lastSeq = (db: Db): number =>
  row<{ seq: number }>(db, 'SELECT coalesce(max(seq), 0) AS seq FROM events')?.seq ?? 0;

/** The only writer of contacts, visits, offers, legs and duty states: each is what the events say. */
function applyEvent(db: Db, e: LaneEvent): void {
  switch (e.type) {
    case 'contact.started':
      run(
        db,
        `INSERT INTO contacts (id, door_id, channel, customer_id, language, bot_id, bot_version, started_at)
          VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
        e.contactId,
        e.doorId,
        e.channel,
        e.customerId,
        e.language,
        e.botId,
        e.botVersion,
        e.floorAt,
      );
      break;
    case 'bot.started':
      run(db, 'UPDATE contacts SET bot_id = ?, bot_version = ? WHERE id = ?', e.botId, e.botVersion, e.contactId);
      break;
    case 'contact.ended':
      run(db, 'UPDATE contacts SET ended_at = ?, ended_how = ? WHERE id = ?', e.floorAt, e.how, e.contactId);
      break;
    case 'visit.began':
      run(
        db,
        `INSERT INTO visits (id, entry, contact_id, queue_id, channel, settings_version, placed_at, entered_at,
            needs, priority, goal_seconds, hand_over, passed, familiar_id, callback)
          VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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
      );
      break;
    case 'visit.staged':
      run(db, "UPDATE visits SET staged_at = json_insert(staged_at, '$[#]', ?) WHERE id = ?", e.floorAt, e.visitId);
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
      run(db, 'UPDATE people SET last_contact_at = ? WHERE id = ?', e.floorAt, e.personId);
      break;
    case 'message.written':
      if (e.from === 'person')
        run(
          db,
          'UPDATE legs SET first_reply_at = ? WHERE contact_id = ? AND person_id = ? AND ended_at IS NULL AND first_reply_at IS NULL',
          e.floorAt,
          e.contactId,
          e.personId,
        );
      break;
    case 'leg.wrapping':
      run(db, 'UPDATE legs SET talk_ended_at = ?, passed_on = ? WHERE id = ?', e.floorAt, e.passedOn ? 1 : 0, e.legId);
      break;
    case 'leg.filed':
      run(db, 'UPDATE legs SET outcome = ? WHERE id = ?', e.outcome, e.legId);
      break;
    case 'leg.ended':
      run(
        db,
        'UPDATE legs SET ended_at = ?, outcome = ?, handle_seconds = ? WHERE id = ?',
        e.floorAt,
        e.outcome,
        e.handleSeconds,
        e.legId,
      );
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
    case 'person.reach':
    case 'settings.changed':
      break;
  }
}

/**
 * Empties the tables made from events and makes them anew from the log. For tests and repair, with no server running.
 */
export function replayAll(db: Db): void {
  db.transaction(() => {
    // Rows elsewhere point at contacts and visits; they are all back when the transaction ends.
    db.pragma('defer_foreign_keys = ON');
    for (const table of ['partner_calls', 'legs', 'offers', 'visits', 'contacts']) db.exec(`DELETE FROM ${table}`);
    for (const event of eventsAfter(db, 0, Number.MAX_SAFE_INTEGER)) applyEvent(db, event);
  })();
}
