import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { daysBetween, isDay } from '../../core/hours/dates';
import { DAY_KINDS, type DayKind, MARKED_DAYS } from '../../data/markeddays';
import { readQueues } from '../../data/queuesettings';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';

/** Days that one mark may cover. */
const MOST_DAYS = 62;

const day = (name: string) =>
  string()
    .required(`${name} is missing`)
    .test('day', `${name} is not a day. Days are written like 2026-11-09`, (text) => isDay(text));
const markSchema = exactly(
  object({
    from: day('The first day'),
    to: day('The last day'),
    what: string()
      .oneOf([...DAY_KINDS], `It must be one of ${DAY_KINDS.join(', ')}`)
      .required('What was going on is missing'),
    words: requiredText(80, 'What was going on'),
    /** The queues that it touched; none: all that came. */
    queueIds: array(id('A queue')).max(200, 'That are too many queues').required('Which queues it touched is missing'),
  }),
);
const unmarkSchema = exactly(object({ id: id('The mark') }));

export type MarkedDays = {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly what: DayKind;
  readonly words: string;
  /** The queues that it touched; none: all that came. */
  readonly queueIds: readonly string[];
};

/** Marks days that were not like others, for everybody: comparisons leave them out. */
export function markDays(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { from, to, what, words, queueIds } = parse(markSchema, input);
  const days = daysBetween(from, to) + 1;
  if (days < 1)
    throw new LaneError('not-valid', 'The last day is before the first.', [
      { where: 'to', what: 'is before the first' },
    ]);
  if (days > MOST_DAYS)
    throw new LaneError('not-valid', `At most ${MOST_DAYS} days are marked at once.`, [
      { where: 'to', what: 'is too far from the first' },
    ]);
  const known = new Set(readQueues(host.db).map((q) => q.id));
  if (!queueIds.every((queueId) => known.has(queueId)))
    throw new LaneError('not-valid', 'There is no such queue.', [{ where: 'queueIds', what: 'is none' }]);
  return host.transact((tx) => {
    const markId = tx.ids('mark');
    MARKED_DAYS.write(tx.db, markId, words, { from, to, what: what as DayKind, queueIds });
    return { id: markId };
  });
}

/** Takes a mark away: its days are like others again. */
export function unmarkDays(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const asked = parse(unmarkSchema, input);
  return host.transact((tx) => {
    if (!MARKED_DAYS.one(tx.db, asked.id)) throw new LaneError('not-found', 'There is no such mark.');
    MARKED_DAYS.remove(tx.db, asked.id);
    return { id: asked.id };
  });
}

/** Marks that touch days, earliest first. */
export const marksBetween = ({ db }: Pick<Host, 'db'>, from: string, to: string): MarkedDays[] =>
  MARKED_DAYS.all(db)
    .filter((mark) => mark.from <= to && mark.to >= from)
    .map(({ id: markId, name, from: first, to: last, what, queueIds }) => ({
      id: markId,
      from: first,
      to: last,
      what,
      words: name,
      queueIds,
    }))
    .sort((a, b) => (a.from < b.from ? -1 : 1));
