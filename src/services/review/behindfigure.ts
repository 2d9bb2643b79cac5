import { LaneError } from '../../core/errors';
import { contactsBehind } from '../../core/measures/behind';
import { measureById } from '../../core/measures/definitions';
import { tally } from '../../core/measures/counting';
import { groupName } from '../../core/measures/grouping';
import { type ContactLine, contactLines } from '../../data/facts';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf, spansOf } from './asking';
import { type FigureWords, wordsOf } from './figures';
import { factDays } from './factdays';
import { namesOf } from './names';
import { isKind, KINDS } from './each';

/** Contacts on a page of those behind a figure. */
export const PAGE = 50;

export type BehindView = FigureWords & {
  readonly value: number | null;
  /** Whose it is, where it is of one thing. */
  readonly of: string | null;
  /** Contacts in all, on the side that is asked for. */
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  readonly side: 'with' | 'without' | null;
  /** Rows on either side of a share. */
  readonly sides: { readonly with: number; readonly without: number };
  readonly lines: readonly (Omit<ContactLine, 'queues' | 'people'> & { queues: string; people: string })[];
};

/** The contacts that a figure is made of, a page at a time; of a share, both sides can be asked for. */
export function behindFigure(host: Host, actor: Actor, input: unknown): BehindView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const measure = measureById(asked.measure ?? '');
  if (!measure) throw new LaneError('not-found', 'There is no such figure.');
  const kind = isKind(asked.kind) ? KINDS[asked.kind] : null;
  const narrowing =
    kind && asked.id
      ? { ...asked.now.narrowing, [kind.key]: within(asked.now.narrowing[kind.key], asked.id) }
      : asked.now.narrowing;
  const days = factDays(host, spansOf(asked.now));
  const found = contactsBehind(days, narrowing, measure, { side: asked.side, from: asked.page * PAGE, most: PAGE });
  const whole = tally(days, narrowing, { parts: [measure.behind.part] }).get(groupName([]));
  const nameOf = namesOf(host, actor);
  const named = (key: 'queue' | 'person', list: string | null) =>
    [...new Set(list ? list.split(',') : [])].map((id) => nameOf(key, id)).join(', ');
  return {
    ...wordsOf(measure),
    value: whole ? measure.value(whole) : measure.unit === 'count' ? 0 : null,
    of: kind && asked.id ? nameOf(kind.key, asked.id) : null,
    total: found.total,
    page: asked.page,
    pages: Math.ceil(found.total / PAGE),
    side: asked.side,
    sides: found.sides,
    lines: contactLines(host.db, found.nos).map((line) => ({
      ...line,
      queues: named('queue', line.queues),
      people: named('person', line.people),
    })),
  };
}
/** Whoever may see some only finds nothing behind the others. */
const within = (may: readonly string[] | undefined, id: string): readonly string[] =>
  may === undefined || may.includes(id) ? [id] : [];
