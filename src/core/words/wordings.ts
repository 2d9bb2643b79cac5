import type { BotScript, Scene } from '../bots/model';
import { rewordScenes, rewordScript } from './botwords';
import { rewordQueue } from './queuewords';
import { type Reword, type Said, withLanguage, type WordedKind } from './said';
import { rewordArticle, rewordDoor, rewordReplies } from './thingwords';

/** The things in which customers' words stand, by kind, as far as these are concerned. */
type Worded = {
  bot: BotScript;
  'shared-scene': Scene;
  door: Parameters<typeof rewordDoor>[0];
  queue: Parameters<typeof rewordQueue>[0];
  'stock-set': Parameters<typeof rewordReplies>[0];
  article: Parameters<typeof rewordArticle>[0];
};
const REWORD: { readonly [K in WordedKind]: <T extends Worded[K]>(thing: T, reword: Reword) => T } = {
  bot: (thing, reword) => ({ ...thing, ...rewordScript(thing, reword) }),
  'shared-scene': (thing, reword) => rewordScenes([thing], reword)[0] ?? thing,
  door: rewordDoor,
  queue: rewordQueue,
  'stock-set': rewordReplies,
  article: rewordArticle,
};

/** A thing with each of its sentences put through `reword`. Nothing else of it is touched. */
export const reworded = <K extends WordedKind, T extends Worded[K]>(kind: K, thing: T, reword: Reword): T =>
  REWORD[kind](thing, reword);

/** Every sentence of a thing, in its order; those that may be left out and are empty are left out. */
export function saidIn<K extends WordedKind>(kind: K, thing: Worded[K]): Said[] {
  const found: Said[] = [];
  reworded(kind, thing, (said) => {
    if (said.needed || said.channel !== null || Object.values(said.texts).some(Boolean)) found.push(said);
    return said.texts;
  });
  return found;
}

/** A thing with one language of one of its sentences worded otherwise. */
export const withSaid = <K extends WordedKind, T extends Worded[K]>(
  kind: K,
  thing: T,
  key: string,
  language: string,
  text: string,
): T => reworded(kind, thing, (said) => (said.key === key ? withLanguage(said.texts, language, text) : said.texts));

/** Several sentences at once, each by its key; see `withSaid`. */
export const withTexts = <K extends WordedKind, T extends Worded[K]>(
  kind: K,
  thing: T,
  language: string,
  texts: ReadonlyMap<string, string>,
): T =>
  reworded(kind, thing, (said) => {
    const text = texts.get(said.key);
    return text === undefined ? said.texts : withLanguage(said.texts, language, text);
  });
