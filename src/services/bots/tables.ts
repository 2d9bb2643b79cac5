import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { writeTable } from '../../core/formats/csv';
import { TABLES } from '../../data/connectors';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { refusal } from '../ground/refusal';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type BotPartsDeps, head, part, save } from './keepparts';

const tableSchema = exactly(
  object({
    ...head,
    columns: array(part('A column')).min(1, 'A table has a column').max(20, 'At most 20 columns').required(),
    rows: array(array(string().max(500, 'A cell may have at most 500 characters').defined()).required())
      .max(2000, 'At most 2000 rows')
      .required(),
  }),
);

const csvSchema = exactly(
  object({ text: string().max(900_000, 'The file is larger than 900 KB').required('The file is empty') }),
);

export function saveTable(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, ...body } = parse(tableSchema, input);
  if (new Set(body.columns.map((c) => c.toLowerCase())).size < body.columns.length)
    throw new LaneError('not-valid', 'Two columns have the same name.', [
      { where: 'columns', what: 'must have different names' },
    ]);
  const ragged = body.rows.findIndex((r) => r.length !== body.columns.length);
  if (ragged >= 0)
    throw new LaneError(
      'not-valid',
      `Row ${ragged + 2} has ${body.rows[ragged]?.length ?? 0} cells instead of ${body.columns.length}.`,
      [{ where: `rows[${ragged}]`, what: 'has the wrong length' }],
    );
  return save(deps, actor, 'table', TABLES, { id: thingId, revision, name }, body);
}

/** Reads a CSV file as a table, without keeping it: its columns and rows, to be looked at first. */
export async function readTableFile(
  { heavy }: BotPartsDeps,
  actor: Actor,
  input: unknown,
): Promise<{ columns: readonly string[]; rows: readonly (readonly string[])[] }> {
  mustHoldEverywhere(actor, 'bots.change');
  const { header, rows } = await heavy('table', parse(csvSchema, input).text).catch(refusal);
  const wide = rows.find((r) => r.cells.slice(header.length).some(Boolean));
  if (wide)
    throw new LaneError('not-valid', `Row ${wide.row} has more cells than the header.`, [
      { where: `row ${wide.row}`, what: 'is too long' },
    ]);
  return { columns: header, rows: rows.map((r) => header.map((_, i) => r.cells[i] ?? '')) };
}

export function tableCsv({ host }: BotPartsDeps, actor: Actor, thingId: string): { name: string; text: string } {
  mustHold(actor, 'settings.view');
  const table = TABLES.one(host.db, thingId);
  if (!table) throw new LaneError('not-found', 'This table is not there any more.');
  return { name: `${table.name}.csv`, text: writeTable(table.columns, table.rows) };
}
