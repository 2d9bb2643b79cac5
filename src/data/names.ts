import { type Db, row } from './database';
import { readRole } from './roles';

/** Everything that settings refer to by an id and people know by a name; of documents, these kinds. */
const TABLES = ['people', 'teams', 'skills', 'duty_profiles', 'queues', 'doors', 'bots', 'hours'];
const DOCUMENTS = ['skill-set', 'site', 'role', 'group', 'partner'];
const NAME = [
  ...TABLES.map((table) => `SELECT name FROM ${table} WHERE id = ?1`),
  ...DOCUMENTS.map((kind) => `SELECT name FROM documents WHERE kind = '${kind}' AND id = ?1`),
  'SELECT name FROM retired_things WHERE id = ?1',
].join(' UNION ALL ');

/** What the thing of this id is or was called: retired ones keep their names; undefined when there is none. */
export const nameOf = (db: Db, id: string): string | undefined =>
  row<{ name: string }>(db, `${NAME} LIMIT 1`, id)?.name ?? readRole(db, id)?.name;
