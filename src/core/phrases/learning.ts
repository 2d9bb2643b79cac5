import { BACKGROUND } from './background';
import { phrasesOf, type Phrasebook } from './book';
import type { Encoder } from './encoder/encoder';
import { createProducts } from './encoder/product';
import { calibrate, confidenceOf, evidence, knownShare, nearestOf } from './evidence';
import { featuresOf, type Phrased, phrasedAs, withFeaturesOf } from './features';
import { type Glosses, NO_GLOSSES } from './glosses';
import { type Judged, thresholdsOf } from './judging';
import { solveRidge, type Taught, withLesson, withoutLesson } from './kernelridge';
import {
  type Judge,
  type Learnt,
  NOTHING,
  type Numbers,
  readingOf,
  stemKey,
  stemsOf,
  type Told,
  unseenRarity,
  vectored,
} from './learnt';
import { inBlocks, likenesses } from './likeness';
import { type Standard, standardOf, type Vectors, vectorsOf } from './vectors';

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
/** Books of more examples go on from what was learnt before, while no more of them than this changed. */
const LARGE = 1000;
const FEW = 6;
const LABELS = 'en';

/**
 * All examples: the phrases, each intent's label and description, and phrases of nobody's intent as the last class. What
 * stands twice is one example.
 */
const examplesOf = (book: Phrasebook): Told[] => [...new Map(listed(book).map((t) => [keyOf(t), t])).values()];
function listed(book: Phrasebook): Told[] {
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

const WITHOUT_MEANING: Standard = { mean: NOTHING, spread: NOTHING };

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
  // An earlier version kept what stood twice as two, which cannot be told apart: then all is learnt anew.
  if (before.size !== last.told.length) return null;
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
