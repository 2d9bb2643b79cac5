import { readTable, textOf } from '../../core/formats/csv';
import { planImport } from '../../core/people/importplan';
import type { ImportRunner } from './importjobs';

/** Runs imports in this thread: for tests and small tools. The server gives a worker instead. */
export const importHere: ImportRunner = {
  read: async (bytes) => readTable(textOf(bytes)),
  plan: async (rows, targets, world, progress, signal) =>
    planImport(rows, targets, world, (done) => {
      signal.throwIfAborted();
      progress(done);
    }),
};
