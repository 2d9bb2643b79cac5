import { performance } from 'node:perf_hooks';

/**
 * How long our own calls hold the one thread that routes: services, transactions and timers, each named, of calls
 * within calls only the outermost. What commits take stands apart, and what the page renderer takes is not among them.
 */
let depth = 0;
/** What commits took in the hold under way, ms: the disk's time, which is told apart. */
let commits = 0;
const longest = new Map<string, number>();

export function timed<T>(what: string, work: () => T): T {
  if (depth > 0) return work();
  depth++;
  commits = 0;
  const begun = performance.now();
  try {
    return work();
  } finally {
    depth--;
    note(what, performance.now() - begun - commits);
  }
}

/** Notes what a commit took, ms. */
export function committed(ms: number): void {
  commits += ms;
  note('a commit', ms);
}
function note(what: string, ms: number): void {
  if (ms > (longest.get(what) ?? 0)) longest.set(what, ms);
}

/** The longest holds since this was last asked, longest first, in ms. */
export function takeHolds(most: number): readonly { readonly what: string; readonly ms: number }[] {
  const all = [...longest].map(([what, ms]) => ({ what, ms })).sort((a, b) => b.ms - a.ms);
  longest.clear();
  return all.slice(0, most);
}
