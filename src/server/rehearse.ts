import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { LaneError } from '../core/errors';
import type { RunFigures } from '../core/rehearsal/record';
import { summarise } from '../core/rehearsal/result';
import { readScenario } from '../services/rehearsal/scenarioschema';
import type { RehearseWord } from './rehearseworker';

/**
 * `npm run rehearse -- scenario.json`: runs a scenario in worker threads, progress on standard error, the result as JSON on
 * standard output. `-` reads standard input. Ends with 2 when the scenario cannot be read.
 */
async function main(): Promise<void> {
  const file = process.argv[2];
  if (file === undefined) throw new LaneError('not-valid', 'Say which scenario: npm run rehearse -- scenario.json');
  let input: unknown;
  try {
    input = JSON.parse(readFileSync(file === '-' ? 0 : file, 'utf8'));
  } catch (error) {
    throw new LaneError(
      'not-valid',
      `${file} cannot be read: ${error instanceof Error ? error.message : 'unreadable'}`,
    );
  }
  const scenario = readScenario(input);
  const runs: (RunFigures | undefined)[] = Array.from({ length: scenario.runs });
  const shares = new Map<number, number>();
  let next = 0;
  let told = '';
  const tell = () => {
    const done = runs.filter((r) => r !== undefined).length;
    const share = (done + [...shares].reduce((sum, [run, s]) => sum + (runs[run] ? 0 : s), 0)) / scenario.runs;
    const line = `rehearsing ${scenario.name}: ${Math.floor(share * 100)}% of ${scenario.runs} runs`;
    if (line !== told)
      process.stderr.write(`${process.stderr.isTTY ? '\r' : ''}${line}${process.stderr.isTTY ? '' : '\n'}`);
    told = line;
  };
  await Promise.all(
    Array.from(
      { length: Math.min(availableParallelism(), scenario.runs) },
      () =>
        new Promise<void>((resolve, reject) => {
          const worker = new Worker(join(import.meta.dirname, 'rehearseworker.mjs'), { workerData: scenario });
          const give = () => {
            if (next >= scenario.runs) {
              void worker.terminate();
              resolve();
            } else worker.postMessage(next++);
          };
          worker.on('message', (word: RehearseWord) => {
            if ('figures' in word) {
              runs[word.run] = word.figures;
              give();
            } else shares.set(word.run, word.share);
            tell();
          });
          worker.once('error', reject);
          give();
        }),
    ),
  );
  if (process.stderr.isTTY) process.stderr.write('\n');
  process.stdout.write(
    `${JSON.stringify(
      summarise(
        scenario,
        runs.filter((r) => r !== undefined),
      ),
      null,
      2,
    )}\n`,
  );
}

main().catch((error: unknown) => {
  console.error(
    error instanceof LaneError
      ? [error.message, ...error.faults.map((f) => `  ${f.where}: ${f.what}`)].join('\n')
      : error,
  );
  process.exit(error instanceof LaneError ? 2 : 1);
});
