import type { Channel } from '../core/channels';
import type { ContactEnd } from '../core/measures/facts';
import { type Db, row, rows } from './database';
import { membersOf } from './customerties';
import { rowsOf } from './contactrows';

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
  /** A message that was left and that nobody has dealt with, as JSON; null for none. */
  readonly leftFor: string | null;
};

const CONTACT = `SELECT id, door_id AS doorId, channel, customer_id AS customerId, language, bot_id AS botId, bot_version AS
      botVersion, started_at AS startedAt, ended_at AS endedAt, ended_how AS endedHow, left_for AS leftFor FROM contacts`;

const CONTACT_BY_ID = `${CONTACT} WHERE id = ?`;
export const readContact = (db: Db, id: string): Contact | undefined =>
  rowsOf(db, 'contacts', id, () => row<Contact>(db, CONTACT_BY_ID, id));

/** Contacts of a customer and of whom they are one with, newest first. */
export const contactsOfCustomer = (db: Db, customerId: string, limit: number): Contact[] =>
  rows<Contact>(
    db,
    `${CONTACT} WHERE customer_id IN (SELECT value FROM json_each(?)) ORDER BY started_at DESC LIMIT ?`,
    JSON.stringify(membersOf(db, customerId)),
    limit,
  );

/** Whether a contact is going on. */
export const isOpen = (db: Db, id: string): boolean => readContact(db, id)?.endedAt === null;

/** The digest of a token that was given out before tokens were made from the server's key; null for none. */
export const earlierToken = (db: Db, contactId: string): string | null =>
  row<{ h: string }>(db, 'SELECT token_hash AS h FROM earlier_tokens WHERE contact_id = ?', contactId)?.h ?? null;

/** How many contacts of a customer are going on. */
export const openContactsOf = (db: Db, customerId: string): number =>
  row<{ n: number }>(db, 'SELECT count(*) AS n FROM contacts WHERE customer_id = ? AND ended_at IS NULL', customerId)
    ?.n ?? 0;

/** How many contacts the log has. */
export const countContacts = (db: Db): number => row<{ n: number }>(db, 'SELECT count(*) AS n FROM contacts')?.n ?? 0;
