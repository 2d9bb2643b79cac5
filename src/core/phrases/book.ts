/** One thing customers want, taught by example phrases per language. */
export type Intent = {
  readonly id: string;
  readonly label: string;
  readonly description: string;
  readonly examples: Readonly<Record<string, readonly string[]>>;
};

/** One thing of a list with the words for it per language; the first is its name. */
export type Thing = { readonly id: string; readonly words: Readonly<Record<string, readonly string[]>> };

/** What can be recognised within a phrase: one of a list of things, or a reference that fits an RE2 pattern. */
export type Recognised =
  | { readonly id: string; readonly label: string; readonly kind: 'list'; readonly things: readonly Thing[] }
  | {
      readonly id: string;
      readonly label: string;
      readonly kind: 'pattern';
      readonly pattern: string;
      readonly example: string;
    };

/** The intents and the example phrases that teach them, and the things to recognise. */
export type Phrasebook = {
  readonly languages: readonly string[];
  readonly intents: readonly Intent[];
  readonly recognised: readonly Recognised[];
};

export const EMPTY_BOOK: Phrasebook = { languages: ['en'], intents: [], recognised: [] };

/** One example phrase with where it stands. */
export type Phrase = { readonly intentId: string; readonly language: string; readonly text: string };
export const phrasesOf = (book: Phrasebook): Phrase[] =>
  book.intents.flatMap((i) =>
    Object.entries(i.examples).flatMap(([language, texts]) =>
      texts.map((text) => ({ intentId: i.id, language, text })),
    ),
  );
