import { type Db, row, run } from './database';

/** That a turn was in front of its person; instants are floor ms, and real ms beside them. */
export type FrontRow = {
  readonly legId: string;
  readonly from: number;
  readonly to: number;
  readonly realFrom: number;
  readonly realTo: number;
};
export const writeFront = (db: Db, f: FrontRow): void =>
  void run(
    db,
    'INSERT INTO leg_fronts (leg_id, from_at, to_at, real_from, real_to) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
    f.legId,
    f.from,
    f.to,
    f.realFrom,
    f.realTo,
  );
/** How long a turn has been in front so far, floor ms; null where no Desk has said that it was. */
export const frontOf = (db: Db, legId: string): number | null =>
  row<{ ms: number | null }>(db, 'SELECT sum(to_at - from_at) AS ms FROM leg_fronts WHERE leg_id = ?', legId)?.ms ??
  null;
