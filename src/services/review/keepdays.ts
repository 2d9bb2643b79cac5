import { PARTS } from '../../core/measures/factparts';
import type { Db } from '../../data/database';
import { dayKept, dropsOf, keepColumn, keepDay, keepRollUp } from '../../data/factdays';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { inTurns } from '../ground/turns';
import type { Reading } from '../readings';
import type { MadeDay } from './factdays';

/** Nobody asks: the house itself does. */
const NOBODY: Actor = { personId: '', name: '', roleId: '', roleName: '', rights: [], teams: [] };

/** Keeps a day whole, in one transaction of the caller's: where nobody is routed meanwhile. */
export function keepWhole(db: Db, { day, parts, rollUps }: MadeDay): void {
  keepDay(db, day);
  for (const part of PARTS) for (const column of parts[part]) keepColumn(db, day.fromAt, part, column);
  for (const [key, counted] of rollUps) keepRollUp(db, day.fromAt, key, counted);
  dayKept(db, day.fromAt);
}

/**
 * Keeps the days that are over as columns, the latest first, so that Review counts them in the blink of an eye. Each is
 * found and made in a thread of its own and written in short turns. What is missing, Review makes for itself.
 */
export function createDayKeeper(host: Host, reading: Reading) {
  /** In turns of the thread that routes: a busy day has some hundred KB. What a stop leaves half way is made again. */
  async function keep({ day, parts, rollUps }: MadeDay, signal: AbortSignal | undefined): Promise<void> {
    const { fromAt } = day;
    const pieces: ((db: Db) => void)[] = [
      ...PARTS.flatMap((part) => parts[part].map((column) => (db: Db) => keepColumn(db, fromAt, part, column))),
      ...rollUps.map(
        ([key, counted]) =>
          (db: Db) =>
            keepRollUp(db, fromAt, key, counted),
      ),
    ];
    host.transact((tx) => keepDay(tx.db, day));
    await inTurns(host, pieces, (tx, keepPiece) => keepPiece(tx.db), signal ? { signal } : {});
    host.transact((tx) => dayKept(tx.db, day.fromAt));
  }
  return {
    /** Keeps one day; gives whether there may be another to keep now. */
    keepOne: async (signal?: AbortSignal): Promise<boolean> => {
      const before = dropsOf(host.db);
      const made = await reading('due-fact-day', NOBODY, null, signal);
      signal?.throwIfAborted();
      if (!made) return false;
      // Something new has happened in a day that was over while this one was made: it is made again.
      if (dropsOf(host.db) === before) await keep(made, signal);
      return true;
    },
  };
}
