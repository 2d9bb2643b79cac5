import { stemmer as english } from '@orama/stemmers/english';
import { stemmer as french } from '@orama/stemmers/french';
import { stemmer as german } from '@orama/stemmers/german';
import { stemmer as italian } from '@orama/stemmers/italian';
import { stemmer as portuguese } from '@orama/stemmers/portuguese';
import { stemmer as spanish } from '@orama/stemmers/spanish';

/**
 * A rough stem of a Polish word (already folded): longer words without the letters that most endings change. No stemmer
 * for it is among our packages.
 */
const polish = (word: string): string =>
  word.length > 6 ? word.slice(0, -2) : word.length > 4 ? word.slice(0, -1) : word;

const STEMMERS: Readonly<Record<string, (word: string) => string>> = {
  en: english,
  es: spanish,
  fr: french,
  de: german,
  it: italian,
  pt: portuguese,
  pl: polish,
};
const segmenters = new Map<string, Intl.Segmenter>();
const stems = new Map<string, string>();

const base = (language: string): string => language.split('-')[0] ?? language;

/** Lower case without accents. */
export const folded = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** The words of a text, folded, by the Unicode rules for word boundaries (UAX 29). */
export function wordsOf(text: string, language: string): readonly string[] {
  // Learning asks for the words of each phrase several times.
  const key = `${base(language)} ${text}`;
  const known = split.get(key);
  if (known) return known;
  const words = segmented(text, language);
  if (split.size > 6000) split.clear();
  split.set(key, words);
  return words;
}
const split = new Map<string, readonly string[]>();

/** Plain text, in which a word boundary is whatever is no letter or digit: most of what is typed in English. */
const PLAIN = /^[ -~]*$/;
const JOINED = /[A-Za-z0-9][.:,;][A-Za-z0-9]|_/;

function segmented(text: string, language: string): string[] {
  // The full rules cost a hundred times as much, and say the same of plain text.
  const spaced = text.replace(/[’']/g, ' ');
  if (PLAIN.test(spaced) && !JOINED.test(spaced)) return spaced.toLowerCase().match(/[a-z0-9]+/g) ?? [];
  let segmenter = segmenters.get(base(language));
  if (!segmenter)
    segmenters.set(base(language), (segmenter = new Intl.Segmenter(base(language), { granularity: 'word' })));
  const words: string[] = [];
  for (const { segment, isWordLike } of segmenter.segment(spaced)) if (isWordLike) words.push(folded(segment));
  return words;
}

/** A word's stem in a language; the word itself where we have no stemmer for it. */
export function stemOf(word: string, language: string): string {
  const key = `${base(language)} ${word}`;
  let stem = stems.get(key);
  if (stem === undefined) {
    stem = STEMMERS[base(language)]?.(word) ?? word;
    // Customers write endless other words; what is kept of them is bounded.
    if (stems.size > 20_000) stems.clear();
    stems.set(key, stem);
  }
  return stem;
}
