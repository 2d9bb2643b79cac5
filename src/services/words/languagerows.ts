import type { Phrasebook } from '../../core/phrases/book';
import type { FileRow } from '../../core/words/file';
import type { Said, WordedKind } from '../../core/words/said';
import { ARTICLES } from '../../data/articles';
import type { Db } from '../../data/database';
import { readPhrasebook } from '../../data/phrasebook';
import { wordedThings, type WordedThing } from './wordedthings';

/** What is worded per language: things with sentences, and the phrases by which customers are understood. */
export type LanguageKind = WordedKind | 'phrases';

/** One sentence, article or list of phrases in all its languages, with where it stands. */
export type LanguageRow = FileRow & {
  readonly kind: LanguageKind;
  readonly thingId: string;
  readonly thing: string;
  readonly path: string;
  readonly key: string;
  readonly channel: Said['channel'];
  readonly needed: boolean;
};

/** Phrases stand one to a line. */
export const linesOf = (text: string): string[] => [
  ...new Set(
    text
      .split(/\r?\n/)
      .map((line) => line.trim())
      .filter(Boolean),
  ),
];

/** Articles in one language each, those that say the same in another (`of`) as one. */
export function articleGroups(
  db: Db,
): { readonly id: string; readonly byLanguage: ReadonlyMap<string, ReturnType<typeof ARTICLES.all>[number]> }[] {
  const all = ARTICLES.all(db);
  const ids = new Set(all.map((a) => a.id));
  const firsts = all.filter((a) => a.of === undefined || !ids.has(a.of));
  return firsts.map((first) => ({
    id: first.id,
    byLanguage: new Map([
      ...all.filter((a) => a.of === first.id).map((a) => [a.language, a] as const),
      [first.language, first],
    ]),
  }));
}

/** Everything that customers meet in words, and by which they are understood, in the order of the file. */
export function languageRows(db: Db): LanguageRow[] {
  const rowOf = (
    thing: Omit<WordedThing, 'said' | 'kind'> & { readonly kind: LanguageKind },
    said: Said,
  ): LanguageRow => ({
    id: `${thing.kind} ${thing.id} ${said.key}`,
    kind: thing.kind,
    thingId: thing.id,
    thing: thing.name,
    path: thing.path,
    key: said.key,
    place: [thing.name, said.place].filter(Boolean).join(', '),
    part: said.part,
    channel: said.channel,
    texts: said.texts,
    most: said.most,
    needed: said.needed,
  });
  return [
    ...wordedThings(db)
      .filter((thing) => thing.kind !== 'article')
      .flatMap((thing) => thing.said.map((said) => rowOf(thing, said))),
    ...articleGroups(db).flatMap(({ id, byLanguage }) => {
      const name = [...byLanguage.values()].at(-1)?.name ?? '';
      const thing = { kind: 'article', id, name, path: `/bots/articles?article=${id}` } as const;
      const texts = (field: 'name' | 'text') =>
        Object.fromEntries([...byLanguage].map(([language, article]) => [language, article[field]]));
      const usual = { place: '', channel: null, needed: true };
      return [
        rowOf(thing, { ...usual, key: 'title', part: 'title', most: 120, texts: texts('name') }),
        rowOf(thing, { ...usual, key: 'text', part: 'text', most: 4000, texts: texts('text') }),
      ];
    }),
    ...(readPhrasebook(db)?.book.intents ?? []).map((intent) =>
      rowOf(
        { kind: 'phrases', id: intent.id, name: intent.label, path: '/bots/phrasebook' },
        {
          key: 'examples',
          place: '',
          part: 'phrases, one to a line',
          channel: null,
          needed: true,
          most: 20_000,
          texts: Object.fromEntries(Object.entries(intent.examples).map(([l, lines]) => [l, lines.join('\n')])),
        },
      ),
    ),
  ];
}

/** A phrasebook with an intent's phrases of a language replaced, by the intent's id. */
export const withPhrases = (book: Phrasebook, language: string, phrases: ReadonlyMap<string, string>): Phrasebook => ({
  ...book,
  languages: book.languages.includes(language) ? book.languages : [...book.languages, language],
  intents: book.intents.map((intent) => {
    const text = phrases.get(intent.id);
    if (text === undefined) return intent;
    const { [language]: _before, ...others } = intent.examples;
    const lines = linesOf(text);
    return { ...intent, examples: lines.length === 0 ? others : { ...others, [language]: lines } };
  }),
});
