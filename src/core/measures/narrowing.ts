import type { PartOfDay } from './columns';
import { FACT_KEYS, type FactKey } from './factparts';

/**
 * What is asked about: of each key that is named, a row must have one of the values. An instant `until` (UTC ms) leaves
 * out what is counted from then on.
 */
export type Narrowing = { readonly [K in FactKey]?: readonly string[] } & { readonly until?: number };

/** Which rows are asked about, 1 or 0 each; null means all of them. */
export type Passing = Uint8Array | null;

/** One page counts the same rows several times: what passes is found once. */
const known = new WeakMap<PartOfDay, WeakMap<Narrowing, { readonly mask: Passing }>>();

/** Finds the rows of a part of a day that are asked about. */
export function passing(part: PartOfDay, asked: Narrowing): Passing {
  let of = known.get(part);
  if (!of) known.set(part, (of = new WeakMap()));
  let found = of.get(asked);
  if (!found) of.set(asked, (found = { mask: find(part, asked) }));
  return found.mask;
}

function find(part: PartOfDay, asked: Narrowing): Passing {
  let mask: Passing = null;
  const keep = (codes: ArrayLike<number>, keeps: ArrayLike<number>) => {
    mask ??= new Uint8Array(part.rows).fill(1);
    for (let i = 0; i < mask.length; i++) if (keeps[codes[i] ?? 0] === 0) mask[i] = 0;
  };
  for (const key of FACT_KEYS) {
    const wanted = asked[key];
    if (!wanted) continue;
    const { codes, entries } = part.coded(key);
    const keeps = Uint8Array.from(entries, (values) => (values.some((value) => wanted.includes(value)) ? 1 : 0));
    if (keeps.includes(0)) keep(codes, keeps);
  }
  const { until } = asked;
  if (until !== undefined && until < part.to) {
    const at = part.numbers('at');
    mask ??= new Uint8Array(part.rows).fill(1);
    for (let i = 0; i < mask.length; i++) if (part.from + (at[i] ?? 0) >= until) mask[i] = 0;
  }
  return mask;
}
