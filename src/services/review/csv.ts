import { writeTable } from '../../core/formats/csv';
import { FIRST_FIGURES } from '../../core/measures/definitions';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf } from './asking';
import { eachRows, isKind, type Kind, KINDS } from './each';
import { daysOf, figuresThrough, measuresOf } from './figures';
import { viewTimeUsed } from './personday';
import { viewMessages } from './messages';
import { viewPromises } from './promises';
import { viewRanges } from './ranges';
import { viewReport, viewSentReport } from './reportviews';
import { viewSubject } from './subject';
import { viewTwo } from './two';

const round = (n: number | null | undefined) => (n === null || n === undefined ? '' : Math.round(n * 1000) / 1000);
/** A part of a file's name: what a file system would not take is left out. */
const inName = (text: string): string => text.toLowerCase().replace(/[^\p{L}\d]+/gu, '-');
type CsvFile = { readonly name: string; readonly text: string };

/**
 * Figures of the range as CSV (RFC 4180); of each thing of a kind where one is named, of one thing with what it was made of,
 * or of two beside each other. Cells that a spreadsheet would run are neutralised.
 */
export function reviewCsv(host: Host, actor: Actor, input: unknown): CsvFile {
  mustHold(actor, 'review.export');
  const asked = askedOf(host, actor, input);
  if (asked.kind === 'report' || asked.kind === 'sent-report')
    return reportCsv(host, actor, asked.kind, asked.id ?? '');
  if (asked.kind === 'callbacks') return promisesCsv(host, actor, input);
  if (asked.kind === 'ranges') return rangesCsv(host, actor, input);
  if (asked.kind === 'messages') return messagesCsv(host, actor, input);
  if (!isKind(asked.kind)) return overviewCsv(host, asked);
  if (asked.id === null) return eachCsv(host, actor, asked, asked.kind);
  return asked.with === null ? subjectCsv(host, actor, input, asked.kind) : twoCsv(host, actor, input);
}
const rangeOf = ({ from, to }: { readonly from: string; readonly to: string }): string => `${from}-to-${to}`;

/** Promised calls, all together and by queue. */
function promisesCsv(host: Host, actor: Actor, input: unknown): CsvFile {
  const { from, to, columns, rows } = viewPromises(host, actor, input);
  return {
    name: `review-callbacks-${rangeOf({ from, to })}.csv`,
    text: writeTable(
      ['id', 'queue', ...columns.flatMap(({ id }) => [id, `${id} before`])],
      rows.map((row) => [
        row.id,
        row.name,
        ...columns.flatMap(({ id }) => [round(row.values[id]), round(row.before[id])]),
      ]),
    ),
  };
}

/** Every figure of two ranges. */
function rangesCsv(host: Host, actor: Actor, input: unknown): CsvFile {
  const { from, to, before, figures } = viewRanges(host, actor, input);
  return {
    name: `review-${rangeOf({ from, to })}-beside-${rangeOf(before)}.csv`,
    text: writeTable(
      ['figure', 'name', 'unit', rangeOf({ from, to }), 'of', rangeOf(before), 'of'],
      figures.map((f) => [f.id, f.name, f.unit, round(f.value), f.count, round(f.before), f.countBefore]),
    ),
  };
}

/** What was written at each hour of the week, added up over the range; weekdays begin with Monday, 1. */
function messagesCsv(host: Host, actor: Actor, input: unknown): CsvFile {
  const { from, to, hours } = viewMessages(host, actor, input);
  return {
    name: `review-messages-${rangeOf({ from, to })}.csv`,
    text: writeTable(
      ['weekday', 'hour', 'messages in', 'messages out', 'written by people', 'contacts started'],
      [...hours]
        .sort((a, b) => a.day - b.day || a.hour - b.hour)
        .map((h) => [h.day, h.hour, h.in, h.out, h.byPerson, h.started]),
    ),
  };
}

/** A report, as it is now or as it was sent: a line for each figure and month. */
function reportCsv(host: Host, actor: Actor, kind: 'report' | 'sent-report', id: string): CsvFile {
  const { name, figures } = kind === 'report' ? viewReport(host, actor, { id }) : viewSentReport(host, actor, { id });
  return {
    name: `${inName(name)}.csv`,
    text: writeTable(
      ['view', 'figure', 'unit', ...figures.months.map((month) => month.from.slice(0, 7))],
      figures.tables.flatMap((table) =>
        table.rows.map((row) => [
          table.name,
          table.listOf === null ? row.name : `${table.listOf}: ${row.name}`,
          row.unit,
          ...row.values.map(round),
        ]),
      ),
    ),
  };
}

function overviewCsv(host: Host, asked: Asked): CsvFile {
  const { figures } = figuresThrough(measuresOf(FIRST_FIGURES), daysOf(host, asked), asked);
  return {
    name: `review-${rangeOf(asked.now)}.csv`,
    text: writeTable(
      ['figure', 'name', 'unit', 'value', 'before', 'of'],
      figures.map((f) => [f.id, f.name, f.unit, round(f.value), round(f.before), f.count]),
    ),
  };
}

function eachCsv(host: Host, actor: Actor, asked: Asked, kind: Kind): CsvFile {
  const { name, one, figures } = KINDS[kind];
  const rows = eachRows(host, actor, asked, daysOf(host, asked), kind);
  return {
    name: `review-${name.toLowerCase()}-${rangeOf(asked.now)}.csv`,
    text: writeTable(
      ['id', one, ...figures.flatMap((id) => [id, `${id} before`, `${id} of`])],
      rows.map((row) => [
        row.id,
        row.name,
        ...figures.flatMap((id) => [round(row.values[id]), round(row.before[id]), row.counts[id] ?? 0]),
      ]),
    ),
  };
}

/** One thing: its figures beside its peers' mean, what it was made of, and what a person's time went into. */
function subjectCsv(host: Host, actor: Actor, input: unknown, kind: Kind): CsvFile {
  const view = viewSubject(host, actor, input);
  const means = new Map(view.beside.map((b) => [b.measure, b.mean]));
  const used = kind === 'people' ? viewTimeUsed(host, actor, input).uses : [];
  return {
    name: `review-${inName(view.name)}-${rangeOf(view)}.csv`,
    text: writeTable(
      ['part', 'name', 'unit', 'value', 'before', 'of', 'mean of peers'],
      [
        ...view.figures.map((f) => [
          'figure',
          f.name,
          f.unit,
          round(f.value),
          round(f.before),
          f.count,
          round(means.get(f.id)),
        ]),
        ...view.splits.flatMap((split) =>
          split.rows.map((row) => [`by ${split.by}`, row.name, 'count', row.count, '', '', '']),
        ),
        ...view.inside
          .flatMap((inside) => inside.rows.map((row) => ({ ...inside, row })))
          .flatMap(({ kind: of, columns, row }) =>
            columns.map((c) => [
              `${of}: ${row.name}`,
              c.name,
              c.unit,
              round(row.values[c.id]),
              round(row.before[c.id]),
              row.counts[c.id] ?? 0,
              '',
            ]),
          ),
        ...used.map((u) => ['time used', u.use, 'seconds', round(u.seconds), '', '', '']),
      ],
    ),
  };
}

/** Two beside each other: their figures, and of people the reasons that sum to the difference. */
function twoCsv(host: Host, actor: Actor, input: unknown): CsvFile {
  const { one, other, figures, why, ...range } = viewTwo(host, actor, input);
  return {
    name: `review-${inName(one.name)}-beside-${inName(other.name)}-${rangeOf(range)}.csv`,
    text: writeTable(
      ['part', 'name', 'unit', one.name, other.name],
      [
        ...figures.map((f) => ['figure', f.one.name, f.one.unit, round(f.one.value), round(f.other.value)]),
        ...[...(why?.lines ?? []), ...(why?.rest ?? [])].flatMap((line) => [
          ['why they differ', line.words, 'contacts', round(line.mine.contacts), round(line.theirs.contacts)],
          ['why they differ', line.words, 'seconds', round(line.mine.seconds), round(line.theirs.seconds)],
        ]),
      ],
    ),
  };
}
