import jStat from 'jstat';
import type { Score } from './evidence';

/** How likely a score at least this far from none is by chance: Student's t, both sides. */
export const chanceOf = ({ score, df }: Score): number => 2 * jStat.studentt.cdf(-Math.abs(score), df);

/** A question that is asked of the data: how likely its answer is by chance, and the family of questions it belongs to. */
export type Question = { readonly chance: number; readonly family: string };

/**
 * Which questions have an answer, so that of all that are told a `rate` (0 to 1) are expected to be chance at most:
 * Benjamini and Hochberg ("Controlling the false discovery rate", 1995), with weights (Genovese, Roeder and Wasserman,
 * 2006), so that a family of many questions does not drown out one of few: each has its share of the rate.
 */
export function discoveries<Q extends Question>(
  questions: readonly Q[],
  shares: Readonly<Record<string, number>>,
  rate: number,
): Q[] {
  const sizes = new Map<string, number>();
  for (const { family } of questions) sizes.set(family, (sizes.get(family) ?? 0) + 1);
  const asked = [...sizes.keys()].reduce((sum, family) => sum + (shares[family] ?? 0), 0);
  const weighed = questions
    .map((question) => ({
      question,
      chance: (question.chance * (sizes.get(question.family) ?? 1) * asked) / (shares[question.family] ?? 0),
    }))
    .sort((a, b) => a.chance - b.chance);
  const last = weighed.findLastIndex(({ chance }, i) => chance <= rate * (i + 1));
  return weighed.slice(0, last + 1).map(({ question }) => question);
}
