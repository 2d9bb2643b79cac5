import { conceptsOf } from './concepts';
import type { FoundThing } from './things';
import { stemOf, wordsOf } from './tokens';

/** A phrase as weights by feature name. Each family of features has length 1 times its share, so that none drowns another. */
export type Features = ReadonlyMap<string, number>;

/** How much each family counts: words, pairs of words, what words mean, pieces of 3 to 5 characters. Chosen by cross-validation. */
export const SHARES = { word: 0.8, pair: 0.8, concept: 2.2, piece: 0.4 };

const add = (map: Map<string, number>, name: string): void => void map.set(name, (map.get(name) ?? 0) + 1);

function into(all: Map<string, number>, family: Map<string, number>, share: number, weightOf: (name: string) => number): void {
  let square = 0;
  for (const [name, n] of family) {
    const w = (1 + Math.log(n)) * weightOf(name);
    family.set(name, w);
    square += w * w;
  }
  if (square === 0) return;
  const scale = share / Math.sqrt(square);
  for (const [name, w] of family) all.set(name, w * scale);
}

export type FeatureMaker = { readonly found: (text: string) => readonly FoundThing[]; /** How telling a feature is: rarer ones more. 1 while nothing is known. */ readonly weightOf: (name: string) => number };

/**
 * Words (stemmed), pairs of neighbouring words, concepts and character pieces of a phrase. Things of the phrasebook stand as
 * their list's name, so that what is learnt of a violin holds for an oboe.
 */
export function featuresOf(text: string, language: string, { found, weightOf }: FeatureMaker): Features {
  const words = wordsOf(text, language);
  const [word, pair, concept, piece] = [new Map<string, number>(), new Map<string, number>(), new Map<string, number>(), new Map<string, number>()];
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
  for (let i = 0; i < meanings.length && i < 8; i++) for (let j = i + 1; j < meanings.length && j < 8; j++) add(pair, `m ${[meanings[i], meanings[j]].sort().join(' ')}`);
  for (let i = 0; i + 1 < stems.length; i++) add(pair, `p ${stems[i] ?? ''} ${stems[i + 1] ?? ''}`);
  for (const w of words) {
    const edged = `_${w}_`;
    for (let n = 3; n <= 5; n++) for (let i = 0; i + n <= edged.length; i++) add(piece, `g ${edged.slice(i, i + n)}`);
  }
  const all = new Map<string, number>();
  into(all, word, SHARES.word, weightOf);
  into(all, pair, SHARES.pair, weightOf);
  into(all, concept, SHARES.concept, weightOf);
  into(all, piece, SHARES.piece, weightOf);
  return all;
}
