import { type Aside, type Phrasebook, USUAL_WISH, type Wish } from './book';
import { type Fare, type Judged, judgedFor, type Thresholds, thresholdsIn, type Trade, tradeOf } from './judging';

/** A share with the range in which it lies with 95% confidence by how many were asked; null where nothing was. */
export type Share = { readonly of: number; readonly share: number; readonly low: number; readonly high: number } | null;

/** A share by counts, with Wilson's interval (1927). */
export function shareOf(n: number, of: number): Share {
  if (of === 0) return null;
  const z = 1.96;
  const p = n / of;
  const middle = (p + (z * z) / (2 * of)) / (1 + (z * z) / of);
  const half = (z / (1 + (z * z) / of)) * Math.sqrt((p * (1 - p)) / of + (z * z) / (4 * of * of));
  return { of, share: p, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

/** How phrases fare: the first intent right, and the right one among the first two. */
export type Fared = { readonly right: Share; readonly inTwo: Share };
function faredOf(judged: readonly Judged[]): Fared {
  const own = judged.filter((j) => j.intentId !== null);
  return {
    right: shareOf(own.filter((j) => j.first === j.intentId).length, own.length),
    inTwo: shareOf(own.filter((j) => j.intentId === j.first || j.intentId === j.second).length, own.length),
  };
}

export type LanguageQuality = Fared & {
  readonly language: string;
  /** How many phrases of the book are in it. */ readonly phrases: number;
  readonly wish: Wish;
  /** How the phrases fared by which its thresholds are chosen. */ readonly fares: readonly Fare[];
  /** Whether its own phrases were too few, so that those of all languages were asked. */ readonly borrowed: boolean;
  /** The same of phrases that nobody teaches from; null where none are kept aside. */
  readonly aside: (Fared & { readonly trade: Trade }) | null;
};

export type IntentQuality = {
  readonly intentId: string;
  readonly phrases: number;
  /** Of its phrases, those found; of what is named so, what is right. */
  readonly found: Share;
  readonly named: Share;
};

/** How well a book is understood: each phrase judged by a model that never saw it. */
export type Quality = {
  readonly languages: readonly LanguageQuality[];
  readonly byIntent: readonly IntentQuality[];
  /** How often phrases of one intent were taken for another, most often first. */
  readonly confused: readonly { readonly intentId: string; readonly takenFor: string; readonly times: number }[];
  /** Phrases that are not understood without themselves, the least sure first. */
  readonly weakest: readonly Judged[];
  /** Phrases that pull others to their intent: surely taken for one and standing under another. */
  readonly pulling: readonly Judged[];
  /** Intents that more phrases would help most: they have few, and are found least. */
  readonly wanting: readonly string[];
  /** Phrases kept aside that say nearly the same as one that is taught, so that they say less about strangers. */
  readonly twins: readonly { readonly aside: string; readonly taught: string }[];
};

/** With so many phrases another ten change little. */
const MANY = 40;
const HELPED = 3;

/** What is said of a book by how its phrases fared, and those kept aside. */
export function qualityOf(
  book: Phrasebook,
  judged: readonly Judged[],
  thresholds: Readonly<Record<string, Thresholds>>,
  aside: readonly Judged[],
): Quality {
  const own = judged.filter((j) => j.intentId !== null);
  const confusion = new Map<string, { intentId: string; takenFor: string; times: number }>();
  for (const { intentId, first } of own) {
    if (first === intentId || first === null || intentId === null) continue;
    const key = `${intentId} ${first}`;
    confusion.set(key, { intentId, takenFor: first, times: (confusion.get(key)?.times ?? 0) + 1 });
  }
  const byIntent = book.intents.map(({ id }): IntentQuality => {
    const of = own.filter((j) => j.intentId === id);
    const named = own.filter((j) => j.first === id);
    return {
      intentId: id,
      phrases: of.length,
      found: shareOf(of.filter((j) => j.first === id).length, of.length),
      named: shareOf(named.filter((j) => j.intentId === id).length, named.length),
    };
  });
  return {
    languages: book.languages.map((language): LanguageQuality => {
      const wish = book.wishes[language] ?? USUAL_WISH;
      const asked = judgedFor(judged, language);
      const ofLanguage = judged.filter((j) => j.language === language);
      const apart = aside.filter((j) => j.language === language);
      return {
        language,
        phrases: ofLanguage.filter((j) => j.intentId !== null).length,
        ...faredOf(ofLanguage),
        wish,
        fares: asked.map(({ intentId, first, second, sure, ours }) => ({ intentId, first, second, sure, ours })),
        borrowed: asked !== ofLanguage && asked.length !== ofLanguage.length,
        aside:
          apart.length === 0 ? null : { ...faredOf(apart), trade: tradeOf(apart, thresholdsIn(thresholds, language)) },
      };
    }),
    byIntent,
    confused: [...confusion.values()].sort((a, b) => b.times - a.times),
    weakest: own
      .filter((j) => j.first !== j.intentId)
      .sort((a, b) => a.sure - b.sure)
      .slice(0, 40),
    pulling: own
      .filter((j) => j.first !== j.intentId && j.sure >= 0.6)
      .sort((a, b) => b.sure - a.sure)
      .slice(0, 20),
    wanting: byIntent
      .filter((i) => i.phrases < MANY && (i.found?.share ?? 0) < 0.9)
      .sort((a, b) => (a.found?.share ?? 0) - (b.found?.share ?? 0) || a.phrases - b.phrases)
      .slice(0, HELPED)
      .map((i) => i.intentId),
    twins: twinsOf(book),
  };
}

/** Words shared by two texts, of those that either has, from which they are near twins. */
const TWINS = 0.75;

function twinsOf(book: Phrasebook): Quality['twins'] {
  const wordsIn = (text: string): ReadonlySet<string> =>
    new Set(
      text
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u)
        .filter(Boolean),
    );
  const taught = book.intents.flatMap((i) =>
    Object.entries(i.examples).flatMap(([language, texts]) =>
      texts.map((text) => ({ language, text, words: wordsIn(text) })),
    ),
  );
  return book.aside.flatMap((a: Aside) => {
    const own = wordsIn(a.text);
    const twin = taught.find((t) => {
      if (t.language !== a.language) return false;
      const shared = [...own].filter((w) => t.words.has(w)).length;
      return shared / Math.max(1, own.size + t.words.size - shared) >= TWINS;
    });
    return twin ? [{ aside: a.text, taught: twin.text }] : [];
  });
}
