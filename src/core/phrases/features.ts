import { englishWords, type Glosses, inEnglish } from './glosses';
import type { Rewording } from './otherwords';
import type { FoundThing } from './things';
import { stemOf, wordsOf } from './tokens';

/** What phrases are read with: the same for those that are learnt and for those that are said. */
export type Reading = {
  readonly reword: Rewording;
  readonly glosses: Glosses;
  readonly found: (text: string) => readonly FoundThing[];
};

/** A phrase as it is compared: how often each word and each piece of a word is in it, and what it is in English. */
export type Phrased = {
  readonly words: ReadonlyMap<string, number>;
  readonly pieces: ReadonlyMap<string, number>;
  /** What the encoder reads. */ readonly english: string;
  readonly stems: readonly string[];
};

/** How much words and pairs of words, and pieces of words, count beside what a phrase means (1). By cross-validation. */
export const SHARES = { words: 0.5, pieces: 0.3 };

const digits = (stem: string): string => (/^\d+$/.test(stem) ? '#' : stem);

/**
 * Reads a phrase. Words are stemmed, those of other languages stand in English as well; things of the phrasebook stand
 * as their list's name too, so that what is learnt of one holds for another.
 */
export function phrasedAs(text: string, language: string, { reword, glosses, found }: Reading): Phrased {
  const said = reword(wordsOf(text, language), language);
  const english = inEnglish(said, language, glosses);
  const words = new Map<string, number>();
  const pieces = new Map<string, number>();
  const put = (map: Map<string, number>, name: string, n: number): void => void map.set(name, (map.get(name) ?? 0) + n);
  const stems = said.map((w) => digits(stemOf(w, language)));
  const foreign = glosses.has(language.split('-')[0] ?? language) ? englishWords(english) : [];
  for (const all of [stems, foreign.map((w) => digits(stemOf(w, 'en')))]) {
    const own = new Map<string, number>();
    for (const stem of all) put(own, `w ${stem}`, 1);
    for (let i = 0; i + 1 < all.length; i++) put(own, `p ${all[i] ?? ''} ${all[i + 1] ?? ''}`, 1);
    for (const [name, n] of own) words.set(name, Math.max(words.get(name) ?? 0, n));
  }
  for (const listId of new Set(found(text).map((f) => f.listId))) words.set(`t ${listId}`, 1);
  for (const word of new Set([...said, ...foreign])) {
    const edged = `_${word}_`;
    for (let n = 3; n <= 5; n++)
      for (let i = 0; i + n <= edged.length; i++) put(pieces, `g ${edged.slice(i, i + n)}`, 1);
  }
  return {
    words,
    pieces,
    english:
      language.startsWith('en') && said.join(' ') === wordsOf(text, language).join(' ')
        ? text.replaceAll('’', "'")
        : english,
    stems,
  };
}

/** A phrase as the numbers of its features and how much each counts. */
export type Sparse = { readonly at: Int32Array; readonly weight: Float32Array };

/** All features of some phrases by name: their numbers, and how telling each is. */
export type Features = { readonly numbers: ReadonlyMap<string, number>; readonly rarity: Float32Array };

/**
 * Numbers all features that occur, with how rare each is: log((1 + n) / (1 + df)) + 1 (smoothed inverse document
 * frequency).
 */
export function featuresOf(phrases: readonly Phrased[]): Features {
  const count = new Map<string, number>();
  for (const { words, pieces } of phrases)
    for (const map of [words, pieces]) for (const name of map.keys()) count.set(name, (count.get(name) ?? 0) + 1);
  const kept = [...count];
  return {
    numbers: new Map(kept.map(([name], i) => [name, i])),
    rarity: Float32Array.from(kept, ([, n]) => Math.log((1 + phrases.length) / (1 + n)) + 1),
  };
}

/** The same features with those of one more phrase that had none of its own yet, each as rare as can be. */
export function withFeaturesOf({ words, pieces }: Phrased, { numbers, rarity }: Features, unseen: number): Features {
  const fresh = [...words.keys(), ...pieces.keys()].filter((name) => !numbers.has(name));
  return {
    numbers: new Map([...numbers, ...fresh.map((name, i) => [name, numbers.size + i] as const)]),
    rarity: Float32Array.from([...rarity, ...fresh.map(() => unseen)]),
  };
}

/** A phrase's features as numbers: words and pieces have length √share each, so that neither drowns the other. */
export function sparseOf({ words, pieces }: Phrased, { numbers, rarity }: Features, unseen: number): Sparse {
  const at: number[] = [];
  const weight: number[] = [];
  for (const [map, share] of [
    [words, SHARES.words],
    [pieces, SHARES.pieces],
  ] as const) {
    const from = at.length;
    let square = 0;
    for (const [name, n] of map) {
      const number = numbers.get(name);
      const w = (1 + Math.log(n)) * (number === undefined ? unseen : (rarity[number] ?? 1));
      square += w * w;
      if (number === undefined) continue;
      at.push(number);
      weight.push(w);
    }
    const scale = square === 0 ? 0 : Math.sqrt(share / square);
    for (let i = from; i < weight.length; i++) weight[i] = (weight[i] ?? 0) * scale;
  }
  return { at: Int32Array.from(at), weight: Float32Array.from(weight) };
}
