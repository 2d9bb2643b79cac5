import type { BotState } from '../core/bots/conversation';
import type { Asking } from '../core/contact/contact';
import { type Db, row, rows, run } from './database';
import { keptIn, keptText } from './kept';
import { isBulk, remembered } from './memory';
import { hasTokens, privateValuesOf } from './values';

/** A place as it is kept, and whether private values have tokens in it. */
export type KeptPlace = { readonly state: BotState; readonly tokens: boolean };
const places = remembered(() => new Map<string, KeptPlace>());

/** Writes one part of what a contact's place is; a row stands only for as long as there is something in it. */
function put(db: Db, contactId: string, column: 'state' | 'asking', kept: string | null): void {
  if (kept === null && row(db, 'SELECT 1 FROM bot_places WHERE contact_id = ?', contactId) === undefined) return;
  run(
    db,
    `INSERT INTO bot_places (contact_id, ${column}) VALUES (?1, ?2) ON CONFLICT DO UPDATE SET ${column} = ?2`,
    contactId,
    kept,
  );
  if (kept === null)
    run(db, 'DELETE FROM bot_places WHERE contact_id = ? AND state IS NULL AND asking IS NULL', contactId);
}

/** Keeps where a contact stands in its bot's script, or that it stands nowhere. */
export function writeBotState(db: Db, contactId: string, state: BotState | null): void {
  // In bulk there is no text of it yet; tokens can only be where there are private values.
  const text = state === null || isBulk(db) ? null : keptText('bot-place', state);
  if (state === null) places.toChange(db)?.delete(contactId);
  else {
    const tokens = text === null ? privateValuesOf(db, contactId).length > 0 : hasTokens(text);
    places.toChange(db)?.set(contactId, { state, tokens });
  }
  if (!isBulk(db)) put(db, contactId, 'state', text);
}

/** Where a contact stands in its bot's script, as it was kept. Shared by all who read it. */
export function readBotState(db: Db, contactId: string): KeptPlace | null {
  const known = places.of(db)?.get(contactId);
  if (known || isBulk(db)) return known ?? null;
  const found = row<{ s: string | null }>(db, 'SELECT state AS s FROM bot_places WHERE contact_id = ?', contactId);
  if (!found?.s) return null;
  const place = { state: keptIn('bot-place', found.s) as BotState, tokens: hasTokens(found.s) };
  places.of(db)?.set(contactId, place);
  return place;
}

/** Whether a bot has this contact now, or asks something after it. */
export function hasBotState(db: Db, contactId: string): boolean {
  if (places.of(db)?.has(contactId)) return true;
  return (
    !isBulk(db) &&
    row(db, 'SELECT 1 FROM bot_places WHERE contact_id = ? AND state IS NOT NULL', contactId) !== undefined
  );
}

/** The places that were only remembered, to be written where they belong. */
export const placesInBulk = (db: Db): ReadonlyMap<string, KeptPlace> => places.of(db) ?? new Map();

/** Contacts whose bot waits for an answer from outside, with what it asked. */
export const askingContacts = (db: Db): { contactId: string; number: number; ask: string }[] =>
  rows(
    db,
    `SELECT contact_id AS contactId, json_extract(state, '$.asked.number') AS number,
        json_extract(state, '$.asked.ask') AS ask
      FROM (SELECT contact_id, CASE WHEN json_valid(state) THEN state END AS state FROM bot_places
        WHERE state IS NOT NULL)
      WHERE json_extract(state, '$.status') = 'asking' AND json_extract(state, '$.asked') IS NOT NULL`,
  );

/** What a contact is being asked while it waits; null for nothing. */
export const writeAsking = (db: Db, contactId: string, asking: Asking | null): void =>
  put(db, contactId, 'asking', asking && keptText('asking', asking));

export const readAsking = (db: Db, contactId: string): Asking | null => {
  const found = row<{ a: string | null }>(db, 'SELECT asking AS a FROM bot_places WHERE contact_id = ?', contactId);
  return found?.a ? (keptIn('asking', found.a) as Asking) : null;
};
