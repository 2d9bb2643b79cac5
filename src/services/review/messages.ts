import { tally } from '../../core/measures/counting';
import { groupOf } from '../../core/measures/grouping';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf } from './asking';
import { type AskedView, askedView } from './askedview';
import { type EachRow, eachRows } from './each';
import { daysOf, type Figure, figuresThrough, type FigureWords, type Line, measuresOf, wordsOf } from './figures';

/** The figures of the page, in reading order. */
const FIGURES = ['messages-in', 'messages-out', 'messages-person', 'started'] as const;

/** What was written in an hour of the week, added up over the range, and how many contacts started in it. */
export type WrittenHour = {
  /** Monday 1. */ readonly day: number;
  readonly hour: number;
  readonly in: number;
  readonly out: number;
  readonly byPerson: number;
  readonly started: number;
};
export type MessagesView = AskedView & {
  readonly figures: readonly Figure[];
  readonly line: Line;
  readonly hours: readonly WrittenHour[];
  readonly columns: readonly FigureWords[];
  readonly doors: readonly EachRow[];
};

/** How much was written, by whom, when, and by which door. */
export function viewMessages(host: Host, actor: Actor, input: unknown): MessagesView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const days = daysOf(host, asked);
  const measures = measuresOf(FIGURES);
  const { figures, line } = figuresThrough(measures, days, asked);
  const byHour = tally(days.now, asked.now.narrowing, {
    by: ['weekday', 'hour'],
    parts: ['contacts', 'messages'],
    lengths: [],
  });
  return {
    ...askedView(host, actor, asked),
    figures,
    line,
    hours: [...byHour].map(([name, { contacts, messages }]) => {
      const [day = 1, hour = 0] = groupOf(name).map(Number);
      return {
        day,
        hour,
        in: messages.in.sum,
        out: messages.out.sum,
        byPerson: messages.byPerson.sum,
        started: contacts.started,
      };
    }),
    columns: measures.map(wordsOf),
    doors: eachRows(host, actor, asked, days, 'doors'),
  };
}
