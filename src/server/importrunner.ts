import { Worker } from 'node:worker_threads';
import type { ImportRunner } from '../services/people/importjobs';
import type { ImportTask, ImportWord } from './importworker';

/** Runs imports in worker threads, one per task; a stopped task's thread is ended. `file` is the bundled worker. */
export function createImportRunner(file: string): ImportRunner {
  const run = <T>(
    task: ImportTask,
    signal: AbortSignal,
    take: (word: ImportWord, done: (value: T) => void) => void,
  ): Promise<T> =>
    new Promise((resolve, reject) => {
      const worker = new Worker(file, { workerData: task });
      const stop = () => {
        void worker.terminate();
        reject(new Error('The import was cancelled.'));
      };
      signal.addEventListener('abort', stop, { once: true });
      worker.on('message', (word: ImportWord) =>
        'fault' in word ? reject(new Error(word.fault)) : take(word, resolve),
      );
      worker.once('error', reject);
      worker.once('exit', () => signal.removeEventListener('abort', stop));
    });
  return {
    read: (bytes, signal) =>
      run({ kind: 'read', bytes }, signal, (word, done) => {
        if ('table' in word) done(word.table);
      }),
    plan: (rows, targets, world, progress, signal) =>
      run({ kind: 'plan', rows, targets, world }, signal, (word, done) => {
        if ('done' in word) progress(word.done);
        else if ('plan' in word) done(word.plan);
      }),
  };
}
