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

/** One word alone often says what something is about (a dead battery); it takes so many, or one that is called out. */
const ENOUGH = 2;

/** What words of a text feel: their sum, and how many feel well and badly; null where none of them says. */
type Felt = { readonly sum: number; readonly well: number; readonly badly: number };
function feltIn(text: string, { feels, turns }: Lexicon): Felt | null {
  const words = folded(text).match(/[\p{L}\p{N}'’]+|\p{Extended_Pictographic}/gu) ?? [];
  // What is called out counts as two.
  const each = text.includes('!') ? 2 : 1;
  let [sum, well, badly, turnedAt] = [0, 0, 0, -REACH - 1];
  words.forEach((word, place) => {
    if (turns.has(word)) {
      turnedAt = place;
      return;
    }
    const known = feels.get(word) ?? 0;
    if (Math.abs(known) < WEAK) return;
    const feeling = place - turnedAt <= REACH ? known * TURNED : known;
    sum += feeling;
    if (feeling > 0) well += each;
    else badly += each;
  });
  return well + badly === 0 ? null : { sum, well, badly };
}

/**
 * How one text feels, −1 to 1; null where no word of it says. By the sum of its words with what was turned around, levelled
 * off as Hutto and Gilbert (2014) do. Time is linear in its words.
 */
export function feelingOf(text: string, lexicon: Lexicon): number | null {
  const felt = feltIn(text, lexicon);
  return felt && levelled(felt);
}
const levelled = ({ sum }: Felt): number => sum / Math.sqrt(sum * sum + LEVEL);

/**
 * How a customer felt in a conversation, by all that they said, in its order; null where they said nothing. What was said
 * later counts for more.
 */
export function moodOf(texts: readonly string[], lexicon: Lexicon): Mood | null {
  const said = texts.filter((text) => /\p{L}|\p{Extended_Pictographic}/u.test(text));
  if (said.length === 0) return null;
  let [sum, weights, well, badly] = [0, 0, 0, 0];
  said.forEach((text, place) => {
    const felt = feltIn(text, lexicon);
    if (felt === null) return;
    const weight = said.length === 1 ? 1 : 1 + ((LAST - 1) * place) / (said.length - 1);
    sum += weight * levelled(felt);
    weights += weight;
    well += felt.well;
    badly += felt.badly;
  });
  const mean = weights === 0 ? 0 : sum / weights;
  if (mean <= -FAR && badly >= ENOUGH) return 'upset';
  return mean >= FAR && well >= ENOUGH ? 'pleased' : 'even';
}
