import { readFileSync } from 'node:fs';
import { EMPTY_BOOK, type Aside, type Phrasebook } from '../../src/core/phrases/book';
import { readBookJson } from '../../src/core/phrases/bookfile';
import { UNSEEN, UNSEEN_OTHER } from './unseenphrases';

/** A business's book as it was written, and phrases written apart from it, for judging alone. */
export type Business = { readonly name: string; readonly book: Phrasebook; readonly aside: readonly Aside[] };

/** By intent (none for nobody's) and language. */
type Apart = Readonly<Record<string, Readonly<Record<string, readonly string[]>>>>;
const asidesOf = (apart: Apart): Aside[] =>
  Object.entries(apart).flatMap(([intentId, by]) =>
    Object.entries(by).flatMap(([language, texts]) =>
      texts.map((text) => ({ text, language, intentId: intentId === '' ? null : intentId })),
    ),
  );

function bookIn(file: string): Phrasebook {
  const read = readBookJson(readFileSync(file, 'utf8'));
  if ('faults' in read) throw new Error(read.faults[0]?.what);
  // What is recognised, and what was taught since, would be the business's own vocabulary.
  return { ...EMPTY_BOOK, languages: read.book.languages, intents: read.book.intents };
}

/** Two businesses to judge by, without other words; no figure of the matcher was chosen by what is kept aside. */
export const businesses = (): readonly Business[] => [
  {
    name: 'instruments',
    book: bookIn('demo/files/phrasebook-source.json'),
    aside: [...asidesOf(UNSEEN), ...UNSEEN_OTHER.map((o) => ({ ...o, intentId: null }))],
  },
  {
    name: 'library',
    book: bookIn('tests/data/library.json'),
    aside: asidesOf(JSON.parse(readFileSync('tests/data/library-aside.json', 'utf8')) as Apart),
  },
];
