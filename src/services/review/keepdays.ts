import { PARTS } from '../../core/measures/factparts';
import { unhurried } from '../../data/database';
import { dropsOf, keepColumn, keepDay } from '../../data/factdays';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import type { Reading } from '../readings';
import type { MadeDay } from './factdays';

/** Nobody asks: the house itself does. */
const NOBODY: Actor = { personId: '', name: '', roleId: '', roleName: '', rights: [], teams: [] };

/**
 * Keeps the days that are over as columns, the latest first, so that Review counts them in the blink of an eye. Each is
 * found and made in a thread of its own and written in one short change. What is missing, Review makes for itself.
 */
export function createDayKeeper(host: Host, reading: Reading) {
  function keep({ day, parts }: MadeDay): void {
    unhurried(host.db, () =>
      host.transact(({ db }) => {
        keepDay(db, day);
        for (const part of PARTS) for (const column of parts[part]) keepColumn(db, day.fromAt, part, column);
      }),
    );
  }
  return {
    /** Keeps one day; gives whether there may be another to keep now. */
    keepOne: async (signal?: AbortSignal): Promise<boolean> => {
      const before = dropsOf(host.db);
      const made = await reading('due-fact-day', NOBODY, null, signal);
      signal?.throwIfAborted();
      if (!made) return false;
      // Something new has happened in a day that was over while this one was made: it is made again.
      if (dropsOf(host.db) === before) keep(made);
      return true;
    },
  };
}
