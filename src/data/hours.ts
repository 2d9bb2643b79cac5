import type { DatedDay, Hours, WeeklyInterval } from '../core/hours/weekly';
import { type Db, rows, run } from './database';
import { eachReadable, listIn } from './readable';

export type HoursRecord = Hours & { readonly revision: number };

const hoursFrom = (r: {
  id: string;
  name: string;
  zone: string;
  weekly: string;
  exceptions: string;
  revision: number;
}): HoursRecord => ({
  ...r,
  weekly: listIn(r.weekly) as WeeklyInterval[],
  exceptions: listIn(r.exceptions) as DatedDay[],
});

export const readAllHours = (db: Db): HoursRecord[] =>
  eachReadable(
    db,
    'hours',
    rows<Parameters<typeof hoursFrom>[0]>(
      db,
      'SELECT id, name, zone, weekly, exceptions, revision FROM hours ORDER BY name',
    ),
    hoursFrom,
  );

export const writeHours = (db: Db, h: Hours): void => {
  run(
    db,
    `INSERT INTO hours (id, name, zone, weekly, exceptions, revision) VALUES (?1, ?2, ?3, ?4, ?5, 1)
      ON CONFLICT (id) DO UPDATE
      SET name = ?2, zone = ?3, weekly = ?4, exceptions = ?5, revision = revision + 1`,
    h.id,
    h.name,
    h.zone,
    JSON.stringify(h.weekly),
    JSON.stringify(h.exceptions),
  );
};

export const dropHours = (db: Db, id: string): void => {
  run(db, 'DELETE FROM hours WHERE id = ?', id);
};
