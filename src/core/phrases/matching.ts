import type { Meaning } from '../bots/program';
import type { Phrasebook } from './book';
import type { Encoder } from './encoder/encoder';
import { createProducts } from './encoder/product';
import { confidenceOf, evidence, knownShare, nearestOf } from './evidence';
import { type Phrased, phrasedAs, sparseOf } from './features';
import { clausesOf, isContrast, isFunctionWord } from './functionwords';
import type { Glosses } from './glosses';
import { type Judged, thresholdsIn, type Verdict, verdictOf } from './judging';
import { scores } from './kernelridge';
import { type Learnt, NOTHING, readingOf, stemKey, stemsOf, unseenRarity, vectored } from './learnt';
import { type Likeness, likenessTo, type Vectored } from './likeness';
import { wordsOf } from './tokens';
import { small, standardised } from './vectors';

/** How far scores are apart for one to be e times as likely. */
const WARMTH = 0.15;

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

/** What texts are understood by beside what was learnt. */
export type Means = { readonly encoder: (() => Encoder) | null; readonly glosses: Glosses };
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
