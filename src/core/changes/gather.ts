import type { FactDay, PartOfDay } from '../measures/columns';
import type { Measure } from '../measures/definitions';
import { type By, grouped, groupName } from '../measures/grouping';
import { type Narrowing, type Picked, picked } from '../measures/narrowing';
import { type DayEvidence, emptyDay, type Kind, stepOf } from './evidence';

export const kindOf = ({ unit }: Pick<Measure, 'unit'>): Kind =>
  unit === 'share' ? 'share' : unit === 'seconds' ? 'lengths' : 'count';

/** A figure's days by what it is told apart by (null: one thing, named ''), each list in the order of the days. */
export type Gathered = ReadonlyMap<string, readonly DayEvidence[]>;

/** Reads off, for each thing and day, what a figure is made of. Time is linear in the rows of the figure's part. */
export function gather(days: readonly FactDay[], asked: Narrowing, measure: Measure, by: readonly By[]): Gathered {
  const kind = kindOf(measure);
  const found = new Map<string, DayEvidence[]>();
  // Days on which a thing has nothing are most of what there is: all things share them.
  const none = days.map((day) => emptyDay(day.weekday, kind));
  days.forEach((day, place) => {
    // What is not narrowed is asked about again and again: for every range, and for the noise of others.
    const ofDay =
      days.length <= MOST_REMEMBERED && isWhole(asked, day)
        ? day.remembered(`evidence ${measure.id} ${by.join()}`, () => gatherDay(day, asked, measure, by))
        : gatherDay(day, asked, measure, by);
    for (const [name, evidence] of ofDay) {
      let of = found.get(name);
      if (!of) found.set(name, (of = [...none]));
      of[place] = evidence;
    }
  });
  return found;
}

/** How many rows of a figure there are and how many are on its side, by what they are told apart by. */
export type Cell = { readonly good: number; readonly all: number };

/** The same over all days together, without what tells one day from another. */
export function cellsOver(
  days: readonly FactDay[],
  asked: Narrowing,
  measure: Measure,
  by: readonly By[],
): Map<string, Cell> {
  const sums = new Map<string, { good: number; all: number }>();
  for (const day of days) {
    const make = () => cellsOf(gatherDay(day, asked, measure, by));
    const { names, numbers } = isWhole(asked, day) ? day.remembered(`cells ${measure.id} ${by.join()}`, make) : make();
    for (let i = 0; i < names.length; i++) {
      const name = names[i] as string;
      let sum = sums.get(name);
      if (!sum) sums.set(name, (sum = { good: 0, all: 0 }));
      sum.good += numbers[2 * i] as number;
      sum.all += numbers[2 * i + 1] as number;
    }
  }
  return sums;
}
/** Cells by name, and the numbers of each: a year of them takes little room. */
type Cells = { readonly names: readonly string[]; readonly numbers: Uint32Array };
function cellsOf(evidence: ReadonlyMap<string, DayEvidence>): Cells {
  const numbers = new Uint32Array(2 * evidence.size);
  let i = 0;
  for (const { good, all } of evidence.values()) {
    numbers[i++] = good;
    numbers[i++] = all;
  }
  return { names: [...evidence.keys()].map(oneOf), numbers };
}
/** The same few names come day after day: each stands in memory once. */
const known = new Map<string, string>();
const MOST_NAMES = 100_000;
function oneOf(name: string): string {
  const found = known.get(name);
  if (found !== undefined) return found;
  if (known.size >= MOST_NAMES) known.clear();
  known.set(name, name);
  return name;
}

/** Of a longer range, evidence of each day would take more room than it saves time. */
const MOST_REMEMBERED = 100;
const isWhole = ({ until, clock, ...keys }: Narrowing, day: FactDay): boolean =>
  clock === undefined &&
  (until === undefined || until >= day.to) &&
  Object.values(keys).every((wanted) => wanted === undefined);

function gatherDay(
  day: FactDay,
  asked: Narrowing,
  measure: Measure,
  by: readonly By[],
): ReadonlyMap<string, DayEvidence> {
  const found = new Map<string, DayEvidence>();
  const part = day.part(measure.behind.part);
  if (part.rows === 0) return found;
  const kind = kindOf(measure);
  const places = picked(part, asked);
  const { codes, many, cells } = grouped(part, by, places, groupName);
  const counted = countRows(part, places, measure, kind, codes, many);
  for (let code = 0; code < many; code++) {
    const one = counted[code];
    if (!one) continue;
    const names = cells(code);
    for (const name of names) {
      const of = found.get(name);
      if (of) add(of, one);
      // Rows with several values of a key count for each.
      else if (names.length === 1) found.set(name, one);
      else {
        const own = emptyDay(day.weekday, kind);
        add(own, one);
        found.set(name, own);
      }
    }
  }
  return found;
}

/** What the rows of each code come to; nothing where none passes. */
function countRows(
  part: PartOfDay,
  places: Picked,
  { behind }: Measure,
  kind: Kind,
  codes: Uint32Array,
  many: number,
): readonly (DayEvidence | undefined)[] {
  const counted = new Array<DayEvidence | undefined>(many);
  const sideOf = behind.side(part);
  const lengths = kind === 'lengths' && behind.by ? part.numbers(behind.by) : null;
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const side = sideOf(i);
    if (side === null) continue;
    const code = codes[k] as number;
    const one = (counted[code] ??= emptyDay(part.weekday, kind));
    one.all++;
    if (side === 'with') one.good++;
    if (lengths === null || one.spread === null) continue;
    const ms = lengths[i] as number;
    one.sum += ms;
    const step = stepOf(ms);
    one.spread[step] = (one.spread[step] as number) + 1;
  }
  return counted;
}

function add(to: DayEvidence, more: DayEvidence): void {
  to.all += more.all;
  to.good += more.good;
  to.sum += more.sum;
  if (to.spread && more.spread)
    for (let step = 0; step < to.spread.length; step++)
      to.spread[step] = (to.spread[step] as number) + (more.spread[step] as number);
}
