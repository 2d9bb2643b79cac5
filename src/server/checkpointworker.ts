import { parentPort, workerData } from 'node:worker_threads';
import { openForCheckpoints } from '../data/databasefile';

/** How often the write-ahead log is looked at, real ms. */
const EVERY_MS = 500;

const log = openForCheckpoints(String(workerData));
/** Whether the log is to be cut to nothing. */
let toCut = false;
const timer = setInterval(() => {
  log.checkpoint();
  if (toCut) toCut = !log.cut();
}, EVERY_MS);
parentPort?.on('message', (word: 'stop' | 'empty') => {
  if (word === 'empty') return void (toCut = true);
  clearInterval(timer);
  log.close();
  parentPort?.close();
});
