import { unhurried } from '../../data/database';
import { timed } from './holds';
import type { Host, Tx } from './host';

/**
 * How long the lines of one turn may take, real ms. What follows from them at its end and the commit come on top, so
 * that a whole turn stays within the 10 ms that anything but routing may hold the main thread.
 */
const TURN_MS = 4;
/** Others have worked between two turns when the thread comes back later than this, ms. */
const OTHERS_MS = 0.5;

/**
 * Lets whoever else waits have the thread. Where others work, they have it for as long as the turn took: what they do
 * comes in several steps, and a turn between each would make them wait many times over.
 */
async function breathe(tookMs: number): Promise<void> {
  const at = performance.now();
  await new Promise((resume) => setImmediate(resume));
  if (performance.now() - at > OTHERS_MS) await new Promise((resume) => setTimeout(resume, tookMs));
}

/**
 * Does something with each: as many as fit into a turn are one change, and after every turn whoever else waits has the
 * thread. Turns do not wait for the disk one by one: whoever calls this commits something of their own after the last.
 * `told` hears how many are done. An aborted signal stops it between two turns with what it was aborted for.
 */
export async function inTurns<T>(
  host: Host,
  all: Iterable<T>,
  work: (tx: Tx, one: T) => void,
  { signal, told }: { readonly signal?: AbortSignal; readonly told?: (done: number) => void } = {},
): Promise<void> {
  const each = all[Symbol.iterator]();
  let done = 0;
  for (let next = each.next(); !next.done;) {
    signal?.throwIfAborted();
    const begun = performance.now();
    timed('a turn', () =>
      unhurried(host.db, () =>
        host.transact((tx) => {
          const until = performance.now() + TURN_MS;
          do {
            work(tx, next.value as T);
            done++;
            next = each.next();
          } while (!next.done && performance.now() < until);
        }),
      ),
    );
    told?.(done);
    await breathe(performance.now() - begun);
  }
}
