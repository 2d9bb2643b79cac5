import { row, run, type Db } from './database';

/** At real time `realAt` the floor's clock showed `floorAt`; since then it has run at `rate`. UTC ms. */
export type FloorTime = { readonly realAt: number; readonly floorAt: number; readonly rate: number };

export const readFloorTime = (db: Db): FloorTime | undefined =>
  row<FloorTime>(db, 'SELECT real_at AS realAt, floor_at AS floorAt, rate FROM floor_clock WHERE id = 1');

export const writeFloorTime = (db: Db, clock: FloorTime): void => {
  run(
    db,
    `INSERT INTO floor_clock (id, real_at, floor_at, rate) VALUES (1, ?1, ?2, ?3)
      ON CONFLICT (id) DO UPDATE SET real_at = ?1, floor_at = ?2, rate = ?3`,
    clock.realAt,
    clock.floorAt,
    clock.rate,
  );
};

export const floorNow = (clock: FloorTime, realNow: number): number =>
  Math.round(clock.floorAt + (realNow - clock.realAt) * clock.rate);
/** Real ms from now until the floor shows `floorAt`. */
export const realUntil = (clock: FloorTime, floorAt: number, realNow: number): number =>
  (floorAt - floorNow(clock, realNow)) / clock.rate;
/** The floor's instant of the newest event, or null when nothing has happened. */
export const lastFloorInstant = (db: Db): number | null =>
  row<{ at: number }>(db, 'SELECT floor_at AS at FROM events ORDER BY seq DESC LIMIT 1')?.at ?? null;
