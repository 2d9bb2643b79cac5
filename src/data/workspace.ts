import { type Db, insert, row, run } from './database';

/** Starts a new settings version: decisions name the version they were made under. */
export const newSettingsVersion = (db: Db, realAt: number, kind: string, thingId: string): number =>
  insert(db, 'INSERT INTO settings_versions (real_at, kind, thing_id) VALUES (?, ?, ?)', realAt, kind, thingId);

export const settingsVersion = (db: Db): number =>
  row<{ v: number }>(db, 'SELECT coalesce(max(version), 0) AS v FROM settings_versions')?.v ?? 0;
/** The version at which anything of these kinds was last changed. */
export const versionOf = (db: Db, kinds: readonly string[]): number =>
  row<{ v: number }>(
    db,
    'SELECT version AS v FROM settings_versions WHERE kind IN (SELECT value FROM json_each(?)) ORDER BY version DESC LIMIT 1',
    JSON.stringify(kinds),
  )?.v ?? 0;

export type Workspace = {
  readonly name: string;
  readonly zone: string;
  readonly languages: readonly string[];
  /** ISO 3166 alpha-2: how telephone numbers without a country code are read; empty for not at all. */
  readonly country: string;
};

export const readWorkspace = (db: Db): Workspace | undefined => {
  const found = row<{ name: string; zone: string; languages: string; country: string }>(
    db,
    'SELECT name, zone, languages, country FROM workspace WHERE id = 1',
  );
  return found && { ...found, languages: JSON.parse(found.languages) as string[] };
};

export const writeWorkspace = (db: Db, w: Workspace): void => {
  run(
    db,
    `INSERT INTO workspace (id, name, zone, languages, country) VALUES (1, ?1, ?2, ?3, ?4)
    ON CONFLICT (id) DO UPDATE SET name = ?1, zone = ?2, languages = ?3, country = ?4`,
    w.name,
    w.zone,
    JSON.stringify(w.languages),
    w.country,
  );
};
