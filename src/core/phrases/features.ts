import { conceptsOf } from './concepts';
import type { FoundThing } from './things';
import { stemOf, wordsOf } from './tokens';

/**
 * A phrase as weights by feature name. Each family of features has length 1 times its share, so that none drowns
 * another.
 */
export type Features = ReadonlyMap<string, number>;

/**
 * How much each family counts: words, pairs of words, what words mean, pieces of 3 to 5 characters. Chosen by
 * cross-validation.
 */
export const SHARES = { word: 1, pair: 0.8, concept: 2.2, piece: 0.6 };

const add = (map: Map<string, number>, name: string): void => void map.set(name, (map.get(name) ?? 0) + 1);

/** How often each feature of each family occurs in a phrase. */
export type Families = readonly { readonly share: number; readonly counts: ReadonlyMap<string, number> }[];
/** How telling a feature is: rarer ones more. */
export type WeightOf = (name: string) => number;

/** The features of a phrase with their weights. */
export function weighed(families: Families, weightOf: WeightOf): Features {
  const all = new Map<string, number>();
  for (const { share, counts } of families) {
    let square = 0;
    for (const [name, n] of counts) square += ((1 + Math.log(n)) * weightOf(name)) ** 2;
    const scale = square === 0 ? 0 : share / Math.sqrt(square);
    for (const [name, n] of counts) all.set(name, (1 + Math.log(n)) * weightOf(name) * scale);
  }
  return all;
}

/**
 * Words (stemmed), pairs of neighbouring words, concepts and character pieces of a phrase. Things of the phrasebook
 * stand as their list's name, so that what is learnt of a violin holds for an oboe.
 */
export function familiesOf(text: string, language: string, found: (text: string) => readonly FoundThing[]): Families {
  const words = wordsOf(text, language);
  const [word, pair, concept, piece] = [
    new Map<string, number>(),
    new Map<string, number>(),
    new Map<string, number>(),
    new Map<string, number>(),
  ];
  const stems: string[] = [];
  const things = found(text).map((f) => f.listId);
  for (const w of words) stems.push(/^\d+$/.test(w) ? '#' : stemOf(w, language));
  for (const s of stems) {
    add(word, `w ${s}`);
    for (const c of conceptsOf(s, language)) add(concept, `c ${c}`);
  }
  for (const t of new Set(things)) add(concept, `t ${t}`);
  const meanings = [...concept.keys()];
  // Two meanings together say more than each: money and twice, deliver and where.
  for (let i = 0; i < meanings.length && i < 8; i++)
    for (let j = i + 1; j < meanings.length && j < 8; j++)
      add(pair, `m ${[meanings[i], meanings[j]].sort().join(' ')}`);
  for (let i = 0; i + 1 < stems.length; i++) add(pair, `p ${stems[i] ?? ''} ${stems[i + 1] ?? ''}`);
  for (const w of words) {
    const edged = `_${w}_`;
    for (let n = 3; n <= 5; n++) for (let i = 0; i + n <= edged.length; i++) add(piece, `g ${edged.slice(i, i + n)}`);
  }
  return [
    { share: SHARES.word, counts: word },
    { share: SHARES.pair, counts: pair },
    { share: SHARES.concept, counts: concept },
    { share: SHARES.piece, counts: piece },
  ];
}
