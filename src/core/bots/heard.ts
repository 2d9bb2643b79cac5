import type { Choice } from './model';

/** Text as it is compared: lower case, without accents and punctuation, single spaces. */
export const plainWords = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}*#]+/gu, ' ')
    .trim();

/** Whether words (both plain) stand in a text as whole words. */
export const hasWords = (text: string, words: string): boolean => words !== '' && ` ${text} `.includes(` ${words} `);

/**
 * Which choice a customer's words mean: the key or number alone, else the choice whose label or synonym appears as
 * whole words, the longest match first, then the earlier choice. Words of every language count, since people mix them.
 */
export function heardChoice(choices: readonly Choice[], text: string): Choice | null {
  const said = plainWords(text);
  if (said === '') return null;
  const byKey = choices.find((choice) => choice.key !== '' && choice.key === said);
  if (byKey) return byKey;
  let best: { choice: Choice; length: number } | null = null;
  for (const choice of choices) {
    for (const words of [...Object.values(choice.label), ...Object.values(choice.synonyms).flat()].map(plainWords)) {
      if (hasWords(said, words) && words.length > (best?.length ?? 0)) best = { choice, length: words.length };
    }
  }
  return best?.choice ?? null;
}
