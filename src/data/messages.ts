import type { ShownImage } from '../core/bots/conversation';
import { type Db, row, rows, run } from './database';

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
    `INSERT INTO messages (id, seq, contact_id, sender, person_id, line_id, text, options, floor_at, ssml,
        may_interrupt, image) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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

/** A transcript after a sequence, oldest first; `most` of it where that is given. */
export const messagesOf = (db: Db, contactId: string, afterSeq = 0, most = -1): Message[] =>
  rows<
    Omit<Message, 'options' | 'mayInterrupt' | 'image'> & {
      options: string;
      mayInterrupt: number;
      image: string | null;
    }
  >(
    db,
    `SELECT id, seq, sender, person_id AS personId, line_id AS lineId, text, options, floor_at AS floorAt,
        ssml, may_interrupt AS mayInterrupt, image FROM messages WHERE contact_id = ? AND seq > ?
      ORDER BY seq LIMIT ?`,
    contactId,
    afterSeq,
    most,
  ).map((m) => ({
    ...m,
    options: JSON.parse(m.options) as MessageOption[],
    mayInterrupt: m.mayInterrupt === 1,
    image: m.image === null ? null : (JSON.parse(m.image) as ShownImage),
  }));

/** When the customer of a contact last said something, floor ms; null for never. */
export const lastCustomerWord = (db: Db, contactId: string): number | null =>
  row<{ at: number | null }>(
    db,
    "SELECT max(floor_at) AS at FROM messages WHERE contact_id = ? AND sender = 'customer'",
    contactId,
  )?.at ?? null;

/** How many messages a transcript has, and the sequence of its last one (0 for none). */
export const transcriptEnd = (db: Db, contactId: string): { readonly count: number; readonly seq: number } =>
  row<{ count: number; seq: number }>(
    db,
    'SELECT count(*) AS count, coalesce(max(seq), 0) AS seq FROM messages WHERE contact_id = ?',
    contactId,
  ) ?? { count: 0, seq: 0 };
