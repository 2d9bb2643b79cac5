import { readFileSync, writeFileSync } from 'node:fs';
import { type Db } from '../data/database';
import { markFile } from '../data/databasefile';
import { lastSeq } from '../data/events';

/** How often the mark is set, real ms. */
const EVERY_MS = 1000;

/**
 * A mark beside the database of how far its log had come: so that a database that has lost what was kept (a cut
 * write-ahead log, an older copy put in its place) is noticed and said. Gives the sentence for what was found, or null,
 * and a function that stops setting it. What cannot be marked is no reason to stop: `onFault` hears of it once.
 */
export function keepMark(
  folder: string,
  db: Db,
  onFault: (error: unknown) => void,
): { readonly found: string | null; readonly stop: () => void } {
  const file = markFile(folder);
  const before = readMark(file);
  let marked = lastSeq(db);
  let failing = false;
  const found =
    before !== null && before > marked
      ? `The database in ${folder} ends at event ${marked}, but had come to ${before}: its write-ahead log was cut, or an ` +
        `older copy was put in its place. What happened in between is not there any more.`
      : null;
  /** Never throws: a mark that cannot be set only falls short. */
  const set = (first = false) => {
    try {
      if (!db.open) return;
      const now = lastSeq(db);
      if (now === marked && !first) return;
      marked = now;
      writeFileSync(file, String(marked), { mode: 0o600 });
      failing = false;
    } catch (error) {
      if (!failing) onFault(error);
      failing = true;
    }
  };
  set(true);
  const timer = setInterval(() => set(), EVERY_MS);
  timer.unref();
  return {
    found,
    stop: () => {
      clearInterval(timer);
      set();
    },
  };
}

function readMark(file: string): number | null {
  try {
    const mark = Number(readFileSync(file, 'utf8'));
    return Number.isSafeInteger(mark) ? mark : null;
  } catch {
    return null;
  }
}
