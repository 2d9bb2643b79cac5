import { LaneError } from '../../core/errors';
import { monthAfter, monthOf } from '../../core/hours/dates';
import { daySpan } from '../../core/measures/calendar';
import { tally } from '../../core/measures/counting';
import { KINDS_APART, countedFor, FIRST_FIGURES, type Measure } from '../../core/measures/definitions';
import type { FactDay } from '../../core/measures/columns';
import { emptyTally } from '../../core/measures/tally';
import { firstContactAt } from '../../data/facts';
import { KEPT_VIEWS } from '../../data/keptviews';
import type { ReportFigures, ReportMonth, ReportPart, ReportRow, ReportTable } from '../../data/reports';
import { readWorkspace } from '../../data/workspace';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf, spansOf } from './asking';
import { isKind, KINDS, mayRead } from './each';
import { factDays } from './factdays';
import { eachOf, measuresOf } from './figures';
import { pageOf } from './keptviews';
import { namesOf } from './names';

/** Things of a list that a report names, most first. */
const MOST_ROWS = 20;

/** So many months up to the last one that is over on a day, in order. */
export const monthsUpTo = (day: string, many: number): ReportMonth[] =>
  Array.from({ length: many }, (_, i) => monthOf(monthAfter(day.slice(0, 7), i - many)));

/** What a report says to somebody, month by month. */
export const reportFigures = (
  host: Host,
  actor: Actor,
  parts: readonly ReportPart[],
  months: readonly ReportMonth[],
): ReportFigures => {
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const began = firstContactAt(host.db) ?? Infinity;
  // Of months before the log nothing is known, not even that nobody came.
  const known = months.map(({ to }) => daySpan(to, zone).to > began);
  const tables = parts.map((part) => {
    const table = tableOf(host, actor, part, months);
    const rows = table.rows.map((row) => ({ ...row, values: row.values.map((value, m) => (known[m] ? value : null)) }));
    return { ...table, rows };
  });
  return { months, tables };
};

function tableOf(host: Host, actor: Actor, { viewId, said }: ReportPart, months: readonly ReportMonth[]): ReportTable {
  const view = KEPT_VIEWS.one(host.db, viewId);
  const table = { viewId, name: view?.name ?? 'a view that is gone', said, listOf: null, rows: [] };
  if (!view) return { ...table, missing: 'Its view is not kept any more.' };
  const { kind, thing } = pageOf(view.path);
  try {
    const rows = isKind(kind)
      ? rowsOfKind(host, actor, view.address, months, kind, thing)
      : figureRows(host, actor, view.address, months, measuresOf(FIRST_FIGURES));
    return { ...table, ...rows, missing: null };
  } catch (error) {
    if (!(error instanceof LaneError)) throw error;
    return { ...table, missing: error.message };
  }
}

type Address = Readonly<Record<string, string>>;
type Rows = Pick<ReportTable, 'listOf' | 'rows'>;

/** The days of each month, with what is asked of them. */
const askedOfMonths = (host: Host, actor: Actor, address: Address, months: readonly ReportMonth[]) =>
  months.map((month) => {
    const asked = askedOf(host, actor, { ...address, ...month });
    return { asked, days: factDays(host, spansOf(asked.now)) };
  });

function figureRows(
  host: Host,
  actor: Actor,
  address: Address,
  months: readonly ReportMonth[],
  measures: readonly Measure[],
): Rows {
  const tallies = askedOfMonths(host, actor, address, months).map(
    ({ asked, days }) => tally(days, asked.now.narrowing, countedFor(measures)).get('') ?? emptyTally(),
  );
  const rows = measures
    // Whoever promises no calls back is not told how many were reached.
    .filter((m) => !KINDS_APART.includes(m.id) || tallies.some((t) => m.count(t) > 0))
    .map((m) => ({ ...wordsFor(m), id: m.id, name: m.name, values: tallies.map((t) => m.value(t)) }));
  return { listOf: null, rows };
}
const wordsFor = ({ unit, formula }: Measure): Pick<ReportRow, 'unit' | 'formula'> => ({ unit, formula });

function rowsOfKind(
  host: Host,
  actor: Actor,
  address: Address,
  months: readonly ReportMonth[],
  kind: keyof typeof KINDS,
  thing: string | undefined,
): Rows {
  const { key, figures } = KINDS[kind];
  const measures = measuresOf(figures);
  const may = mayRead(host, actor, key);
  if (thing !== undefined) {
    if (!may(thing)) throw new LaneError('not-found', 'You may not see what this view is about.');
    // What is asked of one thing is what is narrowed to it, whether or not it can be narrowed to otherwise.
    const tallies = askedOfMonths(host, actor, address, months).map(
      ({ asked, days }) => eachOf(days, asked.now, key, countedFor(measures)).get(thing) ?? emptyTally(),
    );
    const rows = measures.map((m) => ({
      ...wordsFor(m),
      id: m.id,
      name: m.name,
      values: tallies.map((t) => m.value(t)),
    }));
    return { listOf: null, rows };
  }
  const [first] = measures;
  if (!first) return { listOf: null, rows: [] };
  return listRows(host, actor, askedOfMonths(host, actor, address, months), key, first, may);
}

function listRows(
  host: Host,
  actor: Actor,
  months: readonly { readonly asked: ReturnType<typeof askedOf>; readonly days: readonly FactDay[] }[],
  key: (typeof KINDS)[keyof typeof KINDS]['key'],
  measure: Measure,
  may: (id: string) => boolean,
): Rows {
  const nameOf = namesOf(host, actor);
  const tallies = months.map(({ asked, days }) => eachOf(days, asked.now, key, countedFor([measure])));
  const chosen = months[0]?.asked.now.narrowing[key];
  const countOf = (id: string) => tallies.reduce((n, t) => n + measure.count(t.get(id) ?? emptyTally()), 0);
  const rows = [...new Set(tallies.flatMap((t) => [...t.keys()]))]
    .filter((id) => may(id) && (chosen?.includes(id) ?? true) && countOf(id) > 0)
    .sort((a, b) => countOf(b) - countOf(a) || (a < b ? -1 : 1))
    .slice(0, MOST_ROWS)
    .map((id) => ({
      ...wordsFor(measure),
      id,
      name: nameOf(key, id),
      values: tallies.map((t) => measure.value(t.get(id) ?? emptyTally())),
    }));
  return { listOf: measure.name, rows };
}

/** A figure that is otherwise now than it was sent: later corrections, days brought in, people who moved. */
export type Correction = {
  readonly table: string;
  readonly row: string;
  readonly unit: string;
  readonly month: ReportMonth;
  readonly sent: number | null;
  readonly now: number | null;
};
/** What of figures that were sent is otherwise now. What was not there then, and is now, is told as well. */
export function correctionsOf(sent: ReportFigures, now: ReportFigures): Correction[] {
  return sent.tables.flatMap((table, t) => {
    const today = now.tables[t];
    return sent.months.flatMap((month, m) =>
      table.rows.flatMap((row) => {
        const same = today?.rows.find((one) => one.id === row.id);
        if (!today || today.missing !== null || !same) return [];
        const [before, after] = [row.values[m] ?? null, same.values[m] ?? null];
        const [name, what] = [table.name, table.listOf === null ? row.name : `${row.name}, ${table.listOf}`];
        return sameFigure(before, after)
          ? []
          : [{ table: name, row: what, unit: row.unit, month, sent: before, now: after }];
      }),
    );
  });
}
const sameFigure = (a: number | null, b: number | null): boolean =>
  a === null || b === null ? a === b : Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));
