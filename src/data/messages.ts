import type { ShownImage } from '../core/bots/conversation';
import { codeOfType, type StoredEvent, upcast } from '../core/eventshapes';
import { numberOf } from './contactnumbers';
import { type OwnWords, ownWordsOf, rowsOf, type Said, withWritten } from './contactrows';
import { type Db, row, rows, run } from './database';
import { packedLife } from './packed';

export type MessageOption = { readonly key: string; readonly label: string };

/**
 * One message of a transcript; private values in `text` are tokens, see `privatevalues.ts`. `seq` is its event's, which says
 * who said it and when.
 */
export type Message = {
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

/** What was said with an event; who, when and to whom stands in the event. */
export const writeMessage = (
  db: Db,
  m: Pick<Message, 'seq' | 'text' | 'options' | 'ssml' | 'mayInterrupt' | 'image'>,
): void => {
  run(
    db,
    'INSERT INTO messages (seq, text, options, ssml, may_interrupt, image) VALUES (?, ?, ?, ?, ?, ?)',
    m.seq,
    m.text,
    m.options.length === 0 ? null : JSON.stringify(m.options),
    m.ssml,
    m.mayInterrupt ? null : 0,
    m.image === null ? null : JSON.stringify(m.image),
  );
};

const WRITTEN = codeOfType('message.written');
type EventPart = Pick<StoredEvent, 'seq' | 'v' | 'floorAt' | 'body'>;
type MessageRow = EventPart & {
  readonly text: string;
  readonly options: string | null;
  readonly ssml: string | null;
  readonly mayInterrupt: number | null;
  readonly image: string | null;
};

/** Who said it, as its event has it. */
function saidBy(event: EventPart): Pick<Message, 'sender' | 'personId' | 'lineId' | 'floorAt'> {
  const said = upcast({ ...event, code: WRITTEN, realAt: null, contactId: null });
  if (said.type !== 'message.written') throw new RangeError(`event ${event.seq} is no message`);
  return { sender: said.from, personId: said.personId, lineId: said.lineId, floorAt: said.floorAt };
}

const MESSAGES = `SELECT e.seq, e.v, e.floor_at AS floorAt, e.body, m.text, m.options, m.ssml, m.may_interrupt AS
      mayInterrupt, m.image FROM events e JOIN messages m ON m.seq = e.seq WHERE e.contact = ? AND e.type = ${WRITTEN}`;

const messageFrom = (m: MessageRow): Message => ({
  seq: m.seq,
  ...saidBy(m),
  text: m.text,
  options: m.options === null ? [] : (JSON.parse(m.options) as MessageOption[]),
  ssml: m.ssml,
  mayInterrupt: m.mayInterrupt !== 0,
  image: m.image === null ? null : (JSON.parse(m.image) as ShownImage),
});

/** What was said in a contact that has been packed. */
function packedMessages(db: Db, no: number | null): Message[] {
  const life = packedLife(db, no);
  const events = new Map((life?.events ?? []).map((e) => [e.seq, e]));
  return (life?.said ?? []).flatMap((said) => {
    const event = events.get(said.seq);
    return event ? [messageFrom({ ...event, ...said })] : [];
  });
}

/** A transcript after a sequence, oldest first; `most` of it where that is given. Also of a contact that was packed. */
export function messagesOf(db: Db, contactId: string, afterSeq = 0, most = -1): Message[] {
  const no = numberOf(db, contactId);
  const found = rows<MessageRow>(db, `${MESSAGES} AND e.seq > ? ORDER BY e.seq LIMIT ?`, no, afterSeq, most);
  if (found.length > 0) return found.map(messageFrom);
  const packed = packedMessages(db, no).filter((m) => m.seq > afterSeq);
  return most < 0 ? packed : packed.slice(0, most);
}

/** What was said at a place in the log that has not been packed: the words and what they offer. */
export function saidAt(db: Db, seq: number): Pick<Message, 'text' | 'options'> | null {
  const said = row<{ text: string; options: string | null }>(
    db,
    'SELECT text, options FROM messages WHERE seq = ?',
    seq,
  );
  return said
    ? { text: said.text, options: said.options === null ? [] : (JSON.parse(said.options) as MessageOption[]) }
    : null;
}

/** What the customer of a contact said in their own words, in order; private values stand as tokens. */
export const ownWords = (db: Db, contactId: string): readonly string[] =>
  ownWordsOf(db, contactId, () =>
    messagesOf(db, contactId).reduce(withWritten, { offered: new Set<string>(), own: [] } as OwnWords),
  );

/** Who said it stands first in the body, or by name in version 1. */
const SAID_IN = `SELECT floor_at AS at, json_extract(body, CASE v WHEN 1 THEN '$.from' ELSE '$[0]' END) AS sender
      FROM events WHERE contact = ? AND type = ${WRITTEN} ORDER BY seq`;
const saidIn = (db: Db, contactId: string): Said =>
  rowsOf(db, 'said', contactId, () => {
    const said = rows<{ at: number; sender: string }>(db, SAID_IN, numberOf(db, contactId));
    return { times: said.map((m) => m.at), customerAt: said.findLast((m) => m.sender === 'customer')?.at ?? null };
  });

/** When the customer of a contact that has not been packed last said something, floor ms; null for never. */
export const lastCustomerWord = (db: Db, contactId: string): number | null => saidIn(db, contactId).customerAt;

/** When each message of its transcript was said, floor ms. */
export const messageTimes = (db: Db, contactId: string): readonly number[] => saidIn(db, contactId).times;

/** How many messages a transcript has, and the sequence of its last one (0 for none). */
export const transcriptEnd = (db: Db, contactId: string): { readonly count: number; readonly seq: number } =>
  row<{ count: number; seq: number }>(
    db,
    `SELECT count(*) AS count, coalesce(max(seq), 0) AS seq FROM events WHERE contact = ? AND type = ${WRITTEN}`,
    numberOf(db, contactId),
  ) ?? { count: 0, seq: 0 };
