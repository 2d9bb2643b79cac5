import type { Phrasebook } from './book';
import type { Calibration } from './evidence';
import { type Features, type Phrased, type Reading, sparseOf } from './features';
import type { Glosses } from './glosses';
import type { Judged, Thresholds } from './judging';
import type { Says } from './kernelridge';
import type { Vectored } from './likeness';
import { rewordingOf } from './otherwords';
import { thingFinder } from './things';
import { type Standard, standardised, type Vectors } from './vectors';

/** A model of a phrasebook, with how its phrases fared without themselves and what follows from that. */
export type Judge = {
  readonly says: Says;
  readonly calibration: Calibration;
  readonly judged: readonly Judged[];
  readonly thresholds: Readonly<Record<string, Thresholds>>;
};

/** One example: a phrase (`own`), a label, a description, or what is nobody's. */
export type Told = {
  readonly text: string;
  readonly language: string;
  /** The number of its intent; that of intents for nobody's. */ readonly y: number;
  readonly weight: number;
  readonly own: boolean;
};

/** A phrasebook that has been learnt. Plain data, so that it can be kept. */
export type Learnt = {
  readonly book: Phrasebook;
  /** The encoder by its name; null where it was learnt by words and pieces alone. */ readonly encoder: string | null;
  readonly told: readonly Told[];
  readonly features: Features;
  readonly standard: Standard;
  readonly vectors: Vectors;
  /** By what phrases mean and by their words. */ readonly whole: Judge;
  /** By words and pieces alone, for when the encoder takes too long. */ readonly pieces: Judge;
};

/** How a book's phrases are read: by its other words, in English, with its things found. */
export const readingOf = (book: Phrasebook, glosses: Glosses): Reading => ({
  reword: rewordingOf(book.otherWords),
  glosses,
  found: thingFinder(book),
});
/** How rare (IDF) a word is that none of so many examples has. */
export const unseenRarity = (examples: number): number => Math.log(1 + examples) + 1;

/** A vector of nothing: where no encoder says what is meant. */
export const NOTHING = new Float32Array(0);

/** What examples are as numbers, by what is known of them all. */
export type Numbers = Pick<Learnt, 'told' | 'features' | 'standard' | 'vectors'>;
/** Examples as numbers; without their meaning where words and pieces alone decide. */
export function vectored(
  { told, features, standard, vectors }: Numbers,
  phrased: readonly Phrased[],
  withMeaning: boolean,
): Vectored[] {
  const unseen = unseenRarity(told.length);
  const none = new Float32Array(standard.mean.length);
  return phrased.map((p) => {
    const vector = vectors.get(p.english);
    return {
      dense: !withMeaning ? NOTHING : vector ? standardised(vector, standard) : none,
      sparse: sparseOf(p, features, unseen),
    };
  });
}

/** A stem in a language, whatever the region. */
export const stemKey = (language: string, stem: string): string => `${language.split('-')[0] ?? language} ${stem}`;
/** In how many examples each stem stands, by `stemKey`. */
export const stemsOf = (told: readonly Told[], phrased: readonly Phrased[]): Map<string, number> => {
  const count = new Map<string, number>();
  told.forEach(({ language }, i) => {
    for (const stem of new Set(phrased[i]?.stems)) {
      const key = stemKey(language, stem);
      count.set(key, (count.get(key) ?? 0) + 1);
    }
  });
  return count;
};
