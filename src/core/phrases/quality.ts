import type { Phrase, Phrasebook } from './book';
import { calibrationFrom, leftOut, NONE_BELOW, rankedFrom } from './model';

/**
 * How a phrase fared when the book was learnt without it. `meant` is null when it was taken for none of the intents.
 */
export type Judged = Phrase & { readonly meant: string | null; readonly confidence: number; readonly right: boolean };

/** How well a book is understood, by k-fold cross-validation: every phrase is judged by a model that never saw it. */
export type Quality = {
  readonly phrases: number;
  /** The share of phrases whose first intent is right, and of those it is sure of, the share that is. */
  readonly accuracy: number;
  readonly accuracyWhenSure: number;
  /** The share of phrases it is sure of. */
  readonly sure: number;
  /** The share of phrases about nothing in the book that it wrongly takes for an intent. */
  readonly wronglyTaken: number;
  readonly byLanguage: readonly { readonly language: string; readonly phrases: number; readonly accuracy: number }[];
  readonly byIntent: readonly {
    readonly intentId: string;
    readonly phrases: number;
    readonly found: number;
    readonly precision: number;
    readonly recall: number;
  }[];
  /** How often phrases of one intent were taken for another. */
  readonly confused: readonly { readonly intentId: string; readonly takenFor: string; readonly times: number }[];
  /** Phrases that are not understood without themselves, the least sure first. */
  readonly weakest: readonly Judged[];
  /**
   * Phrases that pull others to their intent: they are taken for one intent with confidence and stand under another.
   */
  readonly pulling: readonly Judged[];
};

/** Judges a book. Takes about as long as learning it `folds` times. */
export function qualityOf(book: Phrasebook, folds = 5): Quality {
  const none = book.intents.length;
  const out = leftOut(book, folds);
  const calibration = calibrationFrom(book, out);
  const results = out.map((r) => ({ ...r, ...rankedFrom(book, r.p, r.known, calibration) }));
  const judged: Judged[] = results
    .filter((r) => r.y < none)
    .map((r) => {
      const top = r.ranked[0];
      const intentId = book.intents[r.y]?.id ?? '';
      return {
        intentId,
        language: r.language,
        text: r.text,
        meant: top?.intentId ?? null,
        confidence: top?.confidence ?? 0,
        right: top?.intentId === intentId,
      };
    });
  function share<T>(all: readonly T[], is: (x: T) => boolean): number {
    return all.length === 0 ? 0 : all.filter(is).length / all.length;
  }
  const sure = judged.filter((j) => j.confidence >= NONE_BELOW);
  const other = results.filter((r) => r.y === none);
  const confusion = new Map<string, { intentId: string; takenFor: string; times: number }>();
  for (const j of judged) {
    if (j.right || j.meant === null) continue;
    const key = `${j.intentId} ${j.meant}`;
    const there = confusion.get(key);
    confusion.set(key, { intentId: j.intentId, takenFor: j.meant, times: (there?.times ?? 0) + 1 });
  }
  return {
    phrases: judged.length,
    accuracy: share(judged, (j) => j.right),
    accuracyWhenSure: share(sure, (j) => j.right),
    sure: judged.length === 0 ? 0 : sure.length / judged.length,
    wronglyTaken: share(other, (r) => !r.none),
    byLanguage: [...new Set(judged.map((j) => j.language))].map((language) => {
      const of = judged.filter((j) => j.language === language);
      return { language, phrases: of.length, accuracy: share(of, (j) => j.right) };
    }),
    byIntent: book.intents.map(({ id }) => {
      const of = judged.filter((j) => j.intentId === id);
      const meant = judged.filter((j) => j.meant === id);
      return {
        intentId: id,
        phrases: of.length,
        found: of.filter((j) => j.right).length,
        recall: share(of, (j) => j.right),
        precision: share(meant, (j) => j.right),
      };
    }),
    confused: [...confusion.values()].sort((a, b) => b.times - a.times),
    weakest: judged
      .filter((j) => !j.right || j.confidence < NONE_BELOW)
      .sort((a, b) => Number(a.right) - Number(b.right) || a.confidence - b.confidence)
      .slice(0, 40),
    pulling: judged
      .filter((j) => !j.right && j.confidence >= 0.6)
      .sort((a, b) => b.confidence - a.confidence)
      .slice(0, 20),
  };
}
