import { BACKGROUND } from './background';
import { phrasesOf, type Phrasebook } from './book';
import { familiesOf, weighed, type Families, type WeightOf } from './features';
import { fitSoftmax, probabilities, type Linear, type Sparse } from './softmax';
import { thingFinder, thingName } from './things';
import type { Recogniser } from '../bots/program';
import { stemOf, wordsOf } from './tokens';

/**
 * What a phrase may mean, best first, with calibrated confidence; `none` when it is most likely about none of the
 * intents.
 */
export type Ranking = ReturnType<Recogniser['rank']>;

/** How a raw result becomes a confidence: the logistic of a weighted sum of what speaks for it. */
export type Calibration = readonly number[];

/** A phrasebook that has been learnt. Plain data, so that it can be kept; the same book always gives the same. */
export type Learnt = {
  readonly book: Phrasebook;
  readonly features: ReadonlyMap<string, number>;
  readonly rarity: Float32Array;
  readonly linear: Linear;
  readonly stems: ReadonlySet<string>;
  readonly calibration: Calibration;
};

/** Under this confidence a phrase means none of the intents. */
export const NONE_BELOW = 0.34;

type Example = { readonly text: string; readonly language: string; readonly y: number; readonly weight: number };
/** Until enough examples have been seen to say better. */
const PLAIN_CALIBRATION: Calibration = [-1.6, 3, 2, 1];

/** How much a phrase of nobody's intent counts beside one of an intent. */
const BACKGROUND_WEIGHT = 0.4;

/**
 * All examples: the phrases, each intent's label and description as weak ones, and phrases of nobody's intent as the
 * last class.
 */
function examplesOf(book: Phrasebook): Example[] {
  const index = new Map(book.intents.map((intent, i) => [intent.id, i]));
  const own = phrasesOf(book).map((p) => ({
    text: p.text,
    language: p.language,
    y: index.get(p.intentId) ?? 0,
    weight: 1,
  }));
  const told = book.intents.flatMap((intent, y) =>
    [intent.label, intent.description].filter(Boolean).map((text) => ({ text, language: 'en', y, weight: 0.5 })),
  );
  const other = book.languages.flatMap((language) =>
    (BACKGROUND[language] ?? []).map((text) => ({ text, language, y: book.intents.length, weight: BACKGROUND_WEIGHT })),
  );
  return [...own, ...told, ...other];
}

const weightsOf =
  (features: ReadonlyMap<string, number>, rarity: Float32Array): WeightOf =>
  (name) => {
    const at = features.get(name);
    return at === undefined ? 1 : (rarity[at] ?? 1);
  };

function sparse(families: Families, features: ReadonlyMap<string, number>, weightOf: WeightOf): Sparse {
  const at: number[] = [];
  const weight: number[] = [];
  for (const [name, w] of weighed(families, weightOf)) {
    const i = features.get(name);
    if (i !== undefined) {
      at.push(i);
      weight.push(w);
    }
  }
  return { at: Int32Array.from(at), weight: Float32Array.from(weight) };
}

type Prepared = {
  readonly features: Map<string, number>;
  readonly rarity: Float32Array;
  readonly xs: Sparse[];
  readonly stems: Set<string>;
};
/**
 * Numbers all features that occur, with how rare each is: log((1 + n) / (1 + df)) + 1 (smoothed inverse document
 * frequency).
 */
function prepareExamples(examples: readonly Example[], found: ReturnType<typeof thingFinder>): Prepared {
  const count = new Map<string, number>();
  const all = examples.map((e) => familiesOf(e.text, e.language, found));
  for (const families of all)
    for (const { counts } of families) for (const name of counts.keys()) count.set(name, (count.get(name) ?? 0) + 1);
  // A piece of a word that occurs in one example only says no more than the word.
  const kept = [...count].filter(([name, n]) => n > 1 || !name.startsWith('g '));
  const features = new Map(kept.map(([name], i) => [name, i]));
  const rarity = Float32Array.from(kept, ([, n]) => Math.log((1 + examples.length) / (1 + n)) + 1);
  const weightOf = weightsOf(features, rarity);
  const stems = new Set(
    examples.flatMap((e) => wordsOf(e.text, e.language).map((w) => `${e.language} ${stemOf(w, e.language)}`)),
  );
  return { features, rarity, stems, xs: all.map((families) => sparse(families, features, weightOf)) };
}

/**
 * What speaks for the first of a ranking: its probability, its lead, the share of words that are known, and a
 * constant.
 */
function evidence(p: Float64Array, none: number, known: number): { best: number; signs: number[] } {
  let [best, second] = [-1, -1];
  for (let c = 0; c < p.length; c++) {
    if (c === none) continue;
    if (best < 0 || (p[c] ?? 0) > (p[best] ?? 0)) {
      second = best;
      best = c;
    } else if (second < 0 || (p[c] ?? 0) > (p[second] ?? 0)) second = c;
  }
  const top = p[best] ?? 0;
  return { best, signs: [1, top, top - Math.max(p[second] ?? 0, p[none] ?? 0), known] };
}
const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
const confidenceOf = (calibration: Calibration, signs: readonly number[]): number =>
  logistic(signs.reduce((sum, s, i) => sum + s * (calibration[i] ?? 0), 0));

/** Fits the calibration by logistic regression (Platt, 1999) on results for phrases that were not learnt from. */
function calibrate(results: readonly { signs: readonly number[]; right: boolean }[]): Calibration {
  if (results.length < 30) return PLAIN_CALIBRATION;
  const w = [...PLAIN_CALIBRATION];
  for (let round = 0; round < 400; round++) {
    const g = w.map((x, i) => (i === 0 ? 0 : 0.002 * x));
    for (const { signs, right } of results) {
      const error = confidenceOf(w, signs) - (right ? 1 : 0);
      signs.forEach((s, i) => (g[i] = (g[i] ?? 0) + (error * s) / results.length));
    }
    g.forEach((x, i) => (w[i] = (w[i] ?? 0) - 4 * x));
  }
  return w;
}

/** The share of a text's words that the book has seen in this language, longer words counting more. */
function knownShare(stems: ReadonlySet<string>, text: string, language: string): number {
  let [seen, all] = [0, 0];
  for (const word of wordsOf(text, language)) {
    const weight = Math.min(6, word.length) - 1;
    all += weight;
    if (stems.has(`${language} ${stemOf(word, language)}`)) seen += weight;
  }
  return all <= 0 ? 0 : seen / all;
}

/**
 * Results for each example by a model that was learnt from the others: in `folds` parts, each left out once, or only
 * the first `parts` of them.
 */
export function leftOut(
  book: Phrasebook,
  folds: number,
  examples = examplesOf(book),
  { features, xs } = prepareExamples(examples, thingFinder(book)),
  parts = folds,
): { y: number; text: string; language: string; p: Float64Array; known: number }[] {
  const results: { y: number; text: string; language: string; p: Float64Array; known: number }[] = [];
  // Each intent's and language's phrases are dealt out in turn, so that every part has some of each.
  const dealt = new Map<string, number>();
  const part = examples.map((e) => {
    const key = `${e.y} ${e.language} ${e.weight}`;
    const n = dealt.get(key) ?? 0;
    dealt.set(key, n + 1);
    return n % folds;
  });
  for (let fold = 0; fold < parts; fold++) {
    const learn = examples.flatMap((e, i) => {
      const x = xs[i];
      return part[i] !== fold || (e.weight < 1 && e.y < book.intents.length)
        ? x
          ? [{ x, y: e.y, weight: e.weight }]
          : []
        : [];
    });
    const linear = fitSoftmax(learn, book.intents.length + 1, features.size);
    const stems = new Set(
      examples.flatMap((e, i) =>
        part[i] === fold ? [] : wordsOf(e.text, e.language).map((w) => `${e.language} ${stemOf(w, e.language)}`),
      ),
    );
    examples.forEach((e, i) => {
      const x = xs[i];
      if (part[i] === fold && x && (e.weight === 1 || e.y === book.intents.length))
        results.push({
          y: e.y,
          text: e.text,
          language: e.language,
          p: probabilities(linear, x),
          known: knownShare(stems, e.text, e.language),
        });
    });
  }
  return results;
}

/** The calibration that fits results for phrases which were left out. */
export function calibrationFrom(
  book: Phrasebook,
  results: readonly { readonly y: number; readonly p: Float64Array; readonly known: number }[],
): Calibration {
  return calibrate(
    results.map(({ y, p, known }) => {
      const { best, signs } = evidence(p, book.intents.length, known);
      return { signs, right: best === y };
    }),
  );
}

/** So many examples that one part left out says enough about confidence. */
const LARGE = 1000;

/** Learns a phrasebook: weights from all phrases, calibration from phrases left out in turn. Deterministic. */
export function learn(book: Phrasebook, folds = 3): Learnt {
  const none = book.intents.length;
  const examples = examplesOf(book);
  const prepared = prepareExamples(examples, thingFinder(book));
  const { features, rarity, xs, stems } = prepared;
  const linear = fitSoftmax(
    examples.flatMap((e, i) => {
      const x = xs[i];
      return x ? [{ x, y: e.y, weight: e.weight }] : [];
    }),
    none + 1,
    features.size,
  );
  const calibration = calibrationFrom(
    book,
    examples.length > LARGE ? leftOut(book, 2, examples, prepared, 1) : leftOut(book, folds, examples, prepared),
  );
  return { book, features, rarity, linear, stems, calibration };
}

/**
 * A ranking from the probabilities of all classes. The others share what the first leaves, in proportion to their
 * scores.
 */
export function rankedFrom(book: Phrasebook, p: Float64Array, known: number, calibration: Calibration | null): Ranking {
  const none = book.intents.length;
  const { best, signs } = evidence(p, none, known);
  const top = confidenceOf(calibration ?? PLAIN_CALIBRATION, signs);
  const rest = Math.max(1e-9, 1 - (p[best] ?? 0));
  const ranked = book.intents
    .map((intent, c) => ({
      intentId: intent.id,
      confidence: c === best ? top : Math.min(top, ((p[c] ?? 0) / rest) * (1 - top)),
    }))
    .sort((a, b) => b.confidence - a.confidence);
  return { ranked: ranked.slice(0, 5), none: ranked.length === 0 || top < NONE_BELOW };
}

/**
 * Ranks the intents for a phrase and finds things in it. The first intent's confidence is calibrated: of phrases
 * given 0.8, about eight in ten are right.
 */
export function matcher(learnt: Learnt): Recogniser {
  const { book, features, rarity, linear, calibration } = learnt;
  const found = thingFinder(book);
  const weightOf = weightsOf(features, rarity);
  return {
    rank: (text, language) =>
      rankedFrom(
        book,
        probabilities(linear, sparse(familiesOf(text.slice(0, 1000), language, found), features, weightOf)),
        knownShare(learnt.stems, text, language),
        calibration,
      ),
    thing: (listId, text) => found(text, listId)[0]?.thingId ?? null,
    thingName: (listId, thingId, language) => thingName(book, listId, thingId, language),
  };
}
