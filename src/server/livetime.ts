import {
  lastFloorInstant,
  floorNow,
  readFloorTime,
  realUntil,
  writeFloorTime,
  type FloorTime,
} from '../data/floortime';
import type { Db } from '../data/database';
import type { Times } from '../services/ground/host';

/** The clocks of a running server. */
export type LiveTime = Times & {
  /** How fast the floor's clock runs. */
  readonly rate: () => number;
  /** Real ms until the floor's clock shows an instant. */
  readonly untilFloor: (floorAt: number) => number;
  readonly jumpTo: (floorAt: number) => void;
};

/**
 * The live clocks. `waitsWhileStopped` is for a simulated day, which goes on where it stood when the server stopped;
 * a real floor's clock runs on.
 */
export function startTime(db: Db, options: { waitsWhileStopped: boolean }): LiveTime {
  const real = () => Date.now();
  let clock: FloorTime = readFloorTime(db) ?? { realAt: real(), floorAt: real(), rate: 1 };
  if (options.waitsWhileStopped)
    clock = { ...clock, realAt: real(), floorAt: Math.max(clock.floorAt, lastFloorInstant(db) ?? 0) };
  writeFloorTime(db, clock);
  return {
    real,
    floor: () => floorNow(clock, real()),
    rate: () => clock.rate,
    untilFloor: (floorAt) => realUntil(clock, floorAt, real()),
    jumpTo: (floorAt) => {
      clock = { ...clock, realAt: real(), floorAt: Math.max(floorAt, floorNow(clock, real())) };
      writeFloorTime(db, clock);
    },
  };
}
