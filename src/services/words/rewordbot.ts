import type { BotFault } from '../../core/bots/faults';
import { LaneError } from '../../core/errors';
import { type Reword, withLanguage } from '../../core/words/said';
import { reworded, saidIn } from '../../core/words/wordings';
import { keepMended, readBot, setLive, setPlanned, SHARED_SCENES, writeDraft } from '../../data/bots';
import type { Db } from '../../data/database';
import { readDoors, writeDoor } from '../../data/doors';
import { setTimer } from '../../data/timers';
import type { BotWorlds } from '../bots/botworld';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { announce, noteChange, type Undoable } from '../ground/change';
import type { Tx } from '../ground/host';
import { doorValue } from '../doors/doors';
import { rewordPublished, saidInPublished, versionsInUse } from './wordedthings';

/** One language of one sentence of a bot, or of a shared scene that it plays, and what it said and says. */
export type Rewording = {
  readonly sharedId: string | null;
  readonly key: string;
  readonly place: string;
  readonly part: string;
  readonly language: string;
  readonly from: string;
  readonly to: string;
};

/** What came of it: the versions that mend others, and in how many conversations they speak from their next line on. */
export type RewordedBot = {
  readonly name: string;
  readonly versions: readonly { readonly version: number; readonly mends: number }[];
  readonly talking: number;
  /** Whether the draft says it now as well; false where it said something else already. */
  readonly draft: boolean;
};

/** Puts in the words of those changes that find what they expect; `touched` counts them. */
function rewordingOf(changes: readonly Rewording[]): { readonly reword: Reword; touched: () => number } {
  let touched = 0;
  const reword: Reword = (said) =>
    changes
      .filter((c) => c.key === said.key && (said.texts[c.language] ?? '') === c.from)
      .reduce((texts, c) => {
        touched++;
        return withLanguage(texts, c.language, c.to);
      }, said.texts);
  return { reword, touched: () => touched };
}

/** Words of a bot as History keeps them, by where they stand as people read it. */
type WordsOf = {
  readonly name: string;
  readonly live: boolean;
  readonly words: Readonly<Record<string, { readonly text: Readonly<Record<string, string>> }>>;
  readonly places: Readonly<Record<string, { readonly sharedId: string | null; readonly key: string }>>;
};
function kept(changes: readonly Rewording[], side: 'from' | 'to'): Pick<WordsOf, 'words' | 'places'> {
  const words: Record<string, { text: Record<string, string> }> = {};
  const places: Record<string, WordsOf['places'][string]> = {};
  for (const { sharedId, key, place, part, language, [side]: text } of changes) {
    const named = [place, part].filter(Boolean).join(' ');
    let name = named;
    const isAnother = (there = places[name]) => there && (there.key !== key || there.sharedId !== sharedId);
    for (let n = 2; isAnother(); n++) name = `${named} ${n}`;
    places[name] = { sharedId, key };
    words[name] = { text: { ...words[name]?.text, [language]: text } };
  }
  return { words, places };
}

/**
 * Words a bot otherwise wherever it says what the changes expect: its draft, and each version in use, which a version of its own
 * takes the place of; conversations that began with it go on with that one from their next line. What a change does
 * not find is left. Null where nothing was found.
 *
 * Throws `cannot-publish` where a version would then have a fault that stops contacts and that it had not before.
 */
export function rewordBot(
  tx: Tx,
  actor: Actor,
  worlds: BotWorlds,
  botId: string,
  changes: readonly Rewording[],
  where: 'draft' | 'everywhere' = 'everywhere',
): RewordedBot | null {
  const bot = readBot(tx.db, botId);
  if (!bot) return null;
  const own = changes.filter((c) => c.sharedId === null);
  const draft = rewordingOf(own);
  const after = reworded('bot', bot.draft, draft.reword);
  const sharedIds = [...new Set(changes.flatMap((c) => (c.sharedId === null ? [] : [c.sharedId])))];
  const versions: { version: number; mends: number }[] = [];
  let talking = 0;
  if (draft.touched() > 0) {
    mustHoldEverywhere(actor, 'bots.change');
    const spoken = own.flatMap((c) => (c.to === '' ? [] : [c.language]));
    writeDraft(tx.db, botId, bot.name, { ...after, languages: [...new Set([...after.languages, ...spoken])] });
  }
  const worded = changes.map(({ to }) => to.slice(0, 120)).join('”, “');
  for (const used of where === 'draft' ? [] : versionsInUse(tx.db, bot)) {
    let now: { script: typeof used.script; pinned: typeof used.pinned } = used;
    let touched = 0;
    for (const sharedId of [null, ...sharedIds]) {
      const { reword, touched: more } = rewordingOf(changes.filter((c) => c.sharedId === sharedId));
      now = rewordPublished(now, sharedId, reword);
      touched += more();
    }
    if (touched === 0) continue;
    mustHoldEverywhere(actor, 'bots.publish');
    mustBeAsGood(worlds.faultsOf(botId, used.script), worlds.faultsOf(botId, now.script));
    const version = keepMended(
      tx.db,
      botId,
      { ...now, version: used.version },
      `Words mended in version ${used.version}: “${worded}”`.slice(0, 300),
      tx.realAt,
      actor.personId,
    );
    versions.push({ version, mends: used.version });
    talking += used.talking;
    takeItsPlace(tx, botId, used.version, version);
  }
  if (draft.touched() === 0 && versions.length === 0) return null;
  announce(tx, 'bot', botId);
  if (versions.length > 0) announce(tx, 'bot-live', botId);
  return { name: bot.name, versions, talking, draft: draft.touched() > 0 };
}

/** Words of a draft before and after a change, as History keeps them. */
export const draftWords = (name: string, changes: readonly Rewording[]): { before: unknown; after: unknown } => ({
  before: { name, live: false, ...kept(changes, 'from') },
  after: { name, live: false, ...kept(changes, 'to') },
});

/** Notes in History how a bot was worded otherwise. */
export function noteReworded(
  tx: Tx,
  actor: Actor,
  botId: string,
  { name, versions }: RewordedBot,
  changes: readonly Rewording[],
  batch: string | null,
): void {
  const value = (side: 'from' | 'to'): WordsOf => ({ name, live: versions.length > 0, ...kept(changes, side) });
  noteChange(tx, actor, 'bot-words', botId, value('from'), value('to'), { batch });
}

function mustBeAsGood(before: readonly BotFault[], after: readonly BotFault[]): void {
  const known = new Set(before.map((f) => f.sentence));
  const worse = after.find((f) => f.weight === 'stops' && !known.has(f.sentence));
  if (worse) throw new LaneError('cannot-publish', `Not mended: ${worse.sentence}`);
}

/** Whoever was to meet one version meets the other. */
function takeItsPlace(tx: Tx, botId: string, version: number, next: number): void {
  const bot = readBot(tx.db, botId);
  if (bot?.liveVersion === version) setLive(tx.db, botId, next);
  if (bot?.planned?.version === version) {
    setPlanned(tx.db, botId, { ...bot.planned, version: next });
    setTimer(tx.db, 'bot-goes-live', botId, 'floor', bot.planned.at);
  }
  for (const door of readDoors(tx.db))
    if (door.botId === botId && door.trial?.version === version)
      writeDoor(tx.db, { ...doorValue(door), trial: { ...door.trial, version: next } });
}

/** The words that a bot says now in these places: customers' where they meet them, else the draft's. */
function wordsNow(db: Db, botId: string, like: WordsOf): WordsOf | null {
  const bot = readBot(db, botId);
  if (!bot) return null;
  const used = like.live ? versionsInUse(db, bot) : [];
  const live = used.find((v) => v.version === bot.liveVersion) ?? used.at(-1);
  const saidAt = (sharedId: string | null) =>
    live
      ? saidInPublished(live, sharedId)
      : sharedId === null
        ? saidIn('bot', bot.draft)
        : SHARED_SCENES.all(db)
            .filter((s) => s.id === sharedId)
            .flatMap((s) => saidIn('shared-scene', s));
  const textsAt = (name: string) => {
    const place = like.places[name];
    return (place && saidAt(place.sharedId).find((said) => said.key === place.key)?.texts) ?? {};
  };
  const words = Object.entries(like.words).map(([name, { text }]) => {
    const texts = textsAt(name);
    return [name, { text: Object.fromEntries(Object.keys(text).map((l) => [l, texts[l] ?? ''])) }] as const;
  });
  return { ...like, name: bot.name, words: Object.fromEntries(words) };
}

/** Words of bots are undone as they were mended: by a version that mends the one in use. */
export const undoableBotWords = (worlds: BotWorlds): Readonly<Record<string, Undoable>> => ({
  'bot-words': {
    name: 'words of a bot',
    path: (botId) => `/bots/${botId}`,
    read: (db, botId, like) => wordsNow(db, botId, like as WordsOf),
    restore: (tx, actor, botId, value) => {
      const wanted = value as WordsOf;
      const now = wordsNow(tx.db, botId, wanted);
      const changes = Object.entries(wanted.words).flatMap(([name, { text }]) => {
        const place = wanted.places[name];
        return Object.entries(text).flatMap(([language, to]): Rewording[] =>
          place
            ? [{ ...place, place: name, part: '', language, from: now?.words[name]?.text[language] ?? '', to }]
            : [],
        );
      });
      if (!now || !rewordBot(tx, actor, worlds, botId, changes, wanted.live ? 'everywhere' : 'draft'))
        throw new LaneError('not-found', 'These words are not there any more.');
    },
  },
});
