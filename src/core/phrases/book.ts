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

/** Other ways of saying a word, each of one to three words, in one language. */
export type OtherWords = { readonly word: string; readonly language: string; readonly also: readonly string[] };

/**
 * What a lead wishes of a language: the share of what is acted on that is to be right, and the share of one's own
 * phrases that is not to be taken for nobody's. Both from 0 to 1.
 */
export type Wish = { readonly right: number; readonly keep: number };
export const USUAL_WISH: Wish = { right: 0.9, keep: 0.95 };

/**
 * A phrase that is kept aside: nobody teaches from it, so that it says how strangers fare. `intentId` is whose it is by
 * hand; null for nobody's.
 */
export type Aside = { readonly text: string; readonly language: string; readonly intentId: string | null };

/**
 * The intents and the example phrases that teach them, other words for what they say, the things to recognise, and what
 * is wished of each language (the usual where nothing stands).
 */
export type Phrasebook = {
  readonly languages: readonly string[];
  readonly intents: readonly Intent[];
  readonly recognised: readonly Recognised[];
  readonly otherWords: readonly OtherWords[];
  readonly wishes: Readonly<Record<string, Wish>>;
  readonly aside: readonly Aside[];
};

export const EMPTY_BOOK: Phrasebook = {
  languages: ['en'],
  intents: [],
  recognised: [],
  otherWords: [],
  wishes: {},
  aside: [],
};

/** The book without an intent, and without the phrases kept aside that were its own. */
export const withoutIntent = (book: Phrasebook, intentId: string): Phrasebook => ({
  ...book,
  intents: book.intents.filter((i) => i.id !== intentId),
  aside: book.aside.filter((a) => a.intentId !== intentId),
});

/** One example phrase with where it stands. */
export type Phrase = { readonly intentId: string; readonly language: string; readonly text: string };
export const phrasesOf = (book: Phrasebook): Phrase[] =>
  book.intents.flatMap((i) =>
    Object.entries(i.examples).flatMap(([language, texts]) =>
      texts.map((text) => ({ intentId: i.id, language, text })),
    ),
  );
