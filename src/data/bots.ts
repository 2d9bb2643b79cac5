import type { Connector } from '../core/bots/connectors';
import type { BotScript, SharedScene } from '../core/bots/model';
import type { BotEndings, Traffic } from '../core/bots/traffic';
import type { Trial } from '../core/bots/trial';
import { scriptFrom } from '../core/bots/upgrade';
import type { Phrasebook } from '../core/phrases/book';
import { documents } from './documents';
import { row, rows, run, type Db } from './database';

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
const BOTS = 'SELECT id, name, draft, live_version AS liveVersion, planned, revision FROM bots';
const botFrom = (r: BotRow): Bot => ({
  ...r,
  draft: scriptFrom(JSON.parse(r.draft)),
  planned: r.planned === null ? null : (JSON.parse(r.planned) as Planned),
});
export const readBots = (db: Db): Bot[] => rows<BotRow>(db, `${BOTS} ORDER BY place, name`).map(botFrom);
export const readBot = (db: Db, id: string): Bot | undefined => {
  const found = row<BotRow>(db, `${BOTS} WHERE id = ?`, id);
  return found && botFrom(found);
};
export const writeDraft = (db: Db, id: string, name: string, draft: BotScript): void => {
  run(
    db,
    'INSERT INTO bots (id, name, draft, revision, place) VALUES (?1, ?2, ?3, 1, (SELECT count(*) FROM bots)) ON CONFLICT (id) DO UPDATE SET name = ?2, draft = ?3, revision = revision + 1',
    id,
    name,
    JSON.stringify(draft),
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
    found && {
      script: scriptFrom(JSON.parse(found.script)),
      pinned: { shared: [], connectors: [], phrasebook: null, ...(JSON.parse(found.pinned) as Partial<Pinned>) },
    }
  );
}
/** Keeps the draft with what it is published with as the next version. Gives its number. */
export function keepVersion(
  db: Db,
  botId: string,
  pinned: Pinned,
  note: string,
  realAt: number,
  personId: string,
): number {
  const version =
    (row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM bot_versions WHERE bot_id = ?', botId)?.v ??
      0) + 1;
  run(
    db,
    'INSERT INTO bot_versions (bot_id, version, script, pinned, note, real_at, person_id) SELECT id, ?, draft, ?, ?, ?, ? FROM bots WHERE id = ?',
    version,
    JSON.stringify(pinned),
    note,
    realAt,
    personId,
    botId,
  );
  return version;
}
export const setLive = (db: Db, botId: string, version: number): void => {
  run(db, 'UPDATE bots SET live_version = ?, revision = revision + 1 WHERE id = ?', version, botId);
};
export const setPlanned = (db: Db, botId: string, planned: Planned | null): void => {
  run(db, 'UPDATE bots SET planned = ? WHERE id = ?', planned === null ? null : JSON.stringify(planned), botId);
};

export const SHARED_SCENES = documents<Omit<SharedScene, 'id' | 'name'>>('shared-scene');
export const CONNECTORS = documents<Omit<Connector, 'id' | 'name'>>('connector');
/** A small table that a look-up can read; the first column is what it is found by. */
export const TABLES = documents<{ readonly columns: readonly string[]; readonly rows: readonly (readonly string[])[] }>(
  'table',
);
export const BOT_TESTS = documents<{ readonly botId: string; readonly trial: Trial }>('bot-test');
/** Hosts outside that connectors may ask, by name, as the owner has allowed them. */
export const ALLOWED_HOSTS = documents<{ readonly hosts: readonly string[] }>('allowed-hosts');
export const THE_HOSTS = 'hosts';

/** How the hire desk that ships with the product behaves. */
export const HIRE_DESK = documents<{ readonly mood: 'usual' | 'slow' | 'fails' }>('hire-desk');
export const THE_HIRE_DESK = 'hire-desk';

export const writeSecret = (db: Db, connectorId: string, secret: string | null): void => {
  if (secret === null) run(db, 'DELETE FROM connector_secrets WHERE connector_id = ?', connectorId);
  else
    run(
      db,
      'INSERT INTO connector_secrets (connector_id, secret) VALUES (?1, ?2) ON CONFLICT (connector_id) DO UPDATE SET secret = ?2',
      connectorId,
      secret,
    );
};
export const secretOf = (db: Db, connectorId: string): string | null =>
  row<{ secret: string }>(db, 'SELECT secret FROM connector_secrets WHERE connector_id = ?', connectorId)?.secret ??
  null;

/** The phrasebook as it is now, with the number under which versions of bots pin it; 0 before there is one. */
export function readPhrasebook(db: Db): { readonly version: number; readonly book: Phrasebook } | null {
  const found = row<{ version: number; book: string }>(
    db,
    'SELECT version, book FROM phrasebook_versions ORDER BY version DESC LIMIT 1',
  );
  return found ? { version: found.version, book: JSON.parse(found.book) as Phrasebook } : null;
}
export const learntOf = (db: Db, version: number): string | null =>
  row<{ learnt: string }>(db, 'SELECT learnt FROM phrasebook_versions WHERE version = ?', version)?.learnt ?? null;
export function writePhrasebook(db: Db, book: Phrasebook, learnt: string, realAt: number, personId: string): number {
  const version =
    (row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM phrasebook_versions')?.v ?? 0) + 1;
  run(
    db,
    'INSERT INTO phrasebook_versions (version, real_at, person_id, book, learnt) VALUES (?, ?, ?, ?, ?)',
    version,
    realAt,
    personId,
    JSON.stringify(book),
    learnt,
  );
  // What no version of a bot names any more is not kept for ever.
  run(
    db,
    "DELETE FROM phrasebook_versions WHERE version < ? - 20 AND version NOT IN (SELECT coalesce(json_extract(pinned, '$.phrasebook'), 0) FROM bot_versions)",
    version,
  );
  return version;
}

/** Words that no bot understood: how often they came, and the last contact and line. */
export type Unheard = {
  readonly id: number;
  readonly contactId: string;
  readonly lineId: string;
  readonly language: string;
  readonly text: string;
  readonly floorAt: number;
  readonly times: number;
};
const UNHEARD =
  'SELECT max(id) AS id, contact_id AS contactId, line_id AS lineId, language, text, floor_at AS floorAt, count(*) AS times FROM unheard GROUP BY language, text';
/** The phrases that came most often first, the newer before the older. */
export const readUnheard = (db: Db, most: number): Unheard[] =>
  rows<Unheard>(db, `${UNHEARD} ORDER BY times DESC, id DESC LIMIT ?`, most);
export const unheardPhrase = (db: Db, id: number): Unheard | undefined =>
  row<Unheard>(db, `SELECT * FROM (${UNHEARD}) WHERE id = ?`, id);
export const unheardCount = (db: Db): number =>
  row<{ n: number }>(db, `SELECT count(*) AS n FROM (${UNHEARD})`)?.n ?? 0;
export const keepUnheard = (db: Db, u: Omit<Unheard, 'id' | 'times'>): void => {
  run(
    db,
    'INSERT INTO unheard (contact_id, line_id, language, text, floor_at) VALUES (?, ?, ?, ?, ?)',
    u.contactId,
    u.lineId,
    u.language,
    u.text,
    u.floorAt,
  );
};
/** Drops a phrase, however often it came. */
export const dropUnheard = (db: Db, phrase: Pick<Unheard, 'language' | 'text'>): number =>
  run(db, 'DELETE FROM unheard WHERE language = ? AND text = ?', phrase.language, phrase.text);

export type LaterText = { readonly id: number; readonly address: string; readonly text: string };
export const keepLaterText = (db: Db, contactId: string, address: string, text: string): void => {
  run(db, 'INSERT INTO later_texts (contact_id, address, text) VALUES (?, ?, ?)', contactId, address, text);
};
export function takeLaterTexts(db: Db, contactId: string): LaterText[] {
  const found = rows<LaterText>(
    db,
    'SELECT id, address, text FROM later_texts WHERE contact_id = ? ORDER BY id',
    contactId,
  );
  if (found.length > 0) run(db, 'DELETE FROM later_texts WHERE contact_id = ?', contactId);
  return found;
}

/** A short answer kept in the workspace, in one language. */
export type Article = { readonly language: string; readonly title: string; readonly text: string };
export const ARTICLES = documents<Omit<Article, 'title'>>('article');
export const wordArticle = (db: Db, id: string, article: Article | null): void => {
  run(db, 'DELETE FROM article_words WHERE id = ?', id);
  if (article)
    run(
      db,
      'INSERT INTO article_words (id, language, title, text) VALUES (?, ?, ?, ?)',
      id,
      article.language,
      article.title,
      article.text,
    );
};
/** Articles of a language that have one of some words, best first by BM25 with the title counted four times; smaller scores fit better. */
export const findArticles = (
  db: Db,
  words: readonly string[],
  language: string,
  most: number,
): { readonly id: string; readonly title: string; readonly text: string; readonly score: number }[] =>
  words.length === 0
    ? []
    : rows(
        db,
        'SELECT id, title, text, bm25(article_words, 0, 0, 4, 1) AS score FROM article_words WHERE article_words MATCH ? AND language = ? ORDER BY score LIMIT ?',
        words.map((w) => `"${w}"*`).join(' OR '),
        language,
        most,
      );

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

/** How conversations with each bot ended since an instant of the floor, by bot id. */
export function endingsSince(db: Db, since: number): Record<string, BotEndings> {
  const found = rows<{ botId: string; how: string; n: number }>(
    db,
    `SELECT c.bot_id AS botId, json_extract(e.body, '$.how') AS how, count(*) AS n
    FROM events e JOIN contacts c ON c.id = e.contact_id WHERE e.type = 'bot.finished' AND e.floor_at >= ? AND c.bot_id IS NOT NULL GROUP BY 1, 2`,
    since,
  );
  const endings: Record<string, BotEndings> = {};
  for (const { botId, how, n } of found) {
    const there = endings[botId] ?? { of: 0, person: 0, finished: 0, left: 0 };
    endings[botId] = {
      of: there.of + n,
      person: there.person + (how === 'handed-over' || how === 'failed' ? n : 0),
      finished: there.finished + (how === 'ended' ? n : 0),
      left: there.left + (how === 'left' || how === 'went-quiet' ? n : 0),
    };
  }
  return endings;
}

/** How customers went through a bot since an instant (floor ms): the ways taken, where they left, how many there were. */
export function trafficOf(db: Db, botId: string, since: number): Traffic {
  const found = rows<{ how: string; lineId: string | null; path: string | null }>(
    db,
    `SELECT json_extract(e.body, '$.how') AS how, json_extract(e.body, '$.lineId') AS lineId, json_extract(e.body, '$.path') AS path
    FROM events e JOIN contacts c ON c.id = e.contact_id WHERE e.type = 'bot.finished' AND e.floor_at >= ? AND c.bot_id = ?`,
    since,
    botId,
  );
  const traffic = { ways: {} as Record<string, number>, left: {} as Record<string, number>, of: found.length };
  for (const { how, lineId, path } of found) {
    // A line passed twice by one customer counts once.
    for (const way of new Set(JSON.parse(path ?? '[]') as string[])) traffic.ways[way] = (traffic.ways[way] ?? 0) + 1;
    if ((how === 'left' || how === 'went-quiet') && lineId !== null)
      traffic.left[lineId] = (traffic.left[lineId] ?? 0) + 1;
  }
  return traffic;
}
