import { phrasesOf } from './book';
import { inEnglish } from './glosses';
import { isFunctionWord } from './functionwords';
import type { Learnt } from './learnt';
import { type Matcher, matcher, type Means } from './matching';
import { MOST_WORDS, rewordingOf } from './otherwords';
import { alike, counted, type Surroundings, surroundingsIn } from './surroundings';
import { thingFinder } from './things';
import { stemOf, wordsOf } from './tokens';
import { small, standardised } from './vectors';

/** A phrase that was not understood, and how often it came. */
export type Missed = { readonly id: number; readonly text: string; readonly language: string; readonly times: number };

/** What may be another way of saying a word of the book: up to three words that customers use and no phrase has. */
export type Suggested = {
  readonly language: string;
  readonly also: string;
  readonly word: string;
  /** What the phrases with it would mostly be taken for. */ readonly intentId: string;
  /** The different phrases that have it, and how often they came. */
  readonly phrases: readonly Missed[];
  readonly times: number;
  /** How sure of that intent one is of them, on average: now, and with the word in its place. From 0 to 1. */
  readonly before: number;
  readonly after: number;
};

/** The most phrases, and ways of saying something, that are looked at. */
const MOST_MISSED = 1000;
const MOST_WAYS = 16;
/** Of a way: the phrases that are tried, and the words that are tried in its place. */
const TRIED_PHRASES = 4;
const TRIED_WORDS = 8;
/** What is said by one customer alone may be a slip. */
const LEAST_PHRASES = 2;
/** A word of the book is worth putting for another where phrases of several use it. */
const LEAST_USES = 2;
const MOST_USED = 400;
/** How well a word must fit where it is put, by what it means and what stands beside. */
const LEAST_FIT = 0.2;
/** How much surer the phrases must become, on average. */
const LEAST_GAIN = 0.15;
/** So many intents may be what the rest of a phrase wants; what would be none of them counts for less. */
const WANTS = 3;
const AGAINST_THE_REST = 0.5;
/** How much it says that the same words stand beside, and that phrases of the same wish use it, beside meaning (1). */
const BESIDE = 2;
const SAME_WISH = 0.3;

const base = (language: string): string => language.split('-')[0] ?? language;
const average = (of: readonly number[]): number => of.reduce((a, b) => a + b, 0) / Math.max(1, of.length);

/** The words of a text that say what it is about, each as it is said, by place; what holds a sentence together is null. */
const telling = (words: readonly string[], language: string): (string | null)[] =>
  words.map((w) => (isFunctionWord(w, language) || !/\p{L}/u.test(w) ? null : w));

type Way = { readonly words: readonly string[]; readonly phrases: Missed[] };

/** Runs of one to three words of which one is in no phrase of the book, in several phrases; the most often said first. */
function waysOf(missed: readonly Missed[], language: string, known: ReadonlySet<string>): Way[] {
  const ways = new Map<string, Way>();
  for (const phrase of missed) {
    const words = wordsOf(phrase.text, language);
    const tells = telling(words, language);
    const seen = new Set<string>();
    for (let at = 0; at < words.length; at++)
      for (let length = 1; length <= MOST_WORDS && at + length <= words.length; length++) {
        const run = words.slice(at, at + length);
        const about = tells.slice(at, at + length);
        if (about[0] === null || about[length - 1] === null) continue;
        if (!about.some((w) => w !== null && !known.has(stemOf(w, language)))) continue;
        const key = run.map((w) => stemOf(w, language)).join(' ');
        if (seen.has(key)) continue;
        seen.add(key);
        const way = ways.get(key) ?? { words: run, phrases: [] };
        way.phrases.push(phrase);
        ways.set(key, way);
      }
  }
  const often = [...ways].filter(([, { phrases }]) => phrases.length >= LEAST_PHRASES);
  // Of runs that the same phrases have, the longest says what is said.
  return often
    .filter(
      ([key, { phrases }]) =>
        !often.some(
          ([other, longer]) =>
            other.length > key.length && ` ${other} `.includes(` ${key} `) && longer.phrases.length === phrases.length,
        ),
    )
    .map(([, way]) => way)
    .sort((a, b) => timesOf(b.phrases) - timesOf(a.phrases) || b.phrases.length - a.phrases.length)
    .slice(0, MOST_WAYS);
}
const timesOf = (phrases: readonly Missed[]): number => phrases.reduce((sum, p) => sum + p.times, 0);

/** Where a run of words first stands among others, by their stems; -1 where it does not. */
function placeOf(words: readonly string[], run: readonly string[], language: string): number {
  const [stems, own] = [words, run].map((all) => all.map((w) => stemOf(w, language)));
  return stems?.findIndex((_, at) => own?.every((s, i) => stems[at + i] === s)) ?? -1;
}

/** A text with each run of words, by their stems, put as others; none in their place leaves them out. */
function withPut(text: string, language: string, run: readonly string[], put: readonly string[]): string {
  const words = wordsOf(text, language);
  const stems = words.map((w) => stemOf(w, language));
  const own = run.map((w) => stemOf(w, language));
  const out: string[] = [];
  for (let at = 0; at < words.length;) {
    const here = own.every((s, i) => stems[at + i] === s);
    out.push(...(here ? put : [words[at] ?? '']));
    at += here ? own.length : 1;
  }
  return out.join(' ');
}

/** The words of a book's phrases in a language, as most often said, by how many phrases use them. */
type Used = { readonly word: string; readonly intents: ReadonlySet<string>; readonly around: Surroundings };
function wordsUsed(learnt: Learnt, language: string): Used[] {
  const uses = new Map<string, { forms: Map<string, number>; intents: Set<string>; around: string[]; n: number }>();
  for (const p of phrasesOf(learnt.book)) {
    if (base(p.language) !== language) continue;
    const words = wordsOf(p.text, language);
    telling(words, language).forEach((word, at) => {
      if (word === null || word.length < 3) return;
      const stem = stemOf(word, language);
      const use = uses.get(stem) ?? { forms: new Map(), intents: new Set(), around: [] as string[], n: 0 };
      use.around.push(...surroundingsIn(words, at, 1, language));
      use.forms.set(word, (use.forms.get(word) ?? 0) + 1);
      use.intents.add(p.intentId);
      use.n++;
      uses.set(stem, use);
    });
  }
  return [...uses]
    .filter(([, { n }]) => n >= LEAST_USES)
    .sort((a, b) => b[1].n - a[1].n)
    .slice(0, MOST_USED)
    .map(([stem, { forms, intents, around }]) => {
      const [word = stem] = [...forms].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0] ?? [];
      return { word, intents, around: counted(around) };
    });
}

/**
 * What may be other words for words of the book: runs of words that several phrases have which were not understood, and
 * no phrase that is taught; put as a word of the book that means something like it, or that phrases of the same wish use,
 * the phrases become surer of one intent. Which word that is, a lead judges. The most often said first.
 */
export function suggestOtherWords(learnt: Learnt, means: Means, missed: readonly Missed[]): Suggested[] {
  const { rank } = matcher(learnt, means);
  const languages = [...new Set(missed.map((m) => base(m.language)))];
  return languages
    .flatMap((language) =>
      suggestedIn(
        learnt,
        means,
        rank,
        missed.filter((m) => base(m.language) === language).slice(0, MOST_MISSED),
        language,
      ),
    )
    .sort((a, b) => b.times - a.times || b.after - b.before - (a.after - a.before));
}

function suggestedIn(
  learnt: Learnt,
  means: Means,
  rank: Matcher['rank'],
  missed: readonly Missed[],
  language: string,
): Suggested[] {
  const used = wordsUsed(learnt, language);
  const reword = rewordingOf(learnt.book.otherWords);
  const things = thingFinder(learnt.book);
  const all = phrasesOf(learnt.book).filter((p) => base(p.language) === language);
  const known = new Set(all.flatMap((p) => wordsOf(p.text, language).map((w) => stemOf(w, language))));
  // What is other words already, or one of the things to recognise, is no news.
  const ways = waysOf(missed, language, known).filter(
    ({ words }) => reword(words, language).join(' ') === words.join(' ') && things(words.join(' ')).length === 0,
  );
  if (ways.length === 0 || used.length === 0) return [];
  const fits = fittingOf(learnt, means, language, used);
  return ways.flatMap((way): Suggested[] => {
    const phrases = way.phrases.slice(0, TRIED_PHRASES);
    const put = (text: string, words: readonly string[]) => rank(withPut(text, language, way.words, words), language);
    const now = phrases.map((p) => rank(p.text, language));
    // What the phrases want by all else that is in them.
    const wants = phrases.map(
      (p) =>
        new Set(
          put(p.text, [])
            .ranked.slice(0, WANTS)
            .map((r) => r.intentId),
        ),
    );
    const tries = fits(way, wants).map(({ word, fit }) => {
      const then = phrases.map((p) => put(p.text, [word]));
      const votes = new Map<string, number>();
      then.forEach(({ ranked: [top], verdict }, i) => {
        if (!top || verdict === 'none') return;
        const vote = top.confidence * (wants[i]?.has(top.intentId) ? 1 : AGAINST_THE_REST);
        votes.set(top.intentId, (votes.get(top.intentId) ?? 0) + vote);
      });
      const [intentId = '', vote = 0] = [...votes].sort((a, b) => b[1] - a[1])[0] ?? [];
      const understood = then.filter(({ ranked: [top], verdict }) => top?.intentId === intentId && verdict !== 'none');
      return { word, intentId, then, understood: understood.length, worth: (vote / phrases.length) * (0.25 + fit) };
    });
    const [best] = tries.sort((a, b) => b.worth - a.worth);
    if (!best || best.understood * 2 < phrases.length) return [];
    const sureOfIt = (of: typeof now): number =>
      average(of.map(({ ranked }) => ranked.find((r) => r.intentId === best.intentId)?.confidence ?? 0));
    const [before, after] = [sureOfIt(now), sureOfIt(best.then)];
    if (after - before < LEAST_GAIN) return [];
    const { word, intentId } = best;
    const also = way.words.join(' ');
    return [{ language, also, word, intentId, phrases: way.phrases, times: timesOf(way.phrases), before, after }];
  });
}

/**
 * How words of the book fit in a way's place: by what they mean, by what stands beside them, and by whether phrases that
 * want the same use them. Gives the best, the best first.
 */
function fittingOf(learnt: Learnt, means: Means, language: string, used: readonly Used[]) {
  const nearer = nearnessOf(
    learnt,
    means,
    language,
    used.map((u) => u.word),
  );
  const count = new Map<string, number>();
  for (const { around } of used) for (const name of around.keys()) count.set(name, (count.get(name) ?? 0) + 1);
  const rarity = (name: string): number => Math.log((1 + used.length) / (1 + (count.get(name) ?? 0)));
  return (way: Way, wants: readonly ReadonlySet<string>[]) => {
    const near = nearer(way.words.join(' '));
    const around = counted(
      way.phrases.flatMap((p) => {
        const words = wordsOf(p.text, language);
        const at = placeOf(words, way.words, language);
        return at < 0 ? [] : surroundingsIn(words, at, way.words.length, language);
      }),
    );
    // A word that phrases of every wish use says little of which it is.
    const wanted = (u: Used): number =>
      average(wants.map((w) => ([...u.intents].some((i) => w.has(i)) ? 1 / u.intents.size : 0)));
    return used
      .map((u, i) => {
        const fit = Math.max(0, near[i] ?? 0) + BESIDE * alike(around, u.around, rarity);
        return { word: u.word, fit, of: fit + SAME_WISH * wanted(u) };
      })
      .filter(({ fit }) => fit >= LEAST_FIT)
      .sort((a, b) => b.of - a.of)
      .slice(0, TRIED_WORDS);
  };
}

/** How near what is said is to each of some words by what they mean (cosine); all 0 where no encoder is there. */
function nearnessOf(
  learnt: Learnt,
  { encoder, glosses }: Means,
  language: string,
  words: readonly string[],
): (said: string) => readonly number[] {
  const made = learnt.encoder === null ? undefined : encoder?.();
  if (!made) return () => words.map(() => 0);
  const english = (text: string): string => inEnglish(wordsOf(text, language), language, glosses);
  const meaning = (texts: readonly string[]): Float32Array[] =>
    made.encode(texts).map((v) => standardised(small(v), learnt.standard));
  const vectors = meaning(words.map(english));
  return (said) => {
    const [own] = meaning([english(said)]);
    return vectors.map((v) => v.reduce((sum, x, i) => sum + x * (own?.[i] ?? 0), 0));
  };
}
