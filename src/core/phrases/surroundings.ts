import { stemOf } from './tokens';

/** What stands beside words, by how far before or after, and how often. */
export type Surroundings = ReadonlyMap<string, number>;
const REACH = 2;
/** What stands beside a run of words, by stems. */
export function surroundingsIn(words: readonly string[], at: number, length: number, language: string): string[] {
  const out: string[] = [];
  for (let d = 1; d <= REACH; d++)
    for (const [way, word] of [
      ['-', words[at - d]],
      ['+', words[at + length - 1 + d]],
    ] as const)
      if (word !== undefined) out.push(`${way}${d} ${stemOf(word, language)}`);
  return out;
}
/** Counts names. */
export const counted = (names: readonly string[]): Surroundings => {
  const count = new Map<string, number>();
  for (const name of names) count.set(name, (count.get(name) ?? 0) + 1);
  return count;
};
/** How alike two surroundings are, from 0 to 1: what is rare counts more (cosine of tf-idf). */
export function alike(a: Surroundings, b: Surroundings, rarity: (name: string) => number): number {
  const weight = (n: number, name: string): number => (1 + Math.log(n)) * rarity(name);
  const length = (of: Surroundings): number => Math.hypot(...[...of].map(([name, n]) => weight(n, name)));
  let sum = 0;
  for (const [name, n] of a) sum += weight(n, name) * (b.has(name) ? weight(b.get(name) ?? 1, name) : 0);
  return sum === 0 ? 0 : sum / (length(a) * length(b));
}
