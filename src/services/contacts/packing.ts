import { contactsAfter, packContact } from '../../data/packed';
import { forgetTrailPeople, numberedTrail, storedTrail } from '../../data/trails';
import type { Host } from '../ground/host';
import { inTurns } from '../ground/turns';

/** Contacts are packed when they have been over for as long as this, floor ms: until then they are often looked at. */
export const PACKED_AFTER_MS = 14 * 86_400_000;
/** Contacts looked at in one go: a few ms of the main thread. */
const MOST = 200;

/**
 * Packs contacts that have been over for a while, oldest first. What was passed by, since something of it was still open, is
 * looked at again once everything has been.
 */
export function createPacking(host: Host) {
  let from = 0;
  /** One whose rows cannot be read is reported and left as it is; the others go on. */
  function packOne(no: number): void {
    try {
      host.transact((tx) => {
        tx.ifUndone(() => forgetTrailPeople(tx.db));
        packContact(tx.db, no, (kept) => numberedTrail(tx.db, storedTrail(tx.db, kept)));
      });
    } catch (error) {
      host.fault(error);
    }
  }
  return {
    /** Goes on where it was, in turns of the main thread; gives whether there is more to look at now. */
    pack: async (signal?: AbortSignal): Promise<boolean> => {
      const before = host.times.floor() - PACKED_AFTER_MS;
      const seen = contactsAfter(host.db, from, MOST);
      const due = seen.filter((c) => !c.packed && c.overAt !== null && c.overAt < before);
      await inTurns(host, due, (_tx, { no }) => packOne(no), signal ? { signal } : {});
      const [last] = seen.slice(-1);
      const more = seen.length === MOST && last !== undefined && last.startedAt < before;
      from = more ? last.no : 0;
      return more;
    },
  };
}
