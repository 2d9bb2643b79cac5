import {
  FACT_KEYS,
  type FactKey,
  type FactRow,
  type Length,
  type Part,
  PART_LENGTHS,
  type RolledBy,
  type RolledPiece,
  type RollUp,
} from './factparts';

/**
 * Rows of one part and day as columns of whole numbers, so that millions of them are read and counted in the blink of an
 * eye, by whatever they are narrowed. `no` is the contact's number, `at` ms since the day began; lengths are ms.
 */
export type ColumnName = 'no' | 'at' | 'how' | FactKey | Length;
export type Numbers = Uint8Array | Uint16Array | Uint32Array | Int32Array;
/** A column of codes: each stands for the values that its entry lists (several where a contact had several). */
export type Coded = { readonly codes: Numbers; readonly entries: readonly (readonly string[])[] };

/** What a length is where there is none. */
export const NONE = 0xffff_ffff;

/**
 * A day: [from, to) in UTC ms; its weekday, Monday 1; and the hour of its clock at each hour since it began (not 0 to 23
 * when clocks change).
 */
export type DaySpan = {
  readonly from: number;
  readonly to: number;
  readonly weekday: number;
  readonly hours: readonly number[];
};

/** Numbers made place by place: many times as fast as from an iterator. */
export function filled<N extends Numbers | Float64Array>(numbers: N, at: (place: number) => number): N {
  for (let i = 0; i < numbers.length; i++) numbers[i] = at(i);
  return numbers;
}

/** One part of one day, read column by column. */
export type PartOfDay = DaySpan & {
  readonly rows: number;
  readonly numbers: (name: 'no' | 'at' | Length) => Numbers;
  readonly coded: (name: 'how' | FactKey) => Coded;
};

/**
 * A day of facts, part by part, and counted by one key; and what has been made of it under some name, made once for as
 * long as it is as it is.
 */
export type FactDay = DaySpan & {
  readonly part: (part: Part) => PartOfDay;
  readonly rolled: <K extends RolledPiece>(key: RolledBy, piece: K) => RollUp[K];
  readonly remembered: <T>(name: string, make: () => T) => T;
};

/** Makes what stands under a name once. */
export const rememberedIn =
  (known: Map<string, unknown>) =>
  <T>(name: string, make: () => T): T => {
    if (!known.has(name)) known.set(name, make());
    return known.get(name) as T;
  };

/** A column as it is kept: its numbers, and for codes what they stand for. */
export type KeptColumn = {
  readonly name: ColumnName;
  readonly data: Numbers;
  readonly entries: Coded['entries'] | null;
};

/** Rows of a part as columns. `from` is the beginning of their day. */
export function columnsOf<P extends Part>(part: P, rows: readonly FactRow<P>[], from: number): KeptColumn[] {
  const plain = (name: ColumnName, data: Numbers): KeptColumn => ({ name, data, entries: null });
  const lengthOf = (row: FactRow<P>, name: Length) => (row.lengths as { readonly [L in Length]?: number | null })[name];
  return [
    plain(
      'no',
      Int32Array.from(rows, (r) => r.no),
    ),
    plain(
      'at',
      Uint32Array.from(rows, (r) => r.at - from),
    ),
    { name: 'how', ...named(coded(rows, (r) => (r.how === null ? [] : [r.how]))) },
    ...FACT_KEYS.map((key) => ({ name: key, ...named(coded(rows, (r) => r.keys[key])) })),
    // Two instants of one moment may be some ms apart, either way.
    ...PART_LENGTHS[part].map((name) =>
      plain(
        name,
        Uint32Array.from(rows, (r) => Math.min(Math.max(lengthOf(r, name) ?? NONE, 0), NONE)),
      ),
    ),
  ];
}
const named = ({ codes, entries }: Coded) => ({ data: codes, entries });

function coded<R>(rows: readonly R[], valuesOf: (row: R) => readonly string[]): Coded {
  const known = new Map<string, number>();
  const entries: (readonly string[])[] = [];
  // Rows after one another often have the very same values.
  let [last, code]: [readonly string[] | null, number | undefined] = [null, undefined];
  const codes = rows.map((row) => {
    const values = valuesOf(row);
    if (values === last && code !== undefined) return code;
    last = values;
    const name = values.length === 1 ? (values[0] ?? '') : `\n${JSON.stringify(values)}`;
    code = known.get(name);
    if (code === undefined) {
      known.set(name, (code = entries.length));
      entries.push(values);
    }
    return code;
  });
  const Codes = entries.length <= 256 ? Uint8Array : entries.length <= 65_536 ? Uint16Array : Uint32Array;
  return { codes: Codes.from(codes), entries };
}

/** Columns that are there already, as a part of a day. */
export function partOf(columns: readonly KeptColumn[], span: DaySpan): PartOfDay {
  const byName = new Map(columns.map((c) => [c.name, c]));
  const column = (name: ColumnName): KeptColumn => {
    const found = byName.get(name);
    if (!found) throw new Error(`there is no column ${name}`);
    return found;
  };
  return {
    ...span,
    rows: column('no').data.length,
    numbers: (name) => column(name).data,
    coded: (name) => ({ codes: column(name).data, entries: column(name).entries ?? [] }),
  };
}
