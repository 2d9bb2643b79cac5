import Database from 'better-sqlite3';
import { type Db, rows } from './database';

/** Tables that hold what a workspace is set to, and nothing of what happened in it. */
export const SETTINGS_TABLES: readonly string[] = [
  'workspace',
  'settings_versions',
  'documents',
  'hours',
  'teams',
  'skills',
  'team_skills',
  'people',
  'team_supervisors',
  'own_levels',
  'reach_ways',
  'duty_profiles',
  'queues',
  'queue_versions',
  'bots',
  'bot_versions',
  'phrasebook_versions',
  'doors',
  'fields',
  'outcome_codes',
  'retired_things',
  'plans',
];

/**
 * The settings of a database in one of its own, in memory: what is changed there is changed nowhere else. Nothing has
 * happened in it. Close it when it is done with.
 */
export function settingsCopy(of: Db): Db {
  const copy = new Database(':memory:');
  const schema = rows<{ sql: string }>(
    of,
    `SELECT sql FROM sqlite_schema WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite_%'
        AND name NOT IN (SELECT name FROM pragma_table_list WHERE type = 'shadow')
      ORDER BY type = 'index', rowid`,
  );
  for (const { sql } of schema) copy.exec(sql);
  copy.pragma('foreign_keys = OFF');
  for (const table of SETTINGS_TABLES) {
    const all = of.prepare(`SELECT * FROM ${table}`).raw();
    const put = copy.prepare(
      `INSERT INTO ${table} VALUES (${all
        .columns()
        .map(() => '?')
        .join()})`,
    );
    copy.transaction(() => {
      for (const row of all.iterate()) put.run(row as never[]);
    })();
  }
  copy.pragma('foreign_keys = ON');
  return copy;
}
