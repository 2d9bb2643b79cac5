import { folded, stemOf, wordsOf } from './tokens';

/** What the words of other languages are in English, by the stems of each: so that one encoder reads several. */
export type Glosses = ReadonlyMap<string, ReadonlyMap<string, string>>;
export const NO_GLOSSES: Glosses = new Map();

/**
 * Reads lists of words by language: lines `english: word word`, `#` begins a remark. What stands earlier goes first; a
 * word may be several in English, of which the first counts.
 */
export function readGlosses(lists: Readonly<Record<string, readonly string[]>>): Glosses {
  return new Map(
    Object.entries(lists).map(([language, texts]) => {
      const byStem = new Map<string, string>();
      for (const line of texts.flatMap((text) => text.split('\n'))) {
        const [english, words] = line.split(':');
        if (line.startsWith('#') || english === undefined || words === undefined) continue;
        for (const word of words.trim().split(/\s+/)) {
          const stem = stemOf(folded(word), language);
          if (!byStem.has(stem)) byStem.set(stem, english.trim());
        }
      }
      return [language, byStem];
    }),
  );
}

/** A text in English, word by word: what no list has stays as it was said. A text in English is itself. */
export function inEnglish(words: readonly string[], language: string, glosses: Glosses): string {
  const list = glosses.get(language.split('-')[0] ?? language);
  return words.map((w) => list?.get(stemOf(w, language)) ?? w).join(' ');
}

/** The words of a text's English, as far as it has another than what was said. */
export const englishWords = (english: string): readonly string[] => wordsOf(english, 'en');
