import type { BotState } from '../core/bots/conversation';
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
