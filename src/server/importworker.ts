import { parentPort, workerData } from 'node:worker_threads';
import { readTable, textOf, type Table } from '../core/formats/csv';
import { planImport, type ImportPlan, type ImportWorld, type Target } from '../core/people/importplan';

export type ImportTask =
  | { readonly kind: 'read'; readonly bytes: Uint8Array }
  | {
      readonly kind: 'plan';
      readonly rows: Table['rows'];
      readonly targets: readonly Target[];
      readonly world: ImportWorld;
    };
export type ImportWord =
  { readonly done: number } | { readonly table: Table } | { readonly plan: ImportPlan } | { readonly fault: string };

/** One task per worker: its result is the last thing it says. */
function work(task: ImportTask): ImportWord {
  try {
    if (task.kind === 'read') return { table: readTable(textOf(task.bytes)) };
    return {
      plan: planImport(task.rows, task.targets, task.world, (done) =>
        parentPort?.postMessage({ done } satisfies ImportWord),
      ),
    };
  } catch (error) {
    return { fault: error instanceof Error ? error.message : 'The file could not be read.' };
  }
}
parentPort?.postMessage(work(workerData as ImportTask));
