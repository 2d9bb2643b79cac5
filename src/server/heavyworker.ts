import { setPriority } from 'node:os';
import { workerData } from 'node:worker_threads';
import { worker, workerEmit } from 'workerpool';
import type { Heard, Meaning } from '../core/bots/program';
import { describeError, type ErrorBody } from '../core/errors';
import { type HeavyGiven, type HeavyTask, runHeavy } from '../core/heavy';
import { type Db, inTransaction } from '../data/database';
import { openReader } from '../data/databasefile';
import { UNDERSTANDING } from '../data/meaning';
import { createUnderstanding } from '../services/bots/understanding';
import type { Plan } from '../data/plans';
import { lookAhead } from '../services/drafts/ahead';
import type { AheadLine } from '../services/drafts/plans';
import type { Actor } from '../services/ground/actor';
import { readingHost } from '../services/ground/host';
import { readHere, type ReadingName, type ReadingResult } from '../services/readings';

/** Who asks, and the instants at which they do. */
type Asking = { readonly actor: Actor; readonly realAt: number; readonly floorAt: number };
export type Asked = Asking & { readonly name: ReadingName; readonly asked: unknown };
export type AskedAhead = Asking & { readonly tried: Plan | null };
export type ReadOutcome<T> = { readonly result: T } | { readonly refused: ErrorBody['error'] };

/** As a niceness: a third of a core where others want it too, so that nobody waits for ever on a busy machine. */
const BEHIND = 5;
// The thread that routes goes first wherever both want the same core, and so does the one that hears: customers wait for
// it. Only Linux has a priority for each thread.
if (process.platform === 'linux' && !(workerData as { readonly hears?: boolean }).hears) setPriority(BEHIND);

let reader: Db | null = null;
const readerHere = (): Db => (reader ??= openReader((workerData as { readonly database: string }).database));
const hostAt = ({ realAt, floorAt }: Asking) => readingHost(readerHere(), { real: () => realAt, floor: () => floorAt });
function told<T>(read: () => T): ReadOutcome<T> {
  try {
    return { result: read() };
  } catch (error) {
    const { status, body } = describeError(error);
    if (status >= 500) throw error;
    return { refused: body.error };
  }
}

const understand = createUnderstanding(readerHere);

/** One of the pool's threads: it runs the tasks of `core/heavy`, and reads by a connection of its own. */
worker({
  run: <K extends HeavyTask>(task: K, given: HeavyGiven<K>) =>
    runHeavy(task, given, (done) => workerEmit({ done }), UNDERSTANDING),
  hear: (heard: Heard, quick: boolean): Meaning => understand(heard, quick),
  read: ({ name, asked, ...asking }: Asked): ReadOutcome<ReadingResult<ReadingName>> =>
    // All of it is read as it was at one moment, whatever is kept or forgotten meanwhile.
    told(() => inTransaction(readerHere(), () => readHere(hostAt(asking), name, asking.actor, asked))),
  ahead: ({ tried, ...asking }: AskedAhead): ReadOutcome<readonly AheadLine[]> =>
    told(() => {
      const { db, times } = hostAt(asking);
      return inTransaction(db, () => lookAhead(db, times, asking.actor, tried));
    }),
});
