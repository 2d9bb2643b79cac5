import type { BotState } from '../core/bots/conversation';
import type { Asking } from '../core/contact/contact';
import { type Db, row, rows, run } from './database';

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

/** Whether a bot has this contact now, or asks something after it. */
export const hasBotState = (db: Db, contactId: string): boolean =>
  row(db, 'SELECT 1 FROM contact_keys WHERE contact_id = ? AND bot_state IS NOT NULL', contactId) !== undefined;

/** Contacts whose bot waits for an answer from outside, with what it asked. */
export const askingContacts = (db: Db): { contactId: string; number: number; ask: string }[] =>
  rows(
    db,
    `SELECT contact_id AS contactId, json_extract(bot_state, '$.asked.number') AS number,
        json_extract(bot_state, '$.asked.ask') AS ask
      FROM (SELECT contact_id, CASE WHEN json_valid(bot_state) THEN bot_state END AS bot_state FROM contact_keys
        WHERE bot_state IS NOT NULL)
      WHERE json_extract(bot_state, '$.status') = 'asking' AND json_extract(bot_state, '$.asked') IS NOT NULL`,
  );

/** What a contact is being asked while it waits; null for nothing. */
export const writeAsking = (db: Db, contactId: string, asking: Asking | null): void => {
  run(
    db,
    'UPDATE contact_keys SET asking = ? WHERE contact_id = ?',
    asking === null ? null : JSON.stringify(asking),
    contactId,
  );
};

export const readAsking = (db: Db, contactId: string): Asking | null => {
  const found = row<{ a: string | null }>(db, 'SELECT asking AS a FROM contact_keys WHERE contact_id = ?', contactId);
  return found?.a ? (JSON.parse(found.a) as Asking) : null;
};
