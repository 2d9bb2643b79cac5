import { parentPort, workerData } from 'node:worker_threads';
import { openForCheckpoints } from '../data/databasefile';

/** How often the write-ahead log is looked at, real ms. */
const EVERY_MS = 500;

const { checkpoint, close } = openForCheckpoints(String(workerData));
const timer = setInterval(checkpoint, EVERY_MS);
parentPort?.once('message', () => {
  clearInterval(timer);
  close();
  parentPort?.close();
});
