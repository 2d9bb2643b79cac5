import { availableParallelism } from 'node:os';
import { pool } from 'workerpool';
import type { Meaning } from '../core/bots/program';
import { LaneError } from '../core/errors';
import { type Heavy, type HeavyOutcome, resultOf } from '../core/heavy';
import type { Hearing } from '../services/bots/understanding';
import type { Ahead, AheadLine } from '../services/drafts/plans';
import type { Times } from '../services/ground/host';
import type { Reading, ReadingResult } from '../services/readings';
import type { Asked, AskedAhead, ReadOutcome } from './heavyworker';

/** How long a task may take, real ms, and how much memory its thread may hold. */
const MOST_MS = 120_000;
const MOST_MB = 512;

/** Tasks that may wait for a thread; more are refused rather than piled up. */
const MOST_WAITING = 50;

/**
 * One pool of threads for everything heavy, one fewer than there are cores. A task that is stopped, takes too long or
 * runs out of memory costs its own thread and nothing else. `file` is the bundled worker; its threads read `database`.
 */
export function createHeavyPool(
  file: string,
  database: string,
  times: Times,
): {
  readonly heavy: Heavy;
  readonly reading: Reading;
  readonly ahead: Ahead;
  readonly hearing: Hearing;
  readonly close: () => void;
} {
  const threads = pool(file, {
    workerType: 'thread',
    minWorkers: 0,
    maxWorkers: Math.max(1, availableParallelism() - 1),
    maxQueueSize: MOST_WAITING,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MOST_MB }, workerData: { database } },
  });
  async function run(
    what: 'run' | 'read' | 'ahead',
    given: readonly unknown[],
    { signal, progress }: { readonly signal?: AbortSignal; readonly progress?: (done: number) => void },
  ): Promise<unknown> {
    signal?.throwIfAborted();
    const running = threads.exec(what, [...given], {
      on: (word: { readonly done: number }) => progress?.(word.done),
    });
    const stop = () => void running.cancel();
    signal?.addEventListener('abort', stop, { once: true });
    try {
      return await running.timeout(MOST_MS);
    } catch (error) {
      throw signal?.aborted ? new NotDone('It was cancelled.') : inWords(error);
    } finally {
      signal?.removeEventListener('abort', stop);
    }
  }
  const heavy: Heavy = async (task, given, more = {}) =>
    resultOf((await run('run', [task, given], more)) as HeavyOutcome<typeof task>);
  /** Reads in a thread of its own; rejects with what it was refused with. */
  async function read<T>(what: 'read' | 'ahead', given: Asked | AskedAhead, signal?: AbortSignal): Promise<T> {
    const outcome = (await run(what, [given], signal ? { signal } : {}).catch((error: unknown) => {
      throw error instanceof NotDone ? new LaneError('not-now', error.message) : error;
    })) as ReadOutcome<T>;
    if ('result' in outcome) return outcome.result;
    const { code, message, faults } = outcome.refused;
    throw new LaneError(code, message, faults);
  }
  const now = () => ({ realAt: times.real(), floorAt: times.floor() });
  const reading: Reading = (name, actor, asked, signal) =>
    read<ReadingResult<typeof name>>('read', { name, actor, asked, ...now() }, signal);
  const ahead: Ahead = (actor, tried) => read<readonly AheadLine[]>('ahead', { actor, tried, ...now() });
  // Customers wait for what is heard: one thread is theirs, which loads what it needs with the first words.
  const ears = pool(file, {
    workerType: 'thread',
    minWorkers: 0,
    maxWorkers: 1,
    maxQueueSize: MOST_WAITING,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MOST_MB }, workerData: { database, hears: true } },
  });
  const hearing: Hearing = {
    now: () => null,
    // Words and pieces alone decide where the whole of it takes too long: that must not wait behind it. Nothing is
    // stopped for being late: what is loaded by then is there for the next words.
    ask: async (heard, quick = false) => (await (quick ? threads : ears).exec('hear', [heard, quick])) as Meaning,
  };
  const close = (): void => {
    void threads.terminate(true);
    void ears.terminate(true);
  };
  return { heavy, reading, ahead, hearing, close };
}

/** A task that was not brought to its end, in a sentence. */
class NotDone extends Error {}

function inWords(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  if (error.name === 'TimeoutError') return new NotDone(`It took longer than ${MOST_MS / 1000} s and was stopped.`);
  if (/memory/i.test(error.message)) return new NotDone('It needed more memory than there is and was stopped.');
  if (/^Max queue size/.test(error.message)) return new NotDone('Too much is being worked on. Try again in a moment.');
  return error;
}
