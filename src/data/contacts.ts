import type { BotState, ShownImage } from '../core/bots/conversation';
import type { Channel } from '../core/channels';
import type { ContactEnd, VisitEnd } from '../core/measures/facts';
import type { MergedNeed, Need } from '../core/routing/needs';
import type { Trail } from '../core/routing/trail';
import { insert, row, rows, run, type Db } from './database';

export type Contact = {
  readonly id: string;
  readonly doorId: string;
  readonly channel: Channel;
  readonly customerId: string;
  readonly language: string;
  readonly botId: string | null;
  readonly botVersion: number | null;
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly endedHow: ContactEnd | null;
};
const CONTACT =
  'SELECT id, door_id AS doorId, channel, customer_id AS customerId, language, bot_id AS botId, bot_version AS botVersion, started_at AS startedAt, ended_at AS endedAt, ended_how AS endedHow FROM contacts';
export const readContact = (db: Db, id: string): Contact | undefined => row<Contact>(db, `${CONTACT} WHERE id = ?`, id);
/** Earlier contacts of the same customer, newest first. */
export const contactsOfCustomer = (db: Db, customerId: string, limit: number): Contact[] =>
  rows<Contact>(db, `${CONTACT} WHERE customer_id = ? ORDER BY started_at DESC LIMIT ?`, customerId, limit);

export type Customer = {
  readonly id: string;
  readonly channel: Channel;
  readonly address: string;
  readonly name: string | null;
};
export const customerAt = (db: Db, channel: Channel, address: string): Customer | undefined =>
  row<Customer>(
    db,
    'SELECT id, channel, address, name FROM customers WHERE channel = ? AND address = ?',
    channel,
    address,
  );
export const readCustomer = (db: Db, id: string): Customer | undefined =>
  row<Customer>(db, 'SELECT id, channel, address, name FROM customers WHERE id = ?', id);
export const writeCustomer = (db: Db, c: Customer): void => {
  run(
    db,
    'INSERT INTO customers (id, channel, address, name) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (id) DO UPDATE SET name = ?4',
    c.id,
    c.channel,
    c.address,
    c.name,
  );
};

/** What only the customer's side holds: the hash of its token; and the bot's place in its script while a bot talks. */
export const writeContactKey = (db: Db, contactId: string, tokenHash: string): void => {
  run(db, 'INSERT INTO contact_keys (contact_id, token_hash) VALUES (?, ?)', contactId, tokenHash);
};
export const readContactKey = (db: Db, contactId: string): string | null =>
  row<{ h: string }>(db, 'SELECT token_hash AS h FROM contact_keys WHERE contact_id = ?', contactId)?.h ?? null;
export const writeBotState = (db: Db, contactId: string, state: BotState | null): void => {
  run(
    db,
    'UPDATE contact_keys SET bot_state = ? WHERE contact_id = ?',
    state === null ? null : JSON.stringify(state),
    contactId,
  );
};
export const readBotState = (db: Db, contactId: string): BotState | null => {
  const found = row<{ s: string | null }>(
    db,
    'SELECT bot_state AS s FROM contact_keys WHERE contact_id = ?',
    contactId,
  );
  return found?.s ? (JSON.parse(found.s) as BotState) : null;
};

/** Contacts whose bot waits for an answer from outside. */
export const askingContacts = (db: Db): string[] =>
  rows<{ id: string }>(
    db,
    "SELECT contact_id AS id FROM contact_keys WHERE bot_state IS NOT NULL AND json_extract(bot_state, '$.status') = 'asking'",
  ).map((r) => r.id);

/** What a contact is being asked while it waits; null for nothing. */
export const writeAsking = (db: Db, contactId: string, asking: object | null): void => {
  run(
    db,
    'UPDATE contact_keys SET asking = ? WHERE contact_id = ?',
    asking === null ? null : JSON.stringify(asking),
    contactId,
  );
};
export const readAsking = <T>(db: Db, contactId: string): T | null => {
  const found = row<{ a: string | null }>(db, 'SELECT asking AS a FROM contact_keys WHERE contact_id = ?', contactId);
  return found?.a ? (JSON.parse(found.a) as T) : null;
};

export type MessageOption = { readonly key: string; readonly label: string };
/** One message of a transcript; private values in `text` are tokens, see `privatevalues.ts`. `seq` is its event's. */
export type Message = {
  readonly id: string;
  readonly seq: number;
  readonly sender: 'customer' | 'bot' | 'person';
  readonly personId: string | null;
  readonly lineId: string | null;
  readonly text: string;
  readonly options: readonly MessageOption[];
  readonly floorAt: number;
  /** The text with SSML tags where it has some, and whether speaking may cut it short. */
  readonly ssml: string | null;
  readonly mayInterrupt: boolean;
  readonly image: ShownImage | null;
};
export const writeMessage = (db: Db, contactId: string, m: Message): void => {
  run(
    db,
    'INSERT INTO messages (id, seq, contact_id, sender, person_id, line_id, text, options, floor_at, ssml, may_interrupt, image) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
    m.id,
    m.seq,
    contactId,
    m.sender,
    m.personId,
    m.lineId,
    m.text,
    JSON.stringify(m.options),
    m.floorAt,
    m.ssml,
    m.mayInterrupt ? 1 : 0,
    m.image === null ? null : JSON.stringify(m.image),
  );
};
export const messagesOf = (db: Db, contactId: string, afterSeq = 0): Message[] =>
  rows<
    Omit<Message, 'options' | 'mayInterrupt' | 'image'> & {
      options: string;
      mayInterrupt: number;
      image: string | null;
    }
  >(
    db,
    'SELECT id, seq, sender, person_id AS personId, line_id AS lineId, text, options, floor_at AS floorAt, ssml, may_interrupt AS mayInterrupt, image FROM messages WHERE contact_id = ? AND seq > ? ORDER BY seq',
    contactId,
    afterSeq,
  ).map((m) => ({
    ...m,
    options: JSON.parse(m.options) as MessageOption[],
    mayInterrupt: m.mayInterrupt === 1,
    image: m.image === null ? null : (JSON.parse(m.image) as ShownImage),
  }));

export const writeValue = (db: Db, contactId: string, name: string, value: string): void => {
  run(
    db,
    'INSERT INTO contact_values (contact_id, name, value) VALUES (?1, ?2, ?3) ON CONFLICT DO UPDATE SET value = ?3',
    contactId,
    name,
    value,
  );
};
export const valuesOf = (db: Db, contactId: string): { name: string; value: string }[] =>
  rows(db, 'SELECT name, value FROM contact_values WHERE contact_id = ?', contactId);
/** Fields that a bot has passed on: what the Desk may show. */
export const passField = (db: Db, contactId: string, name: string): void => {
  run(db, 'INSERT OR IGNORE INTO passed_fields (contact_id, name) VALUES (?, ?)', contactId, name);
};
export const passedFields = (db: Db, contactId: string): Set<string> =>
  new Set(
    rows<{ name: string }>(db, 'SELECT name FROM passed_fields WHERE contact_id = ?', contactId).map((r) => r.name),
  );
export const writePrivateValue = (db: Db, id: string, contactId: string, name: string, value: string): void => {
  run(db, 'INSERT INTO private_values (id, contact_id, name, value) VALUES (?, ?, ?, ?)', id, contactId, name, value);
};
export const privateValuesOf = (db: Db, contactId: string): { id: string; name: string; value: string }[] =>
  rows(db, 'SELECT id, name, value FROM private_values WHERE contact_id = ? ORDER BY rowid', contactId);

export type Visit = {
  readonly id: string;
  readonly entry: number;
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly settingsVersion: number;
  readonly placedAt: number;
  readonly enteredAt: number;
  readonly endedAt: number | null;
  readonly endedHow: VisitEnd | null;
  readonly needs: readonly MergedNeed[];
  readonly priority: number;
  readonly goalSeconds: number;
  readonly handOver: readonly Need[];
  readonly passed: readonly string[];
  readonly familiarId: string | null;
  readonly callback: boolean;
  readonly stagedAt: readonly number[];
  readonly opened: readonly { readonly to: 'group' | 'partner'; readonly id: string }[];
  readonly choosingUntil: number | null;
};
type VisitRow = Omit<Visit, 'needs' | 'handOver' | 'passed' | 'callback' | 'stagedAt' | 'opened'> & {
  needs: string;
  handOver: string;
  passed: string;
  callback: number;
  stagedAt: string;
  opened: string;
};
const VISIT =
  'SELECT id, entry, contact_id AS contactId, queue_id AS queueId, channel, settings_version AS settingsVersion, placed_at AS placedAt, entered_at AS enteredAt, ended_at AS endedAt, ended_how AS endedHow, needs, priority, goal_seconds AS goalSeconds, hand_over AS handOver, passed, familiar_id AS familiarId, callback, staged_at AS stagedAt, opened, choosing_until AS choosingUntil FROM visits';
const visitFrom = (r: VisitRow): Visit => ({
  ...r,
  needs: JSON.parse(r.needs) as MergedNeed[],
  handOver: JSON.parse(r.handOver) as Need[],
  passed: JSON.parse(r.passed) as string[],
  callback: r.callback === 1,
  stagedAt: JSON.parse(r.stagedAt) as number[],
  opened: JSON.parse(r.opened) as Visit['opened'],
});
export const openVisits = (db: Db): Visit[] =>
  rows<VisitRow>(db, `${VISIT} WHERE ended_at IS NULL ORDER BY entry`).map(visitFrom);
export const visitsOf = (db: Db, contactId: string): Visit[] =>
  rows<VisitRow>(db, `${VISIT} WHERE contact_id = ? ORDER BY entered_at, rowid`, contactId).map(visitFrom);
export const readVisit = (db: Db, id: string): Visit | undefined => {
  const found = row<VisitRow>(db, `${VISIT} WHERE id = ?`, id);
  return found && visitFrom(found);
};

export type Offer = {
  readonly id: string;
  readonly visitId: string;
  readonly personId: string;
  readonly madeAt: number;
  readonly acceptBy: number;
  readonly endedAt: number | null;
  readonly endedHow: string | null;
  readonly groupId: string | null;
};
const OFFER =
  'SELECT id, visit_id AS visitId, person_id AS personId, made_at AS madeAt, accept_by AS acceptBy, ended_at AS endedAt, ended_how AS endedHow, group_id AS groupId FROM offers';
export const openOffers = (db: Db): Offer[] => rows<Offer>(db, `${OFFER} WHERE ended_at IS NULL ORDER BY made_at, id`);
export const openOfferOf = (db: Db, personId: string): Offer | undefined =>
  row<Offer>(db, `${OFFER} WHERE person_id = ? AND ended_at IS NULL`, personId);
export const offersOf = (db: Db, visitId: string): Offer[] =>
  rows<Offer>(db, `${OFFER} WHERE visit_id = ? ORDER BY made_at, id`, visitId);

export type Leg = {
  readonly id: string;
  readonly contactId: string;
  readonly visitId: string;
  readonly personId: string;
  readonly acceptedAt: number;
  readonly talkEndedAt: number | null;
  readonly endedAt: number | null;
  readonly passedOn: number;
  readonly firstReplyAt: number | null;
  readonly outcome: string | null;
  readonly handleSeconds: number | null;
  readonly groupId: string | null;
};
const LEG =
  'SELECT id, contact_id AS contactId, visit_id AS visitId, person_id AS personId, accepted_at AS acceptedAt, talk_ended_at AS talkEndedAt, ended_at AS endedAt, passed_on AS passedOn, first_reply_at AS firstReplyAt, outcome, handle_seconds AS handleSeconds, group_id AS groupId FROM legs';
export const openLegs = (db: Db): Leg[] => rows<Leg>(db, `${LEG} WHERE ended_at IS NULL ORDER BY accepted_at, id`);
export const openLegsOf = (db: Db, personId: string): Leg[] =>
  rows<Leg>(db, `${LEG} WHERE person_id = ? AND ended_at IS NULL ORDER BY accepted_at, id`, personId);
export const legsOf = (db: Db, contactId: string): Leg[] =>
  rows<Leg>(db, `${LEG} WHERE contact_id = ? ORDER BY accepted_at, id`, contactId);
export const readLeg = (db: Db, id: string): Leg | undefined => row<Leg>(db, `${LEG} WHERE id = ?`, id);
/** What a person finished since an instant (floor ms), newest first. */
export const legsSince = (
  db: Db,
  personId: string,
  from: number,
  most: number,
): { contactId: string; channel: Channel; customer: string; endedAt: number; outcome: string | null }[] =>
  rows(
    db,
    `SELECT l.contact_id AS contactId, c.channel, coalesce(u.name, u.address) AS customer, l.ended_at AS endedAt, l.outcome FROM legs l JOIN contacts c ON c.id = l.contact_id JOIN customers u ON u.id = c.customer_id
    WHERE l.person_id = ? AND l.ended_at >= ? ORDER BY l.ended_at DESC LIMIT ?`,
    personId,
    from,
    most,
  );
/** When the customer of a contact last said something, floor ms; null for never. */
export const lastCustomerWord = (db: Db, contactId: string): number | null =>
  row<{ at: number | null }>(
    db,
    "SELECT max(floor_at) AS at FROM messages WHERE contact_id = ? AND sender = 'customer'",
    contactId,
  )?.at ?? null;
/** How many contacts a person finished since an instant, floor ms. */
export const handledSince = (db: Db, personId: string, from: number): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM legs WHERE person_id = ? AND ended_at >= ?', personId, from)?.n ??
  0;

export const writeDecision = (db: Db, visitId: string, trail: Trail): number =>
  insert(db, 'INSERT INTO decisions (visit_id, trail) VALUES (?, ?)', visitId, JSON.stringify(trail));
export const decisionsOf = (db: Db, visitId: string): Trail[] =>
  rows<{ trail: string }>(db, 'SELECT trail FROM decisions WHERE visit_id = ? ORDER BY id', visitId).map(
    (d) => JSON.parse(d.trail) as Trail,
  );

/** An act with this key that was carried out before: what was asked and what was answered. */
export const earlierAct = (db: Db, key: string): { request: string; answer: string } | undefined =>
  row(db, 'SELECT request, answer FROM acts WHERE key = ?', key);
export const writeAct = (db: Db, key: string, realAt: number, request: string, answer: string): void => {
  run(db, 'DELETE FROM acts WHERE real_at < ?', realAt - 86_400_000);
  run(db, 'INSERT INTO acts (key, real_at, request, answer) VALUES (?, ?, ?, ?)', key, realAt, request, answer);
};
