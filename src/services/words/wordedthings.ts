import type { BotScript, SharedScene } from '../../core/bots/model';
import { rewordScenes } from '../../core/words/botwords';
import type { Reword, Said, WordedKind } from '../../core/words/said';
import { reworded, saidIn } from '../../core/words/wordings';
import { ARTICLES } from '../../data/articles';
import {
  type Bot,
  mendedAs,
  type Published,
  readBots,
  readVersion,
  SHARED_SCENES,
  versionsGoingOn,
} from '../../data/bots';
import type { Db } from '../../data/database';
import { readDoors } from '../../data/doors';
import { STOCK_SETS } from '../../data/duty';
import { readQueues } from '../../data/queuesettings';

/** Something in which words stand that customers meet, with its sentences as they are set now. */
export type WordedThing = {
  readonly kind: WordedKind;
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly said: readonly Said[];
};

/** What each kind is called. */
export const WORDED_NAMES: Readonly<Record<WordedKind, string>> = {
  bot: 'Bot',
  'shared-scene': 'Shared scene',
  door: 'Door',
  queue: 'Queue',
  'stock-set': 'Stock replies',
  article: 'Article',
};

/** All of them, of bots their drafts. */
export function wordedThings(db: Db): WordedThing[] {
  const one = (kind: WordedKind, { id, name }: { id: string; name: string }, path: string, said: readonly Said[]) => ({
    kind,
    id,
    name,
    path,
    said,
  });
  return [
    ...readDoors(db).map((d) => one('door', d, `/doors?door=${d.id}`, saidIn('door', d))),
    ...readBots(db).map((b) => one('bot', b, `/bots/${b.id}`, saidIn('bot', b.draft))),
    ...SHARED_SCENES.all(db).map((s) =>
      one('shared-scene', s, `/bots/shared?scene=${s.id}`, saidIn('shared-scene', s)),
    ),
    ...readQueues(db).map((q) => one('queue', q, `/queues?queue=${q.id}`, saidIn('queue', q))),
    ...STOCK_SETS.all(db).map((s) => one('stock-set', s, `/people/desks?set=${s.id}`, saidIn('stock-set', s))),
    ...ARTICLES.all(db).map((a) => one('article', a, `/bots/articles?article=${a.id}`, saidIn('article', a))),
  ];
}

/** A version that customers meet or may meet without anybody pressing anything more. */
export type VersionInUse = Published & {
  readonly version: number;
  /** Conversations it has now. */ readonly talking: number;
};

/** The versions of a bot in use: live, to go live, on trial at a door, or gone on with by contacts that began with them. */
export function versionsInUse(db: Db, bot: Bot): VersionInUse[] {
  // Whoever is with a version whose words were mended goes on with the one that mends it.
  const going = new Map<number, number>();
  for (const { version, talking } of versionsGoingOn(db, bot.id)) {
    const next = mendedAs(db, bot.id, version);
    going.set(next, (going.get(next) ?? 0) + talking);
  }
  const numbers = new Set([
    ...(bot.liveVersion === null ? [] : [bot.liveVersion]),
    ...(bot.planned ? [bot.planned.version] : []),
    ...readDoors(db).flatMap((d) => (d.botId === bot.id && d.trial ? [d.trial.version] : [])),
    ...going.keys(),
  ]);
  return [...numbers]
    .sort((a, b) => a - b)
    .flatMap((version) => {
      const published = readVersion(db, bot.id, version);
      return published ? [{ ...published, version, talking: going.get(version) ?? 0 }] : [];
    });
}

/** What was published, with the sentences of its own script, or of a shared scene it was published with, put through `reword`. */
export function rewordPublished(
  { script, pinned }: Published,
  sharedId: string | null,
  reword: Reword,
): { script: BotScript; pinned: Published['pinned'] } {
  if (sharedId === null) return { script: reworded('bot', script, reword), pinned };
  const shared = pinned.shared.map((scene): SharedScene =>
    scene.id === sharedId ? (rewordScenes([scene], reword)[0] ?? scene) : scene,
  );
  return { script, pinned: { ...pinned, shared } };
}

/** Every sentence of what was published, or of a shared scene in it. */
export function saidInPublished(published: Published, sharedId: string | null): Said[] {
  if (sharedId === null) return saidIn('bot', published.script);
  const scene = published.pinned.shared.find((s) => s.id === sharedId);
  return scene ? saidIn('shared-scene', scene) : [];
}
