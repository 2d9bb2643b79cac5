import { folded } from '../wordsearch';

/** How a customer feels, as far as their own words say. */
export const MOODS = ['upset', 'even', 'pleased'] as const;
export type Mood = (typeof MOODS)[number];
export const MOOD_WORDS: Readonly<Record<Mood, string>> = { upset: 'upset', even: 'even', pleased: 'pleased' };

/** How words of a language feel, −5 to 5, and which words turn what follows around; both folded (`wordsearch.ts`). */
export type Lexicon = { readonly feels: ReadonlyMap<string, number>; readonly turns: ReadonlySet<string> };

/** Weaker words say what something is about, not how somebody feels about it. */
const WEAK = 2;
/** What stands at most so many words after a word that turns it around means the opposite, though less strongly. */
const REACH = 3;
const TURNED = -0.74;
/** Sums of feelings level off: half of all there is at about this squared. */
const LEVEL = 15;
/** How far from nothing a conversation must lie to be more than even, of −1 to 1. */
const FAR = 0.2;
/** Customers who come to an end that pleases them often began upset: the last words count so many times the first. */
const LAST = 2;

/**
 * How one text feels, −1 to 1; null where no word of it says. By the sum of its words with what was turned around, levelled
 * off as Hutto and Gilbert (2014) do. Time is linear in its words.
 */
export function feelingOf(text: string, { feels, turns }: Lexicon): number | null {
  const words = folded(text).match(/[\p{L}\p{N}'’]+|\p{Extended_Pictographic}/gu) ?? [];
  let [sum, felt, turnedAt] = [0, false, -REACH - 1];
  words.forEach((word, place) => {
    if (turns.has(word)) {
      turnedAt = place;
      return;
    }
    const feeling = feels.get(word) ?? 0;
    if (Math.abs(feeling) < WEAK) return;
    felt = true;
    sum += place - turnedAt <= REACH ? feeling * TURNED : feeling;
  });
  return felt ? sum / Math.sqrt(sum * sum + LEVEL) : null;
}

/**
 * How a customer felt in a conversation, by all that they said, in its order; null where they said nothing. What was said
 * later counts for more.
 */
export function moodOf(texts: readonly string[], lexicon: Lexicon): Mood | null {
  const said = texts.filter((text) => /\p{L}|\p{Extended_Pictographic}/u.test(text));
  if (said.length === 0) return null;
  let [sum, weights] = [0, 0];
  said.forEach((text, place) => {
    const feeling = feelingOf(text, lexicon);
    if (feeling === null) return;
    const weight = said.length === 1 ? 1 : 1 + ((LAST - 1) * place) / (said.length - 1);
    sum += weight * feeling;
    weights += weight;
  });
  const mean = weights === 0 ? 0 : sum / weights;
  return mean <= -FAR ? 'upset' : mean >= FAR ? 'pleased' : 'even';
}
