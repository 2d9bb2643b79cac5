import { type Measure, MEASURES } from '../../core/measures/definitions';
import type { Part } from '../../core/measures/factparts';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Kind, KINDS } from './each';
import { type FigureWords, wordsOf } from './figures';

/** What a row is of which a figure is made, and the instant by which it is counted. */
const ROWS: Readonly<Record<Part, string>> = {
  contacts: 'contacts, by when they started',
  visits: 'entries into a queue, by when it was entered',
  offers: 'offers to people, by when their entry was made',
  legs: 'turns of people, by when they ended, wrap-up over',
  lines: 'contacts at a line of a bot, by when they started',
  messages: 'what was written in a contact, by when it was',
};
const UNITS: Readonly<Record<Measure['unit'], string>> = {
  count: 'a number',
  share: 'a share',
  seconds: 'a time',
  stars: 'a mean from 1 to 5',
};

/** A figure as it is explained: what it is made of, its unit in words, and the pages on which it stands. */
export type ExplainedFigure = FigureWords & {
  readonly rows: string;
  readonly unitWords: string;
  readonly better: string;
  readonly pages: readonly { readonly kind: Kind; readonly name: string }[];
};

/** Every figure of Review, explained. */
export function explainFigures(_host: Host, actor: Actor): ExplainedFigure[] {
  mustHold(actor, 'review.view');
  return MEASURES.map((measure) => ({
    ...wordsOf(measure),
    rows: ROWS[measure.behind.part],
    unitWords: UNITS[measure.unit],
    better: measure.moreIsBetter === null ? 'neither' : measure.moreIsBetter ? 'more' : 'less',
    pages: (Object.keys(KINDS) as Kind[])
      .filter((kind) => (KINDS[kind].figures as readonly string[]).includes(measure.id))
      .map((kind) => ({ kind, name: KINDS[kind].name })),
  }));
}
