import { availableParallelism } from 'node:os';
import { pool } from 'workerpool';
import { type Heavy, type HeavyOutcome, resultOf } from '../core/heavy';

/** How long a task may take, real ms, and how much memory its thread may hold. */
const MOST_MS = 120_000;
const MOST_MB = 512;

/** Tasks that may wait for a thread; more are refused rather than piled up. */
const MOST_WAITING = 50;

/**
 * One pool of threads for everything heavy, one fewer than there are cores. A task that is stopped, takes too long or
 * runs out of memory costs its own thread and nothing else. `file` is the bundled worker.
 */
export function createHeavyPool(file: string): { readonly heavy: Heavy; readonly close: () => void } {
  const threads = pool(file, {
    workerType: 'thread',
    minWorkers: 0,
    maxWorkers: Math.max(1, availableParallelism() - 1),
    maxQueueSize: MOST_WAITING,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MOST_MB } },
  });
  const heavy: Heavy = async (task, given, { signal, progress } = {}) => {
    signal?.throwIfAborted();
    const running = threads.exec('run', [task, given], {
      on: (word: { readonly done: number }) => progress?.(word.done),
    });
    const stop = () => void running.cancel();
    signal?.addEventListener('abort', stop, { once: true });
    try {
      return resultOf((await running.timeout(MOST_MS)) as HeavyOutcome<typeof task>);
    } catch (error) {
      throw signal?.aborted ? new Error('It was cancelled.') : inWords(error);
    } finally {
      signal?.removeEventListener('abort', stop);
    }
  };
  return { heavy, close: () => void threads.terminate(true) };
}

function inWords(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  if (error.name === 'TimeoutError') return new Error(`It took longer than ${MOST_MS / 1000} s and was stopped.`);
  if (/memory/i.test(error.message)) return new Error('It needed more memory than there is and was stopped.');
  if (/^Max queue size/.test(error.message)) return new Error('Too much is being worked on. Try again in a moment.');
  return error;
}
