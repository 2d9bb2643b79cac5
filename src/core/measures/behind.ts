import type { Measure } from './definitions';
import type { Side } from './sides';
import { type Narrowing, passing } from './narrowing';
import type { FactDay } from './columns';

/** Contacts behind a figure, a page of them: their numbers in order, and how many rows there are on each side. */
export type FoundContacts = {
  readonly nos: readonly number[];
  /** Contacts in all, each once. */
  readonly total: number;
  readonly sides: { readonly [S in Side]: number };
};

/** Misses stand before all others; larger than any instant or length. */
const MISS = 2 ** 51;

/**
 * The contacts that a figure is made of, each once, by its most telling row: those with the largest length first where
 * the figure has one, else the latest. Of a share, misses come first unless one side is asked for: what is `without` where
 * more is better, else what is `with`. `from` are passed by, `most` are given.
 */
export function contactsBehind(
  days: Iterable<FactDay>,
  asked: Narrowing,
  { behind, unit, moreIsBetter, neverOfPeople }: Measure,
  { side: only, from, most }: { readonly side: Side | null; readonly from: number; readonly most: number },
): FoundContacts {
  const [no, key]: [number[], number[]] = [[], []];
  const sides = { with: 0, without: 0 };
  if (neverOfPeople && asked.person !== undefined) return { nos: [], total: 0, sides };
  const missing: Side = unit === 'share' && moreIsBetter === false ? 'with' : 'without';
  for (const day of days) {
    const part = day.part(behind.part);
    if (part.rows === 0) continue;
    const mask = passing(part, asked);
    const sideOf = behind.side(part);
    const [nos, at] = [part.numbers('no'), part.numbers('at')];
    const by = behind.by ? part.numbers(behind.by) : null;
    for (let i = 0; i < part.rows; i++) {
      if (mask !== null && mask[i] === 0) continue;
      const side = sideOf(i);
      if (side === null) continue;
      sides[side]++;
      if (only !== null && side !== only) continue;
      no.push(nos[i] ?? 0);
      key.push((by === null ? part.from + (at[i] ?? 0) : (by[i] ?? 0)) + (side === missing ? MISS : 0));
    }
  }
  const total = distinct(no);
  const wanted = Math.min(from + most, total);
  // A contact may have several rows: enough are looked at for as many contacts as are wanted.
  let found: number[] = [];
  for (let look = 2 * wanted; found.length < wanted; look *= 4) found = first(no, key, look);
  return { nos: found.slice(from, from + most), total, sides };
}

function distinct(numbers: readonly number[]): number {
  const sorted = Int32Array.from(numbers).sort();
  let count = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) count++;
  return count;
}

/** The different numbers of the rows with the `look` largest keys (and their equals), largest first. */
function first(no: readonly number[], key: readonly number[], look: number): number[] {
  const least = look >= key.length ? -Infinity : (Float64Array.from(key).sort()[key.length - look] ?? -Infinity);
  const rows: number[] = [];
  for (let i = 0; i < key.length; i++) if ((key[i] ?? 0) >= least) rows.push(i);
  rows.sort((a, b) => (key[b] ?? 0) - (key[a] ?? 0) || a - b);
  return [...new Set(rows.map((row) => no[row] ?? 0))];
}
