import type { OtherWords } from './book';
import { stemOf, wordsOf } from './tokens';

/** The most words that another way of saying something may have. */
export const MOST_WORDS = 3;

/** Puts what a business says its own way into the words that its phrases use: the longest first, from the left. */
export type Rewording = (words: readonly string[], language: string) => readonly string[];

/** Prepares the other words of a book: they count in the language they are of, by their stems. */
export function rewordingOf(all: readonly OtherWords[]): Rewording {
  const byKey = new Map<string, readonly string[]>();
  const base = (language: string): string => language.split('-')[0] ?? language;
  const stems = (words: readonly string[], language: string): string[] => words.map((w) => stemOf(w, language));
  for (const { word, language, also } of all)
    for (const said of also) {
      const key = stems(wordsOf(said, language), language);
      if (key.length > 0 && key.length <= MOST_WORDS)
        byKey.set(`${base(language)} ${key.join(' ')}`, wordsOf(word, language));
    }
  if (byKey.size === 0) return (words) => words;
  return (words, language) => {
    const own = stems(words, language);
    const out: string[] = [];
    for (let at = 0; at < words.length;) {
      let taken = 0;
      for (let length = Math.min(MOST_WORDS, words.length - at); length > 0 && taken === 0; length--) {
        const found = byKey.get(`${base(language)} ${own.slice(at, at + length).join(' ')}`);
        if (!found) continue;
        out.push(...found);
        taken = length;
      }
      if (taken === 0) out.push(words[at] ?? '');
      at += Math.max(1, taken);
    }
    return out;
  };
}
