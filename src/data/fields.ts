import type { FieldType } from '../core/fieldvalue';
import { type Db, rows, run } from './database';
import { historyValue, keptIn, keptText } from './kept';
import { eachReadable } from './readable';

/** Who fills a field. */
export const FILLERS = ['bot', 'look-up', 'agent'] as const;

export type Filler = (typeof FILLERS)[number];

/**
 * A value defined once for the whole workspace, which bots pass on, the Desk shows and reports count. Private ones
 * are kept apart.
 */
export type Field = {
  readonly id: string;
  readonly name: string;
  readonly label: string;
  readonly private: boolean;
  readonly type: FieldType;
  readonly filledBy: readonly Filler[];
  readonly reported: boolean;
};

export const FIELD_DEFAULTS = { type: 'text', filledBy: ['bot'], reported: true } as const;

type FieldRow = {
  id: string;
  name: string;
  label: string;
  private: number;
  body: string;
  place: number;
  revision: number;
};

export type FieldRecord = Field & { readonly place: number; readonly revision: number };

export const readFields = (db: Db): FieldRecord[] =>
  eachReadable(
    db,
    'field',
    rows<FieldRow>(db, 'SELECT id, name, label, private, body, place, revision FROM fields ORDER BY place'),
    ({ body, ...f }) => ({
      ...(keptIn('field', body) as Pick<Field, 'type' | 'filledBy' | 'reported'>),
      ...f,
      private: f.private === 1,
    }),
  );

/** The same with those that are retired, last: what contacts had in them keeps its label. */
export function readFieldsEver(db: Db): Field[] {
  const here = readFields(db);
  const gone = rows<{ value: string }>(db, "SELECT value FROM retired_things WHERE kind = 'field' ORDER BY real_at");
  const retired = gone.map(({ value }) => historyValue('field', value) as Field);
  return [...here, ...retired.filter((f) => !here.some((h) => h.id === f.id || h.name === f.name))];
}

export const writeField = (db: Db, { id, name, label, private: hidden, ...body }: Field, place: number): void => {
  run(
    db,
    `INSERT INTO fields (id, name, label, private, place, body, revision)
      VALUES (?1, ?2, ?3, ?4, ?5, ?6, 1) ON CONFLICT (id) DO UPDATE
      SET name = ?2, label = ?3, private = ?4, body = ?6, revision = revision + 1`,
    id,
    name,
    label,
    hidden ? 1 : 0,
    place,
    keptText('field', body),
  );
};

export const dropField = (db: Db, id: string): void => {
  run(db, 'DELETE FROM fields WHERE id = ?', id);
};
