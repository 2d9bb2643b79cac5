import type { Numbers, PartOfDay } from './columns';
import { FACT_KEYS, type FactKey } from './factparts';

/** Hours of the clock, `to` not in it, on one weekday (Monday 1) or, null, on all. */
export type ClockHours = { readonly weekday: number | null; readonly from: number; readonly to: number };

/**
 * What is asked about: of each key that is named, a row must have one of the values. An instant `until` (UTC ms) leaves
 * out what is counted from then on; `clock` all that is counted at other hours.
 */
export type Narrowing = { readonly [K in FactKey]?: readonly string[] } & {
  readonly until?: number;
  readonly clock?: ClockHours;
};

const HOUR_MS = 3_600_000;

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

/** Places of the rows of a part of a day that are asked about, in order; null means all of them. */
export type Picked = Uint32Array | null;
const picks = new WeakMap<Uint8Array, Uint32Array>();
export function picked(part: PartOfDay, asked: Narrowing): Picked {
  const mask = passing(part, asked);
  if (mask === null) return null;
  let found = picks.get(mask);
  if (!found) picks.set(mask, (found = placesOf(mask)));
  return found;
}
function placesOf(mask: Uint8Array): Uint32Array {
  const places = new Uint32Array(mask.length);
  let many = 0;
  for (let i = 0; i < mask.length; i++) {
    places[many] = i;
    many += mask[i] as number;
  }
  return places.slice(0, many);
}

function find(part: PartOfDay, asked: Narrowing): Passing {
  let mask: Passing = null;
  const keep = (codes: Numbers, keeps: Uint8Array) => {
    mask ??= new Uint8Array(part.rows).fill(1);
    for (let i = 0; i < mask.length; i++) mask[i] = (mask[i] as number) & (keeps[codes[i] as number] as number);
  };
  for (const key of FACT_KEYS) {
    const wanted = asked[key];
    if (!wanted) continue;
    const { codes, entries } = part.coded(key);
    const keeps = Uint8Array.from(entries, (values) => (values.some((value) => wanted.includes(value)) ? 1 : 0));
    if (keeps.includes(0)) keep(codes, keeps);
  }
  const { until, clock } = asked;
  if (clock && clock.weekday !== null && clock.weekday !== part.weekday) return new Uint8Array(part.rows);
  if (clock) {
    const at = part.numbers('at');
    const hours = Uint8Array.from(part.hours, (hour) => (hour >= clock.from && hour < clock.to ? 1 : 0));
    mask ??= new Uint8Array(part.rows).fill(1);
    for (let i = 0; i < mask.length; i++) if (hours[Math.floor((at[i] ?? 0) / HOUR_MS)] !== 1) mask[i] = 0;
  }
  if (until !== undefined && until < part.to) {
    const at = part.numbers('at');
    mask ??= new Uint8Array(part.rows).fill(1);
    for (let i = 0; i < mask.length; i++) if (part.from + (at[i] ?? 0) >= until) mask[i] = 0;
  }
  return mask;
}
