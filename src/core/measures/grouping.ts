import { filled, type Numbers, type PartOfDay } from './columns';
import type { FactKey } from './factparts';
import type { Picked } from './narrowing';

/**
 * What rows are told apart by: a key; the day they are counted in (its first instant); its weekday, Monday 1; the hour
 * of its clock.
 * A row with several values of a key counts for each.
 */
export type By = FactKey | 'day' | 'weekday' | 'hour';
/** The values of a group, in the order in which they were asked for. */
export type Group = readonly string[];
/** A group by its values, joined by line breaks. */
export const groupName = (group: Group): string => group.join('\n');
export const groupOf = (name: string): Group => name.split('\n');

/**
 * To which groups the picked rows of a part belong, in their order. A row's code is below `many`; `cells` gives what `cell`
 * makes of the groups of a code, when it is asked for, so that there is no group without rows.
 */
export type Grouped<T> = {
  readonly codes: Uint32Array;
  readonly many: number;
  readonly cells: (code: number) => readonly T[];
};
export function grouped<T>(part: PartOfDay, by: readonly By[], rows: Picked, cell: (group: Group) => T): Grouped<T> {
  const keys = by.map((key) => toldApart(part, key));
  const codes = new Uint32Array(rows === null ? part.rows : rows.length);
  let many = 1;
  for (const { codes: own, entries } of keys) {
    // Where all are the same there is nothing to tell apart.
    if (entries.length > 1 && own !== null) tellApart(codes, own, entries.length, rows);
    many *= entries.length;
  }
  /** The groups of a code, taken apart from the last key to the first. */
  const groups = (code: number): readonly Group[] => {
    let [rest, found]: [number, string[][]] = [code, [[]]];
    for (let k = keys.length - 1; k >= 0; k--) {
      const entries = keys[k]?.entries ?? [];
      const values = entries[rest % entries.length] ?? [];
      rest = Math.floor(rest / entries.length);
      found = values.length === 1 ? found.map((after) => [values[0] ?? '', ...after]) : each(values, found);
    }
    return found;
  };
  if (many <= MOST_CODES) return { codes, many, cells: (code) => groups(code).map(cell) };
  // Most of the codes that could be never are.
  const dense = new Map<number, number>();
  const original: number[] = [];
  filled(codes, (i) => {
    const code = codes[i] ?? 0;
    let small = dense.get(code);
    if (small === undefined) {
      dense.set(code, (small = original.length));
      original.push(code);
    }
    return small;
  });
  return { codes, many: original.length, cells: (code) => groups(original[code] ?? 0).map(cell) };
}
const each = (values: readonly string[], groups: readonly string[][]): string[][] =>
  values.flatMap((value) => groups.map((after) => [value, ...after]));

/** Codes for which there is an array each, whether they occur or not. */
const MOST_CODES = 4096;

/** Small, and over plain numbers alone: of what is done for every row of a year, most is here. */
function tellApart(codes: Uint32Array, own: Numbers, width: number, rows: Picked): void {
  if (rows === null)
    for (let i = 0; i < codes.length; i++) codes[i] = (codes[i] as number) * width + (own[i] as number);
  else
    for (let i = 0; i < codes.length; i++) codes[i] = (codes[i] as number) * width + (own[rows[i] as number] as number);
}

const HOUR_MS = 3_600_000;
/** No codes: all rows have the one entry. */
type ToldApart = { readonly codes: Numbers | null; readonly entries: readonly (readonly string[])[] };
function toldApart(part: PartOfDay, by: By): ToldApart {
  if (by === 'day' || by === 'weekday')
    return { codes: null, entries: [[String(by === 'day' ? part.from : part.weekday)]] };
  if (by !== 'hour') return part.coded(by);
  return { codes: hoursOf(part.numbers('at')), entries: part.hours.map((hour) => [String(hour)]) };
}
function hoursOf(at: Numbers): Uint8Array {
  const hours = new Uint8Array(at.length);
  for (let i = 0; i < hours.length; i++) hours[i] = (at[i] as number) / HOUR_MS;
  return hours;
}
