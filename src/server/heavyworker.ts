import { constants, setPriority } from 'node:os';
import { workerData } from 'node:worker_threads';
import { worker, workerEmit } from 'workerpool';
import { describeError, type ErrorBody } from '../core/errors';
import { type HeavyGiven, type HeavyTask, runHeavy } from '../core/heavy';
import { type Db, inTransaction } from '../data/database';
import { openReader } from '../data/databasefile';
import type { Actor } from '../services/ground/actor';
import { readingHost } from '../services/ground/host';
import { readHere, type ReadingName, type ReadingResult } from '../services/readings';

/** What a reading is asked, and the instants at which it was. */
export type Asked = {
  readonly name: ReadingName;
  readonly actor: Actor;
  readonly asked: unknown;
  readonly realAt: number;
  readonly floorAt: number;
};
export type ReadOutcome = { readonly result: ReadingResult<ReadingName> } | { readonly refused: ErrorBody['error'] };

// The thread that routes goes first wherever both want the same core. Only Linux has a priority for each thread.
if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

let reader: Db | null = null;

/** One of the pool's threads: it runs the tasks of `core/heavy`, and reads by a connection of its own. */
worker({
  run: <K extends HeavyTask>(task: K, given: HeavyGiven<K>) => runHeavy(task, given, (done) => workerEmit({ done })),
  read: ({ name, actor, asked, realAt, floorAt }: Asked): ReadOutcome => {
    reader ??= openReader((workerData as { readonly database: string }).database);
    const db = reader;
    const host = readingHost(db, { real: () => realAt, floor: () => floorAt });
    try {
      // All of it is read as it was at one moment, whatever is kept or forgotten meanwhile.
      return { result: inTransaction(db, () => readHere(host, name, actor, asked)) };
    } catch (error) {
      const { status, body } = describeError(error);
      if (status >= 500) throw error;
      return { refused: body.error };
    }
  },
});
