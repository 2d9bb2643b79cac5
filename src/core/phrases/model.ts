import type { Meaning } from '../bots/program';
import { BACKGROUND } from './background';
import { phrasesOf, type Phrasebook } from './book';
import type { Encoder } from './encoder/encoder';
import { type Features, featuresOf, type Phrased, phrasedAs, type Reading, sparseOf, withFeaturesOf } from './features';
import { clausesOf, isContrast, isFunctionWord } from './functionwords';
import { type Glosses, NO_GLOSSES } from './glosses';
import { type Judged, type Thresholds, thresholdsIn, thresholdsOf, type Verdict, verdictOf } from './judging';
import { rewordingOf } from './otherwords';
import { createProducts } from './encoder/product';
import { type Says, scores, solveRidge, type Taught, withLesson, withoutLesson } from './kernelridge';
import { inBlocks, type Likeness, likenesses, likenessTo, type Vectored } from './likeness';
import { thingFinder } from './things';
import { wordsOf } from './tokens';
import { type Standard, standardised, standardOf, small, type Vectors, vectorsOf } from './vectors';

/** How a raw result becomes a confidence: the logistic of a weighted sum of what speaks for it. */
export type Calibration = readonly number[];

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

/** What learning goes by beside the book. */
export type Learning = {
  readonly encoder: Encoder | null;
  readonly glosses: Glosses;
  /** What was learnt before a change, to go on from. */ readonly last?: Learnt | null;
  /** Hears the share that is done. */ readonly progress?: (done: number) => void;
};
export const BY_PIECES: Learning = { encoder: null, glosses: NO_GLOSSES };

/** How much a phrase of nobody's intent counts beside one of an intent. */
const BACKGROUND_WEIGHT = 0.3;
/** How many of the nearest phrases say how like anything of ours something is. */
const NEAREST = 3;
/** Books of more examples go on from what was learnt before, while no more of them than this changed. */
const LARGE = 1000;
const FEW = 6;
/** How much nobody's score, and likeness to the nearest phrases, say about whether a phrase is anybody's. */
const OURS = { none: 0.4, near: 0.4 };
/** How far scores are apart for one to be e times as likely. */
const WARMTH = 0.15;
const LABELS = 'en';

/**
 * All examples: the phrases, each intent's label and description, and phrases of nobody's intent as the last class.
 */
function examplesOf(book: Phrasebook): Told[] {
  const index = new Map(book.intents.map((intent, i) => [intent.id, i]));
  return [
    ...phrasesOf(book).map((p) => ({
      text: p.text,
      language: p.language,
      y: index.get(p.intentId) ?? 0,
      weight: 1,
      own: true,
    })),
    ...book.intents.flatMap((intent, y) =>
      [intent.label, intent.description]
        .filter(Boolean)
        .map((text) => ({ text, language: book.languages[0] ?? LABELS, y, weight: 1, own: false })),
    ),
    ...book.languages.flatMap((language) =>
      (BACKGROUND[language] ?? []).map((text) => ({
        text,
        language,
        y: book.intents.length,
        weight: BACKGROUND_WEIGHT,
        own: false,
      })),
    ),
  ];
}

const readingOf = (book: Phrasebook, glosses: Glosses): Reading => ({
  reword: rewordingOf(book.otherWords),
  glosses,
  found: thingFinder(book),
});
const unseenRarity = (examples: number): number => Math.log(1 + examples) + 1;

/** The first two of some scores, and what speaks for the first. */
function evidence(z: Float64Array, near: number, known: number) {
  const none = z.length - 1;
  let [first, second] = [-1, -1];
  for (let c = 0; c < none; c++) {
    if (first < 0 || (z[c] ?? 0) > (z[first] ?? 0)) {
      second = first;
      first = c;
    } else if (second < 0 || (z[c] ?? 0) > (z[second] ?? 0)) second = c;
  }
  const top = z[first] ?? 0;
  const nobody = z[none] ?? 0;
  return {
    first,
    second,
    ours: top - OURS.none * nobody + OURS.near * near,
    signs: [1, top, top - (z[second] ?? 0), nobody, near / NEAREST, known],
  };
}

/** Until enough phrases have been judged to say better. */
const PLAIN_CALIBRATION: Calibration = [-1, 2, 4, -1, 0.5, 0.5];
const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
const confidenceOf = (calibration: Calibration, signs: readonly number[]): number =>
  logistic(signs.reduce((sum, s, i) => sum + s * (calibration[i] ?? 0), 0));

/**
 * Fits the calibration by logistic regression (Platt, 1999) on results for phrases that were not learnt from. What is
 * nobody's counts no more than all phrases together: there is any amount of it.
 */
function calibrate(
  results: readonly { readonly signs: readonly number[]; readonly right: boolean; readonly own: boolean }[],
): Calibration {
  const own = results.filter((r) => r.own).length;
  if (own < 10) return PLAIN_CALIBRATION;
  const lightly = Math.min(1, own / Math.max(1, results.length - own));
  const all = results.reduce((sum, r) => sum + (r.own ? 1 : lightly), 0);
  const w = [...PLAIN_CALIBRATION];
  for (let round = 0; round < 600; round++) {
    const g = w.map((x, i) => (i === 0 ? 0 : 0.003 * x));
    for (const r of results) {
      const error = (confidenceOf(w, r.signs) - (r.right ? 1 : 0)) * (r.own ? 1 : lightly);
      r.signs.forEach((s, i) => (g[i] = (g[i] ?? 0) + (error * s) / all));
    }
    g.forEach((x, i) => (w[i] = (w[i] ?? 0) - 2 * x));
  }
  return w;
}

/** The share of some stems that are known, longer ones counting more. */
function knownShare(isKnown: (stem: string) => boolean, stems: readonly string[]): number {
  let [seen, all] = [0, 0];
  for (const stem of stems) {
    const weight = Math.min(6, stem.length);
    all += weight;
    if (isKnown(stem)) seen += weight;
  }
  return all === 0 ? 0 : seen / all;
}

/** The sum of how like the nearest of some phrases are. */
function nearestOf(like: Float32Array | Float64Array): number {
  const best = new Float64Array(NEAREST);
  for (const l of like) {
    let at = NEAREST - 1;
    if (l <= (best[at] ?? 0)) continue;
    for (; at > 0 && (best[at - 1] ?? 0) < l; at--) best[at] = best[at - 1] ?? 0;
    best[at] = l;
  }
  return best.reduce((a, b) => a + b, 0);
}

const NOTHING = new Float32Array(0);
const WITHOUT_MEANING: Standard = { mean: NOTHING, spread: NOTHING };

/** What examples are as numbers, by what is known of them all. */
type Numbers = Pick<Learnt, 'told' | 'features' | 'standard' | 'vectors'>;
function vectored(
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
const stemKey = (language: string, stem: string): string => `${language.split('-')[0] ?? language} ${stem}`;
const stemsOf = (told: readonly Told[], phrased: readonly Phrased[]): Map<string, number> => {
  const count = new Map<string, number>();
  told.forEach(({ language }, i) => {
    for (const stem of new Set(phrased[i]?.stems)) {
      const key = stemKey(language, stem);
      count.set(key, (count.get(key) ?? 0) + 1);
    }
  });
  return count;
};

/** Learns one model, and how every example fares without itself. */
function judgeOf(book: Phrasebook, numbers: Numbers, phrased: readonly Phrased[], withMeaning: boolean): Judge {
  const { told } = numbers;
  const classes = book.intents.length + 1;
  const products = createProducts();
  const width = inBlocks(told.length);
  const like = likenesses(vectored(numbers, phrased, withMeaning), products);
  const near = told.map((t, i) => {
    if (!t.own && t.y < classes - 1) return 0;
    const others = new Float32Array(told.length);
    for (let k = 0; k < told.length; k++)
      if (k !== i && (told[k]?.y ?? classes) < classes - 1)
        others[k] = (i > k ? like[i * width + k] : like[k * width + i]) ?? 0;
    return nearestOf(others);
  });
  const { says, without } = solveRidge(like, told, classes, products);
  const stems = stemsOf(told, phrased);
  const results = told.flatMap((t, i) => {
    if (!t.own && t.y < classes - 1) return [];
    const own = phrased[i]?.stems ?? [];
    // Its own words count as known only where another example has them too.
    const known = knownShare((stem) => (stems.get(stemKey(t.language, stem)) ?? 0) > 1, own);
    return [
      { t, found: evidence(Float64Array.from(without.subarray(i * classes, (i + 1) * classes)), near[i] ?? 0, known) },
    ];
  });
  const calibration = calibrate(
    results.map(({ t, found }) => ({ signs: found.signs, right: found.first === t.y, own: t.own })),
  );
  const judged = results.map(({ t, found }): Judged => ({
    text: t.text,
    language: t.language,
    intentId: book.intents[t.y]?.id ?? null,
    first: book.intents[found.first]?.id ?? null,
    second: book.intents[found.second]?.id ?? null,
    sure: confidenceOf(calibration, found.signs),
    ours: found.ours,
  }));
  return { says, calibration, judged, thresholds: thresholdsOf(book, judged) };
}

const keyOf = ({ text, language, y, weight, own }: Told): string => JSON.stringify([text, language, y, weight, own]);

/** What changed since a large book was learnt, where it is little enough to go on from there; null otherwise. */
function littleChanged(
  book: Phrasebook,
  told: readonly Told[],
  last: Learnt | null,
): { readonly gone: ReadonlySet<string>; readonly fresh: readonly Told[] } | null {
  if (!last || told.length <= LARGE) return null;
  const alike = (of: (b: Phrasebook) => unknown): boolean => JSON.stringify(of(book)) === JSON.stringify(of(last.book));
  if (!alike((b) => [b.languages, b.otherWords, b.recognised, b.intents.map((i) => i.id)])) return null;
  const [before, now] = [new Set(last.told.map(keyOf)), new Set(told.map(keyOf))];
  // What stands twice cannot be told apart by what it says: then all is learnt anew.
  if (before.size !== last.told.length || now.size !== told.length) return null;
  const gone = new Set([...before].filter((key) => !now.has(key)));
  const fresh = told.filter((t) => !before.has(keyOf(t)));
  return gone.size + fresh.length <= FEW ? { gone, fresh } : null;
}

/** Goes on from what was learnt of a large book: exact for what phrases say, while their rarity stays as it was. */
function goOn(
  book: Phrasebook,
  last: Learnt,
  { gone, fresh }: NonNullable<ReturnType<typeof littleChanged>>,
  { encoder, glosses }: Learning,
): Learnt {
  const reading = readingOf(book, glosses);
  const unseen = unseenRarity(last.told.length);
  const phrased = last.told.map((t) => phrasedAs(t.text, t.language, reading));
  const more = fresh.map((t) => phrasedAs(t.text, t.language, reading));
  const features = more.reduce((f, p) => withFeaturesOf(p, f, unseen), last.features);
  const vectors = encoder
    ? new Map([
        ...last.vectors,
        ...vectorsOf(
          more.map((p) => p.english),
          last.vectors,
          encoder,
        ),
      ])
    : last.vectors;
  const numbers = { ...last, features, vectors };
  const classes = book.intents.length + 1;
  const left = last.told.filter((t) => !gone.has(keyOf(t)));
  function judge(from: Judge, withMeaning: boolean): Judge {
    let taught: Taught = { phrases: vectored(numbers, phrased, withMeaning), lessons: last.told, says: from.says };
    for (const key of gone) {
      const at = taught.lessons.findIndex((l) => keyOf(l as Told) === key);
      taught = withoutLesson(taught, at, classes, features.numbers.size);
    }
    vectored(numbers, more, withMeaning).forEach((x, i) => {
      const lesson = fresh[i];
      if (lesson) taught = withLesson(taught, x, lesson, classes, features.numbers.size);
    });
    const there = new Set(left.map((t) => `${t.language} ${t.text}`));
    const judged = from.judged.filter((j) => there.has(`${j.language} ${j.text}`));
    return { ...from, says: taught.says, judged, thresholds: thresholdsOf(book, judged) };
  }
  const whole = judge(last.whole, true);
  return {
    book,
    encoder: last.encoder,
    told: [...left, ...fresh],
    features,
    standard: last.standard,
    vectors,
    whole,
    pieces: last.encoder === null ? whole : judge(last.pieces, false),
  };
}

/**
 * Learns a phrasebook: what its phrases say, and confidence and thresholds from how each fares without itself. Vectors
 * are taken from what was learnt before; a large book of which little changed goes on from there.
 */
export function learn(book: Phrasebook, learning: Learning): Learnt {
  const { encoder, glosses, last = null, progress = () => undefined } = learning;
  const before = last && last.encoder === (encoder?.name ?? null) ? last : null;
  const told = examplesOf(book);
  const changed = littleChanged(book, told, before);
  if (before && changed) return goOn(book, before, changed, learning);
  const reading = readingOf(book, glosses);
  const phrased = told.map((t) => phrasedAs(t.text, t.language, reading));
  const texts = phrased.map((p) => p.english);
  const vectors: Vectors = encoder
    ? vectorsOf(texts, before?.vectors ?? new Map(), encoder, (done) => progress(done * 0.8))
    : new Map();
  const standard = encoder
    ? standardOf(
        texts.flatMap((t) => vectors.get(t) ?? []),
        encoder.size,
      )
    : WITHOUT_MEANING;
  const numbers = { told, features: featuresOf(phrased), standard, vectors };
  const pieces = judgeOf(book, numbers, phrased, false);
  progress(encoder ? 0.9 : 1);
  const whole = encoder ? judgeOf(book, numbers, phrased, true) : pieces;
  progress(1);
  return { book, encoder: encoder?.name ?? null, ...numbers, whole, pieces };
}

/** How the phrases that are kept aside fare with what was learnt, of which they are no part. */
export function judgeAside(learnt: Learnt, means: Means): Judged[] {
  const { aside } = learnt.book;
  if (aside.length === 0) return [];
  const { judge } = prepare(learnt, means);
  return judge(aside).map((found, i) => {
    const a = aside[i];
    return { text: a?.text ?? '', language: a?.language ?? '', intentId: a?.intentId ?? null, ...found };
  });
}

/** What is understood of texts; the same for the same text, whoever asks. */
export type Matcher = {
  /** What a text may mean. Without the encoder only its words and pieces decide. */
  readonly rank: (text: string, language: string, quick?: boolean) => Meaning;
};

/** The most of a text that is looked at, and the most parts of it that may be wishes of their own. */
const MOST_TEXT = 1000;
const MOST_CLAUSES = 3;
const LEAST_WORDS = 2;

type Means = { readonly encoder: (() => Encoder) | null; readonly glosses: Glosses };
/** How a text fares: its scores, what speaks for the first, how sure that makes it, and what follows. */
type Found = {
  readonly z: Float64Array;
  readonly first: number;
  readonly second: number;
  readonly sure: number;
  readonly ours: number;
  readonly verdict: Verdict;
};

/** Prepares a learnt book for judging texts. */
function prepare(learnt: Learnt, { encoder, glosses }: Means) {
  const { book, told, standard } = learnt;
  const reading = readingOf(book, glosses);
  const classes = book.intents.length + 1;
  const phrased = told.map((t) => phrasedAs(t.text, t.language, reading));
  const stems = stemsOf(told, phrased);
  const prepared = (withMeaning: boolean) => {
    let like: Likeness | null = null;
    return (x: Vectored) => (like ??= likenessTo(vectored(learnt, phrased, withMeaning), createProducts()))(x);
  };
  const likeness = { whole: prepared(true), pieces: prepared(false) };
  const unseen = unseenRarity(told.length);

  function found(p: Phrased, language: string, vector: Float32Array | null): Found {
    const how = vector ? 'whole' : 'pieces';
    const judge = learnt[how];
    const like = likeness[how]({
      dense: vector ? standardised(small(vector), standard) : NOTHING,
      sparse: sparseOf(p, learnt.features, unseen),
    });
    const z = scores(judge.says, like, classes);
    const near = nearestOf(like.filter((_, i) => (told[i]?.y ?? classes) < classes - 1));
    const { first, second, ours, signs } = evidence(
      z,
      near,
      knownShare((stem) => stems.has(stemKey(language, stem)), p.stems),
    );
    const sure = confidenceOf(judge.calibration, signs);
    return { z, first, second, ours, sure, verdict: verdictOf(sure, ours, thresholdsIn(judge.thresholds, language)) };
  }
  function encoded(texts: readonly string[]): readonly Float32Array[] {
    const made = encoder?.();
    if (made && made.name !== learnt.encoder)
      throw new Error(`This phrasebook was learnt with ${learnt.encoder ?? 'no encoder'}, not with ${made.name}.`);
    return made?.encode(texts) ?? [];
  }

  /** How texts fare; `quick` leaves the encoder out. */
  function all(texts: readonly string[], language: string, quick: boolean): Found[] {
    const read = texts.map((text) => phrasedAs(text, language, reading));
    const vectors = quick || learnt.encoder === null ? [] : encoded(read.map((p) => p.english));
    return read.map((p, i) => found(p, language, vectors[i] ?? null));
  }
  const idOf = (y: number): string | null => book.intents[y]?.id ?? null;
  return {
    all,
    judge: (asides: readonly { readonly text: string; readonly language: string }[]) =>
      asides.map(({ text, language }) => {
        const [one] = all([text], language, false);
        return {
          first: idOf(one?.first ?? -1),
          second: idOf(one?.second ?? -1),
          sure: one?.sure ?? 0,
          ours: one?.ours ?? 0,
        };
      }),
  };
}

/** The intents by a text's scores. The others share what the first leaves, in proportion to theirs. */
function rankedBy(book: Phrasebook, { z, first, sure, verdict }: Found): Meaning {
  const others = book.intents.map((_, c) => (c === first ? 0 : Math.exp(((z[c] ?? 0) - (z[first] ?? 0)) / WARMTH)));
  const all = others.reduce((a, b) => a + b, 0);
  const ranked = book.intents
    .map(({ id }, c) => ({ id, c, share: c === first ? Infinity : (others[c] ?? 0) }))
    .sort((a, b) => b.share - a.share)
    .slice(0, 5)
    .map(({ id, c, share }) => ({
      intentId: id,
      confidence: c === first ? sure : Math.min(sure, (share / Math.max(all, 1e-9)) * (1 - sure)),
    }));
  return { ranked, verdict };
}

/**
 * Prepares a learnt book for matching; `encoder` makes the one it was learnt with, when it is first needed, or is null
 * where words and pieces alone are to decide.
 */
export function matcher(learnt: Learnt, means: Means): Matcher {
  const { book } = learnt;
  const { all } = prepare(learnt, means);
  return {
    rank(given, language, quick = false) {
      const text = given.slice(0, MOST_TEXT);
      const about = (said: string): number =>
        wordsOf(said, language).filter((w) => !isFunctionWord(w, language) && /\p{L}/u.test(w)).length;
      if (book.intents.length === 0 || about(text) === 0) return { ranked: [], verdict: 'none' };
      const parts = clausesOf(text, language).filter((c) => about(c) >= LEAST_WORDS);
      const texts = [text, ...(parts.length > 1 && parts.length <= MOST_CLAUSES ? parts : [])];
      const [whole, ...clauses] = all(texts, language, quick).map((found) => rankedBy(book, found));
      if (!whole) return { ranked: [], verdict: 'none' };
      // Two wishes in one phrase: neither is dropped, which first is asked.
      const wishes = new Map(
        clauses.flatMap(({ ranked: [top], verdict }) =>
          top && verdict === 'act' ? [[top.intentId, top] as const] : [],
        ),
      );
      if (wishes.size > 1)
        return {
          ranked: [...wishes.values(), ...whole.ranked.filter((r) => !wishes.has(r.intentId))],
          verdict: 'ask',
        };
      return whole.verdict === 'act' && isContrast(text, language) ? { ...whole, verdict: 'ask' } : whole;
    },
  };
}
