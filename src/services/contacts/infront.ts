import { afterReport, afterSilence, type DeskReport, type Front, type InFront } from '../../core/contact/infront';
import { readLeg } from '../../data/legs';
import { frontOf } from '../../data/fronts';
import type { Host } from '../ground/host';

/** Spells that wait to be written at most: where nothing can be written for long, the oldest are given up. */
const MOST_WAITING = 10_000;

/**
 * What is in front of each person, as their Desks report it. Kept in memory: what is over is written with the next tick, in
 * one transaction for everybody; what goes on when the process dies is lost, and nothing else.
 */
export type InFrontNow = ReturnType<typeof createInFront>;
export function createInFront(host: Host) {
  const now = new Map<string, InFront>();
  let waiting: Front[] = [];
  const at = () => ({ real: host.times.real(), floor: host.times.floor() });

  function take(personId: string, step: { readonly now: InFront | null; readonly ended: Front | null }): void {
    if (step.now) now.set(personId, step.now);
    else now.delete(personId);
    if (step.ended) waiting.push(step.ended);
    if (waiting.length > MOST_WAITING) waiting = waiting.slice(-MOST_WAITING);
  }
  /** Writes what is over: each spell as far as its turn went. */
  function write(): void {
    if (waiting.length === 0) return;
    const some = waiting;
    host.transact((tx) => {
      for (const { legId, from, to } of some) {
        const leg = readLeg(tx.db, legId);
        const until = Math.min(to.floor, leg?.endedAt ?? to.floor);
        if (!leg || until <= from.floor) continue;
        tx.emit({
          type: 'leg.front',
          contactId: leg.contactId,
          legId,
          personId: leg.personId,
          from: from.floor,
          to: until,
          realFrom: from.real,
          realTo: to.real,
        });
      }
    });
    waiting = waiting.slice(some.length);
  }

  return {
    /** A window of somebody's Desk says what is in front of them. */
    report: (personId: string, said: Omit<DeskReport, 'at'>): void =>
      take(personId, afterReport(now.get(personId) ?? null, { ...said, at: at() })),

    /** How long a turn has been in front until now, floor seconds; null where no Desk has ever said that it was. */
    secondsOf(personId: string, legId: string): number | null {
      const until = host.times.floor();
      const current = now.get(personId);
      const unwritten = [
        ...waiting.filter((front) => front.legId === legId).map((front) => front.to.floor - front.from.floor),
        ...(current?.legId === legId ? [until - current.since.floor] : []),
      ];
      const written = frontOf(host.db, legId);
      if (written === null && unwritten.length === 0) return null;
      return unwritten.reduce((n, ms) => n + ms, written ?? 0) / 1000;
    },

    /** Once a second: what nobody has spoken of for long is over, and what is over is written. */
    tick(): void {
      for (const [personId, one] of now) take(personId, afterSilence(one, at()));
      write();
    },
    /** The process is about to stop: whatever is in front is over, and written. */
    close(): void {
      for (const [personId, { window }] of now)
        take(
          personId,
          afterReport(now.get(personId) ?? null, { window, legId: null, seen: false, focused: false, at: at() }),
        );
      write();
    },
  };
}
