import { parentPort, workerData } from 'node:worker_threads';
import type { RunFigures } from '../core/rehearsal/record';
import { runOnce } from '../core/rehearsal/run';
import type { Scenario } from '../core/rehearsal/scenario';

/** What a worker says: how far a run is, and its figures once it is done. */
export type RehearseWord =
  { readonly run: number; readonly share: number } | { readonly run: number; readonly figures: RunFigures };

parentPort?.on('message', (run: number) => {
  const say = (word: RehearseWord) => parentPort?.postMessage(word);
  say({ run, figures: runOnce(workerData as Scenario, run, { progress: (share) => say({ run, share }) }) });
});
