import { object, string } from 'yup';
import { holds, type Right } from '../../core/people/rights';
import type { Channel } from '../../core/channels';
import type { Said, WordedKind } from '../../core/words/said';
import { folded, searchedWords } from '../../core/wordsearch';
import { lineOfSaid } from '../../core/words/botwords';
import { readBots } from '../../data/bots';
import { recordedWords } from '../bots/recordings';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';
import { sameWords } from '../../core/sound/recorded';
import { saidInPublished, versionsInUse, wordedThings, WORDED_NAMES } from './wordedthings';

const askedSchema = object({ find: string().max(200, 'At most 200 characters') });

/** A sentence in one language that has what was looked for, with all places in its thing at which it stands alike. */
export type FoundWords = {
  readonly kind: WordedKind;
  readonly kindName: string;
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly key: string;
  readonly place: string;
  readonly part: string;
  readonly channel: Channel | null;
  readonly language: string;
  readonly text: string;
  readonly most: number;
  /** Whether it is set so now; of bots and shared scenes, what is being written. */
  readonly inDraft: boolean;
  /** The versions of bots that say it to customers, and in how many conversations one of them speaks now. */
  readonly live: readonly { readonly bot: string; readonly version: number; readonly talking: number }[];
  /** Whether exactly these words are recorded for calls. */
  readonly recorded: boolean;
  readonly mayMend: boolean;
};
export type FoundWordsView = { readonly found: readonly FoundWords[]; readonly total: number };

/** Most that are shown; the page says how many there are. */
const MOST = 200;

/** The rights it takes to word each kind otherwise, for all teams. */
export const MENDS: Readonly<Record<WordedKind, readonly Right[]>> = {
  bot: ['bots.change', 'bots.publish'],
  'shared-scene': ['bots.change', 'bots.publish'],
  door: ['doors.change'],
  queue: ['queues.change'],
  'stock-set': ['people.change'],
  article: ['bots.change'],
};
export const mayMend = (actor: Actor, kind: WordedKind): boolean =>
  actor.teams === 'all' && MENDS[kind].every((right) => holds(actor, right));

type Place = Omit<FoundWords, 'language' | 'text' | 'inDraft' | 'live' | 'recorded' | 'mayMend'>;

/** Sentences wherever customers meet them that have all the words looked for, in any language. */
export function findWords(host: Host, actor: Actor, asked: unknown): FoundWordsView {
  mustHold(actor, 'settings.view');
  const words = searchedWords(parse(askedSchema, asked).find ?? '');
  if (words.length === 0) return { found: [], total: 0 };
  const fits = (text: string): boolean => {
    const plain = folded(text);
    return words.every((word) => plain.includes(word));
  };
  const found = new Map<string, FoundWords>();
  const { db } = host;
  const recorded = recordedWords(host);
  const note = (place: Place, texts: Said['texts'], live: FoundWords['live'][number] | null): void => {
    for (const [language, text] of Object.entries(texts)) {
      if (!fits(text)) continue;
      const at = JSON.stringify([place.kind, place.id, place.key, language, text]);
      const there = found.get(at) ?? {
        ...place,
        language,
        text,
        inDraft: false,
        live: [],
        recorded: recorded(language, sameWords(text)) !== null,
        mayMend: mayMend(actor, place.kind),
      };
      found.set(at, {
        ...there,
        inDraft: there.inDraft || live === null,
        live: live ? [...there.live, live] : there.live,
      });
    }
  };
  const things = wordedThings(db).filter((t) => t.kind !== 'stock-set' || holds(actor, 'people.view'));
  const scenes = things.filter((t) => t.kind === 'shared-scene');
  const placed = ({ kind, id, name, path }: Omit<(typeof things)[number], 'said'>, said: Said): Place => {
    const line = kind === 'bot' ? lineOfSaid(said) : null;
    return {
      kind,
      kindName: WORDED_NAMES[kind],
      id,
      name,
      path: line === null ? path : `${path}?line=${line}`,
      key: said.key,
      place: said.place,
      part: said.part,
      channel: said.channel,
      most: said.most,
    };
  };
  for (const thing of things) for (const said of thing.said) note(placed(thing, said), said.texts, null);
  for (const bot of readBots(db))
    for (const version of versionsInUse(db, bot)) {
      const live = { bot: bot.name, version: version.version, talking: version.talking };
      const own = { kind: 'bot', id: bot.id, name: bot.name, path: `/bots/${bot.id}` } as const;
      for (const said of saidInPublished(version, null)) note(placed(own, said), said.texts, live);
      for (const scene of version.pinned.shared) {
        const now = scenes.find((s) => s.id === scene.id);
        const shared = now ?? { kind: 'shared-scene', id: scene.id, name: scene.name, path: `/bots/${bot.id}` };
        for (const said of saidInPublished(version, scene.id)) note(placed(shared, said), said.texts, live);
      }
    }
  return { found: [...found.values()].slice(0, MOST), total: found.size };
}
