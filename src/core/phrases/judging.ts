import { USUAL_WISH, type Phrasebook, type Wish } from './book';

/** How a phrase fared with a model that never saw it. */
export type Judged = {
  readonly text: string;
  readonly language: string;
  /** Whose phrase it is; null for one that is nobody's. */ readonly intentId: string | null;
  /** The two intents that scored best; null where there are fewer. */
  readonly first: string | null;
  readonly second: string | null;
  /** How likely the first is right, from 0 to 1. */ readonly sure: number;
  /** How much it is like anything that is taught at all; any number, higher for more. */ readonly ours: number;
};

/** What thresholds are chosen by. */
export type Fare = Pick<Judged, 'intentId' | 'first' | 'second' | 'sure' | 'ours'>;

/** From where on a language's phrases are acted on (`sure`), and below what they are nobody's (`ours`). */
export type Thresholds = { readonly act: number; readonly ours: number };

/** What becomes of phrases by some thresholds; shares from 0 to 1, null where there is nothing to share. */
export type Trade = {
  /** Own phrases judged, and those of nobody. */ readonly phrases: number;
  readonly others: number;
  readonly acts: number;
  readonly rightWhenActing: number | null;
  readonly asks: number;
  readonly offeredWhenAsking: number | null;
  readonly leaves: number;
  /** Of what is nobody's: taken for something, and acted on. */ readonly taken: number | null;
  readonly actedOnOthers: number | null;
};

/** What a phrase leads to. */
export type Verdict = 'act' | 'ask' | 'none';
export const verdictOf = (sure: number, ours: number, { act, ours: least }: Thresholds): Verdict =>
  ours < least ? 'none' : sure >= act ? 'act' : 'ask';

export function tradeOf(judged: readonly Fare[], thresholds: Thresholds): Trade {
  const share = (n: number, of: number): number | null => (of === 0 ? null : n / of);
  const all = judged.map((j) => ({ j, verdict: verdictOf(j.sure, j.ours, thresholds) }));
  const own = all.filter(({ j }) => j.intentId !== null);
  const others = all.filter(({ j }) => j.intentId === null);
  const acts = own.filter((x) => x.verdict === 'act');
  const asks = own.filter((x) => x.verdict === 'ask');
  return {
    phrases: own.length,
    others: others.length,
    acts: share(acts.length, own.length) ?? 0,
    rightWhenActing: share(acts.filter(({ j }) => j.first === j.intentId).length, acts.length),
    asks: share(asks.length, own.length) ?? 0,
    offeredWhenAsking: share(
      asks.filter(({ j }) => j.first === j.intentId || j.second === j.intentId).length,
      asks.length,
    ),
    leaves: share(own.length - acts.length - asks.length, own.length) ?? 0,
    taken: share(others.filter((x) => x.verdict !== 'none').length, others.length),
    actedOnOthers: share(others.filter((x) => x.verdict === 'act').length, others.length),
  };
}

/** So many phrases of a language say enough about it by themselves; with fewer, those of all languages are asked. */
const ENOUGH = 40;
/** Of so few phrases nothing can be chosen by: what suits most books is taken until there are more. */
const FEW = 20;
const PLAIN: Thresholds = { act: 0.5, ours: 0.3 };

/** The judged phrases by which a language's thresholds are chosen. */
export function judgedFor(judged: readonly Judged[], language: string): readonly Judged[] {
  const own = judged.filter((j) => j.language === language);
  return own.filter((j) => j.intentId !== null).length >= ENOUGH ? own : judged;
}

/**
 * Chooses thresholds by what was judged: as little is taken for nobody's as is wished, and from there on as much is acted
 * on as is right often enough. What is nobody's counts as wrong where it is acted on.
 */
export function thresholdsFor(judged: readonly Fare[], { right, keep }: Wish): Thresholds {
  const own = judged.filter((j) => j.intentId !== null);
  if (own.length < FEW) return PLAIN;
  const likeness = own.map((j) => j.ours).sort((a, b) => a - b);
  const ours = likeness[Math.min(likeness.length - 1, Math.floor(likeness.length * (1 - keep)))] ?? PLAIN.ours;
  // Of those that are kept, the surest first: how many may be acted on before too many are wrong?
  const kept = judged.filter((j) => j.ours >= ours && j.intentId !== null).sort((a, b) => b.sure - a.sure);
  let [good, act] = [0, 1];
  kept.forEach((j, i) => {
    if (j.first === j.intentId) good++;
    // Phrases that are equally sure stand or fall together.
    if (kept[i + 1]?.sure !== j.sure && good / (i + 1) >= right) act = j.sure;
  });
  return { act, ours };
}

/** The thresholds of each of a book's languages. */
export const thresholdsOf = (book: Phrasebook, judged: readonly Judged[]): Readonly<Record<string, Thresholds>> =>
  Object.fromEntries(
    book.languages.map((language) => [
      language,
      thresholdsFor(judgedFor(judged, language), book.wishes[language] ?? USUAL_WISH),
    ]),
  );

/** The thresholds for a language, or for the first there is where the book does not have it. */
export const thresholdsIn = (all: Readonly<Record<string, Thresholds>>, language: string): Thresholds =>
  all[language] ?? all[language.split('-')[0] ?? language] ?? Object.values(all)[0] ?? PLAIN;
