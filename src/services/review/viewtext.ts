import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { asFigure } from '../../core/measures/figuretext';
import { KEPT_VIEWS } from '../../data/keptviews';
import { localDate } from '../../core/hours/weekly';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { parse } from '../ground/validate';
import { columnsOf, isKind, viewEach } from './each';
import type { Figure } from './figures';
import { keptViewsOf, pageOf } from './keptviews';
import { viewReview } from './overview';
import { viewSubject } from './subject';

/** Things of a kind that a mail names; the rest is on the page. */
const MOST_ROWS = 20;
const viewSchema = exactly(object({ id: id('The view') }));

/** A kept view as somebody reads it in a mail: its figures in lines, and where its page is. */
export type ViewText = {
  readonly name: string;
  readonly range: string;
  readonly lines: readonly string[];
  readonly path: string;
};

const figureLine = ({ name, value, before, unit }: Figure): string =>
  `${name}: ${asFigure(value, unit)}${before === null ? '' : ` (before ${asFigure(before, unit)})`}`;

/** Reads a kept view as somebody may see it. For a thread of its own. */
export function viewText(host: Host, actor: Actor, input: unknown): ViewText {
  mustHold(actor, 'review.view');
  const asked = parse(viewSchema, input);
  const kept = KEPT_VIEWS.one(host.db, asked.id);
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const shown = keptViewsOf(host, actor, localDate(host.times.floor(), zone), true).find(
    (view) => view.id === asked.id,
  );
  if (!kept || !shown) throw new LaneError('not-found', 'There is no such view any more.');
  const [path = '', search = ''] = shown.href.split('?');
  const question = Object.fromEntries(new URLSearchParams(search));
  const { kind, thing } = pageOf(path);
  const view = { name: kept.name, path: shown.href };
  if (!isKind(kind)) {
    const { from, to, figures } = viewReview(host, actor, question);
    return { ...view, range: `${from} to ${to}`, lines: figures.map(figureLine) };
  }
  if (thing !== undefined) {
    const { from, to, name, figures } = viewSubject(host, actor, { ...question, kind, id: thing });
    return { ...view, range: `${name}, ${from} to ${to}`, lines: figures.map(figureLine) };
  }
  const { from, to, rows } = viewEach(host, actor, { ...question, kind });
  const columns = columnsOf(kind);
  return {
    ...view,
    range: `${from} to ${to}`,
    lines: [
      ...rows
        .slice(0, MOST_ROWS)
        .map(
          (row) =>
            `${row.name}: ${columns.map((c) => `${c.name.toLowerCase()} ${asFigure(row.values[c.id] ?? null, c.unit)}`).join(', ')}`,
        ),
      ...(rows.length > MOST_ROWS ? [`and ${rows.length - MOST_ROWS} more`] : []),
    ],
  };
}
