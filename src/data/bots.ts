import type { BotScript } from '../core/bots/model';
import { row, rows, run, type Db } from './database';

export type Bot = { readonly id: string; readonly name: string; readonly draft: BotScript; readonly liveVersion: number | null; readonly revision: number };
export type BotVersion = { readonly version: number; readonly note: string; readonly realAt: number; readonly personId: string };

type BotRow = Omit<Bot, 'draft'> & { draft: string };
const BOTS = 'SELECT id, name, draft, live_version AS liveVersion, revision FROM bots';
const botFrom = (r: BotRow): Bot => ({ ...r, draft: JSON.parse(r.draft) as BotScript });
export const readBots = (db: Db): Bot[] => rows<BotRow>(db, `${BOTS} ORDER BY place, name`).map(botFrom);
export const readBot = (db: Db, id: string): Bot | undefined => {
  const found = row<BotRow>(db, `${BOTS} WHERE id = ?`, id);
  return found && botFrom(found);
};
export const writeDraft = (db: Db, id: string, name: string, draft: BotScript): void => {
  run(db, 'INSERT INTO bots (id, name, draft, revision, place) VALUES (?1, ?2, ?3, 1, (SELECT count(*) FROM bots)) ON CONFLICT (id) DO UPDATE SET name = ?2, draft = ?3, revision = revision + 1', id, name, JSON.stringify(draft));
};
export const versionsOf = (db: Db, botId: string): BotVersion[] =>
  rows<BotVersion>(db, 'SELECT version, note, real_at AS realAt, person_id AS personId FROM bot_versions WHERE bot_id = ? ORDER BY version DESC', botId);
/** A published script never changes, so it is read from the database once. */
const scripts = new WeakMap<Db, Map<string, BotScript>>();
export function scriptOf(db: Db, botId: string, version: number): BotScript | undefined {
  const cache = scripts.get(db) ?? new Map<string, BotScript>();
  scripts.set(db, cache);
  const key = `${botId}@${version}`;
  const cached = cache.get(key);
  if (cached) return cached;
  const found = row<{ script: string }>(db, 'SELECT script FROM bot_versions WHERE bot_id = ? AND version = ?', botId, version);
  if (!found) return undefined;
  const script = JSON.parse(found.script) as BotScript;
  cache.set(key, script);
  return script;
}
/** Keeps the draft as the next version and makes it live. */
export function publishDraft(db: Db, botId: string, note: string, realAt: number, personId: string): number {
  const version = (row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM bot_versions WHERE bot_id = ?', botId)?.v ?? 0) + 1;
  run(db, 'INSERT INTO bot_versions (bot_id, version, script, note, real_at, person_id) SELECT id, ?, draft, ?, ?, ? FROM bots WHERE id = ?', version, note, realAt, personId, botId);
  setLive(db, botId, version);
  return version;
}
export const setLive = (db: Db, botId: string, version: number): void => { run(db, 'UPDATE bots SET live_version = ? WHERE id = ?', version, botId); };
