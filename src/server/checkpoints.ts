import { Worker } from 'node:worker_threads';

/**
 * Empties the write-ahead log into the database in a thread of its own, so that no commit does it on the thread that
 * routes. `file` is the bundled worker, `database` the database's file. Gives a function that stops it. Without the
 * worker the log is emptied by a commit once it is large.
 */
export function startCheckpoints(
  file: string,
  database: string,
  onFault: (error: unknown) => void,
): { readonly stop: () => void; readonly empty: () => void } {
  const worker = new Worker(file, { workerData: database, resourceLimits: { maxOldGenerationSizeMb: 64 } });
  worker.on('error', onFault);
  worker.unref();
  return { stop: () => worker.postMessage('stop'), empty: () => worker.postMessage('empty') };
}
