import { MEASURES } from '../../core/measures/definitions';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf } from './asking';
import { type AskedView, askedView } from './askedview';
import { daysOf, type Figure, figuresThrough, type Line } from './figures';

/** Figures of all that is asked about: those of the lines of a bot stand on its page. */
const FIGURES = MEASURES.filter((measure) => measure.behind.part !== 'lines');

export type RangesView = AskedView & {
  /** Each with of how many it speaks in the range and in the other. */
  readonly figures: readonly (Figure & { readonly countBefore: number })[];
  readonly line: Line;
};

/** Two ranges side by side: every figure in both. */
export function viewRanges(host: Host, actor: Actor, input: unknown): RangesView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const { figures, line, then } = figuresThrough(FIGURES, daysOf(host, asked), asked);
  return {
    ...askedView(host, actor, asked),
    figures: figures
      .map((figure, i) => ({ ...figure, countBefore: FIGURES[i]?.count(then) ?? 0 }))
      .filter((figure) => figure.count + figure.countBefore > 0),
    line,
  };
}
