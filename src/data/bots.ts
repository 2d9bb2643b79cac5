import type { Connector } from '../core/bots/connectors';
import type { BotScript, SharedScene } from '../core/bots/model';
import type { Trial } from '../core/bots/trial';
import { type Db, row, rows, run } from './database';
import { documents } from './documents';
import { keptIn, keptText } from './kept';
import { eachReadable, objectIn, readable } from './readable';

/** A version that goes live at an instant of the floor. */
export type Planned = { readonly version: number; readonly at: number };

export type Bot = {
  readonly id: string;
  readonly name: string;
  readonly draft: BotScript;
  readonly liveVersion: number | null;
  readonly planned: Planned | null;
  readonly revision: number;
};

export type BotVersion = {
  readonly version: number;
  readonly note: string;
  readonly realAt: number;
  readonly personId: string;
};

/** What a version was published with besides its script. */
export type Pinned = {
  readonly shared: readonly SharedScene[];
  readonly connectors: readonly Connector[];
  /** The version of the phrasebook; null for none. */ readonly phrasebook: number | null;
};

type BotRow = Omit<Bot, 'draft' | 'planned'> & { draft: string; planned: string | null };
const BOTS =
  'SELECT id, name, draft, live_version AS liveVersion, planned, revision FROM bots WHERE retired_at IS NULL';

const botFrom = (r: BotRow): Bot => ({
  ...r,
  draft: keptIn('script', r.draft) as BotScript,
  planned: r.planned === null ? null : (objectIn(r.planned) as Planned),
});

export const readBots = (db: Db): Bot[] =>
  eachReadable(db, 'bot', rows<BotRow>(db, `${BOTS} ORDER BY place, name`), botFrom);

export const readBot = (db: Db, id: string): Bot | undefined => {
  const found = row<BotRow>(db, `${BOTS} AND id = ?`, id);
  return found && readable(db, 'bot', found, botFrom);
};

export const writeDraft = (db: Db, id: string, name: string, draft: BotScript): void => {
  run(
    db,
    `INSERT INTO bots (id, name, draft, revision, place) VALUES (?1, ?2, ?3, 1, (SELECT count(*)
      FROM bots)) ON CONFLICT (id) DO UPDATE SET name = ?2, draft = ?3, revision = revision + 1, retired_at = NULL`,
    id,
    name,
    keptText('script', draft),
  );
};

export const versionsOf = (db: Db, botId: string): BotVersion[] =>
  rows<BotVersion>(
    db,
    'SELECT version, note, real_at AS realAt, person_id AS personId FROM bot_versions WHERE bot_id = ? ORDER BY version DESC',
    botId,
  );

export type Published = { readonly script: BotScript; readonly pinned: Pinned };

export function readVersion(db: Db, botId: string, version: number): Published | undefined {
  const found = row<{ script: string; pinned: string }>(
    db,
    'SELECT script, pinned FROM bot_versions WHERE bot_id = ? AND version = ?',
    botId,
    version,
  );
  return (
    found &&
    readable(db, 'bot version', { id: `${botId} ${version}`, ...found }, ({ script, pinned }) => ({
      script: keptIn('script', script) as BotScript,
      pinned: keptIn('pinned', pinned) as Pinned,
    }))
  );
}

const nextVersion = (db: Db, botId: string): number =>
  (row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM bot_versions WHERE bot_id = ?', botId)?.v ?? 0) +
  1;

/** Keeps the draft with what it is published with as the next version. Gives its number. */
export function keepVersion(
  db: Db,
  botId: string,
  pinned: Pinned,
  note: string,
  realAt: number,
  personId: string,
): number {
  const version = nextVersion(db, botId);
  run(
    db,
    `INSERT INTO bot_versions (bot_id, version, script, pinned, note, real_at, person_id) SELECT id, ?, draft,
        ?, ?, ?, ? FROM bots WHERE id = ?`,
    version,
    keptText('pinned', pinned),
    note,
    realAt,
    personId,
    botId,
  );
  return version;
}

/** Keeps words that mend a version, as the next one. Gives its number. */
export function keepMended(
  db: Db,
  botId: string,
  { version, script, pinned }: Published & { readonly version: number },
  note: string,
  realAt: number,
  personId: string,
): number {
  const next = nextVersion(db, botId);
  run(
    db,
    `INSERT INTO bot_versions (bot_id, version, script, pinned, note, real_at, person_id, mends)
      VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
    botId,
    next,
    keptText('script', script),
    keptText('pinned', pinned),
    note,
    realAt,
    personId,
    version,
  );
  return next;
}

/** The last version that mends words of this one, itself where there is none. */
export const mendedAs = (db: Db, botId: string, version: number): number =>
  row<{ v: number }>(
    db,
    `WITH RECURSIVE goes_on (v) AS (SELECT ?2 UNION
        SELECT version FROM bot_versions JOIN goes_on ON mends = v WHERE bot_id = ?1)
      SELECT max(v) AS v FROM goes_on`,
    botId,
    version,
  )?.v ?? version;

/** Versions of a bot that contacts which are going on began with, and in how many of these it speaks now. */
export const versionsGoingOn = (db: Db, botId: string): { readonly version: number; readonly talking: number }[] =>
  rows(
    db,
    `SELECT c.bot_version AS version, sum(p.contact_id IS NOT NULL) AS talking FROM contacts c
      LEFT JOIN bot_places p ON p.contact_id = c.id AND p.state IS NOT NULL
      WHERE c.id IN (SELECT contact_id FROM bot_places UNION SELECT contact_id FROM visits WHERE ended_at IS NULL
        UNION SELECT contact_id FROM legs WHERE ended_at IS NULL)
        AND c.ended_at IS NULL AND c.bot_id = ? AND c.bot_version IS NOT NULL
      GROUP BY c.bot_version ORDER BY c.bot_version`,
    botId,
  );

export const setLive = (db: Db, botId: string, version: number): void => {
  run(db, 'UPDATE bots SET live_version = ?, revision = revision + 1 WHERE id = ?', version, botId);
};

export const setPlanned = (db: Db, botId: string, planned: Planned | null): void => {
  run(db, 'UPDATE bots SET planned = ? WHERE id = ?', planned === null ? null : JSON.stringify(planned), botId);
};

export const SHARED_SCENES = documents<Omit<SharedScene, 'id' | 'name'>>('shared-scene');
export const BOT_TESTS = documents<{ readonly botId: string; readonly trial: Trial }>('bot-test');
const scripts = new WeakMap<Db, Map<string, BotScript>>();

/** A published script. It never changes, so it is read from the database once. */
export function scriptOf(db: Db, botId: string, version: number): BotScript | undefined {
  const cache = scripts.get(db) ?? new Map<string, BotScript>();
  scripts.set(db, cache);
  const key = `${botId}@${version}`;
  const known = cache.get(key) ?? readVersion(db, botId, version)?.script;
  if (known) cache.set(key, known);
  return known;
}

export const retireBot = (db: Db, id: string, realAt: number | null): void =>
  void run(db, 'UPDATE bots SET retired_at = ?, planned = NULL, revision = revision + 1 WHERE id = ?', realAt, id);
export function dropBot(db: Db, id: string): void {
  run(db, 'DELETE FROM bot_versions WHERE bot_id = ?', id);
  run(db, 'DELETE FROM bots WHERE id = ?', id);
}
