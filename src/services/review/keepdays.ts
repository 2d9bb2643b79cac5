import { plusDays } from '../../core/hours/dates';
import { localDate } from '../../core/hours/weekly';
import { daySpan } from '../../core/measures/calendar';
import { PARTS } from '../../core/measures/factparts';
import { firstContactAt } from '../../data/facts';
import { dropsOf, keepColumn, keepDay, keptDays, stillHolds } from '../../data/factdays';
import { unhurried } from '../../data/database';
import { readWorkspace } from '../../data/workspace';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import type { Reading } from '../readings';
import type { MadeDay } from './factdays';

/** Nobody asks: the house itself does. */
const NOBODY: Actor = { personId: '', name: '', roleId: '', roleName: '', rights: [], teams: [] };

/**
 * Keeps the days that are over as columns, the latest first, so that Review counts them in the blink of an eye. Each is
 * made in a thread of its own and written in one short change. What is missing, Review makes for itself.
 */
export function createDayKeeper(host: Host, reading: Reading) {
  /** The latest day that is over and not kept as it is now; null when there is none. */
  function nextDue(): { readonly from: number; readonly to: number } | null {
    const first = firstContactAt(host.db);
    if (first === null) return null;
    const zone = readWorkspace(host.db)?.zone ?? 'UTC';
    const now = host.times.floor();
    const kept = new Map(keptDays(host.db, first - 2 * 86_400_000, now).map((day) => [day.fromAt, day]));
    for (let date = plusDays(localDate(now, zone), -1); ; date = plusDays(date, -1)) {
      const { from, to } = daySpan(date, zone);
      if (to <= first) return null;
      const day = kept.get(from);
      if (!day || day.toAt !== to || !stillHolds(host.db, day)) return { from, to };
    }
  }
  function keep({ day, parts }: MadeDay): void {
    unhurried(host.db, () =>
      host.transact(({ db }) => {
        keepDay(db, day);
        for (const part of PARTS) for (const column of parts[part]) keepColumn(db, day.fromAt, part, column);
      }),
    );
  }
  return {
    /** Keeps one day; gives whether there is another to keep now. */
    keepOne: async (signal?: AbortSignal): Promise<boolean> => {
      const due = nextDue();
      if (!due) return false;
      const before = dropsOf(host.db);
      const made = await reading('fact-day', NOBODY, due, signal);
      signal?.throwIfAborted();
      // Something new has happened in a day that was over while this one was made: it is made again.
      if (dropsOf(host.db) === before) keep(made);
      return nextDue() !== null;
    },
  };
}
