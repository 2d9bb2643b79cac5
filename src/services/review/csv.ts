import { writeTable } from '../../core/formats/csv';
import { FIRST_FIGURES } from '../../core/measures/definitions';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf } from './asking';
import { eachRows, isKind, KINDS } from './each';
import { daysOf, figuresThrough, measuresOf } from './figures';

const round = (n: number | null | undefined) => (n === null || n === undefined ? '' : Math.round(n * 1000) / 1000);

/**
 * Figures of the range as CSV (RFC 4180), or of each thing of a kind where one is named; cells that a spreadsheet would run
 * are neutralised.
 */
export function reviewCsv(host: Host, actor: Actor, input: unknown): { name: string; text: string } {
  mustHold(actor, 'review.export');
  const asked = askedOf(host, actor, input);
  const days = daysOf(host, asked);
  const range = `${asked.now.from}-to-${asked.now.to}`;
  if (!isKind(asked.kind)) {
    const { figures } = figuresThrough(measuresOf(FIRST_FIGURES), days, asked);
    return {
      name: `review-${range}.csv`,
      text: writeTable(
        ['figure', 'name', 'unit', 'value', 'before', 'of'],
        figures.map((f) => [f.id, f.name, f.unit, round(f.value), round(f.before), f.count]),
      ),
    };
  }
  const { name, one, figures } = KINDS[asked.kind];
  const rows = eachRows(host, actor, asked, days, asked.kind);
  return {
    name: `review-${name.toLowerCase()}-${range}.csv`,
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
