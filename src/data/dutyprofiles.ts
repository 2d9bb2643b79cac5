import type { DutyProfile, OwnRow } from '../core/people/duty';
import { type Db, row, rows, run } from './database';
import { documents } from './documents';
import { keptIn, keptText } from './kept';
import { eachReadable, readable } from './readable';

export type DutyProfileRecord = DutyProfile & { readonly revision: number };

const profileFrom = (r: { id: string; name: string; body: string; revision: number }): DutyProfileRecord => ({
  ...(keptIn('duty-profile', r.body) as Omit<DutyProfile, 'id' | 'name'>),
  id: r.id,
  name: r.name,
  revision: r.revision,
});

export const readProfiles = (db: Db): DutyProfileRecord[] =>
  eachReadable(
    db,
    'duty profile',
    rows<Parameters<typeof profileFrom>[0]>(db, 'SELECT id, name, body, revision FROM duty_profiles ORDER BY name'),
    profileFrom,
  );

export const readProfile = (db: Db, id: string): DutyProfileRecord | undefined => {
  const found = row<Parameters<typeof profileFrom>[0]>(
    db,
    'SELECT id, name, body, revision FROM duty_profiles WHERE id = ?',
    id,
  );
  return found && readable(db, 'duty profile', found, profileFrom);
};

export const writeProfile = (db: Db, { id, name, ...body }: DutyProfile): void => {
  run(
    db,
    `INSERT INTO duty_profiles (id, name, body, revision) VALUES (?1, ?2, ?3, 1)
      ON CONFLICT (id) DO UPDATE SET name = ?2, body = ?3, revision = revision + 1`,
    id,
    name,
    keptText('duty-profile', body),
  );
};

export const removeProfile = (db: Db, id: string): void => {
  run(db, 'DELETE FROM duty_profiles WHERE id = ?', id);
};

/** Rows of one person's own, kept under their id; they stand in place of those of the profile they are on. */
export const PERSON_ROWS = documents<{ readonly rows: readonly OwnRow[] }>('person-rows');
