import { type FactDay, filled, NONE, type Numbers, type PartOfDay } from './columns';
import { type LengthOf, type OfferEnd, type Part, PART_LENGTHS, PARTS } from './factparts';
import type { ContactEnd, VisitEnd } from './facts';
import { type By, type Group, type Grouped, grouped, groupName } from './grouping';
import { Lengths } from './lengths';
import { type Narrowing, type Picked, picked } from './narrowing';
import { SHORT_SECONDS } from './servicelevel';
import { emptyTally, type Spread, type Tally } from './tally';

const SHORT_MS = SHORT_SECONDS * 1000;

/** Groups with what is counted of each, by their values joined by line breaks. */
export type Tallies = ReadonlyMap<string, Tally>;

export type TallyOptions = {
  readonly by?: readonly By[];
  readonly parts?: readonly Part[];
  /** Which lengths of contacts are summed: all, where nothing is said. */
  readonly lengths?: readonly LengthOf<'contacts'>[];
  /** The percent that a queue is meant to reach on a channel; 0 where there is no goal. */
  readonly goals?: (queueId: string, channel: string) => number;
};

/**
 * Counts the rows of days that are asked about, told apart by keys. Without `by` there is one group, named ''.
 * Time is linear in the rows; days are read one after the other.
 */
export function tally(
  days: Iterable<FactDay>,
  asked: Narrowing,
  { by = [], parts = PARTS, lengths = PART_LENGTHS.contacts, goals = noGoal }: TallyOptions = {},
): Tallies {
  const tallies = new Map<string, Tally>();
  const cell = (group: Group): Tally => {
    const name = groupName(group);
    let found = tallies.get(name);
    if (!found) tallies.set(name, (found = emptyTally()));
    return found;
  };
  for (const day of days)
    for (const name of parts) {
      const part = day.part(name);
      if (part.rows === 0) continue;
      const places = picked(part, asked);
      if (places?.length === 0) continue;
      ADD[name]({ part, places, goals, lengths, ...grouped(part, by, places, cell) });
    }
  return tallies;
}

/** Rows of a part: which are picked, and to which tallies each belongs, in their order. */
type Rows = Grouped<Tally> & {
  readonly part: PartOfDay;
  readonly places: Picked;
  readonly goals: (queueId: string, channel: string) => number;
  readonly lengths: readonly LengthOf<'contacts'>[];
};

const noGoal = () => 0;
/** The percent that the queue of each row is meant to reach, in the order of the columns; null where no goals are given. */
function wantedOf({ part, goals }: Rows): Float64Array | null {
  if (goals === noGoal) return null;
  const [queue, channel] = [part.coded('queue'), part.coded('channel')];
  const channels = channel.entries.length;
  // A row that has had several queues is judged by the first.
  const percents = filled(new Float64Array(queue.entries.length * channels), (i) =>
    goals(queue.entries[Math.floor(i / channels)]?.[0] ?? '', channel.entries[i % channels]?.[0] ?? ''),
  );
  const [ofQueue, ofChannel] = [queue.codes, channel.codes];
  return filled(
    new Float64Array(part.rows),
    (i) => percents[(ofQueue[i] as number) * channels + (ofChannel[i] as number)] as number,
  );
}

/** Picked rows, by code and how they ended: `counts[code * ends + end]`. */
function countEnds({ part, places, codes, many }: Rows, skip: Numbers | null = null) {
  const how = part.coded('how');
  const ends = how.entries.length;
  const counts = new Uint32Array(many * ends);
  countPairs(counts, codes, ends, how.codes, places, skip);
  return { counts, ends, names: how.entries.map(([name]) => name ?? null) };
}
function countPairs(
  counts: Uint32Array,
  codes: Uint32Array,
  ends: number,
  end: Numbers,
  places: Picked,
  skip: Numbers | null,
): void {
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    if (skip !== null && skip[i] === NONE) continue;
    const at = (codes[k] as number) * ends + (end[i] as number);
    counts[at] = (counts[at] as number) + 1;
  }
}
/** Gives each code that occurs what was counted of it: `count` of each way of ending (null: going on). */
function eachCode(
  { many, cells }: Rows,
  { counts, ends, names }: ReturnType<typeof countEnds>,
  add: (tally: Tally, code: number, counted: readonly (readonly [string | null, number])[]) => void,
): void {
  for (let code = 0; code < many; code++) {
    const counted = names.flatMap((name, end) => {
      const n = counts[code * ends + end] ?? 0;
      return n === 0 ? [] : [[name, n] as const];
    });
    if (counted.length > 0) for (const tally of cells(code)) add(tally, code, counted);
  }
}
const sums = (many: number) => new Float64Array(many);
const bump = (of: Float64Array, code: number, by: number): void => {
  of[code] = (of[code] as number) + by;
};
const spreadOf = (to: Spread, count: number, sum: number): void => {
  to.count += count;
  to.sum += sum;
};

/** How many rows of each code have a number, and what these come to. */
type Summed = { readonly count: Float64Array; readonly sum: Float64Array };
const NOT_SUMMED: Summed = { count: new Float64Array(0), sum: new Float64Array(0) };
/**
 * One column at a time, over plain numbers alone, in a function that does nothing else: a year has millions of rows, each
 * page goes through them several times, and a loop beside other work is run ten times slower.
 */
function summed(column: Numbers, { codes, many, places }: Rows, skip: Numbers | null = null): Summed {
  const [count, sum] = [sums(many), sums(many)];
  sumColumn(count, sum, column, codes, places, skip);
  return { count, sum };
}
function sumColumn(
  count: Float64Array,
  sum: Float64Array,
  column: Numbers,
  codes: Uint32Array,
  places: Picked,
  skip: Numbers | null,
): void {
  if (sum.length === 1 && places === null && skip === null) return sumWhole(count, sum, column);
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const n = column[i] as number;
    if (n === NONE || (skip !== null && skip[i] === NONE)) continue;
    const code = codes[k] as number;
    bump(count, code, 1);
    bump(sum, code, n);
  }
}
/** All rows are of one code: nothing is written until the end. */
function sumWhole(count: Float64Array, sum: Float64Array, column: Numbers): void {
  let [many, all] = [0, 0];
  for (let i = 0; i < column.length; i++) {
    const n = column[i] as number;
    if (n === NONE) continue;
    many++;
    all += n;
  }
  count[0] = many;
  sum[0] = all;
}
/** How many rows of each code have more than nothing. */
function countSome(column: Numbers, { codes, many, places }: Rows): Float64Array {
  const count = sums(many);
  for (let k = 0; k < codes.length; k++) {
    const n = column[places === null ? k : (places[k] as number)] as number;
    if (n !== NONE && n > 0) bump(count, codes[k] as number, 1);
  }
  return count;
}

/** What is counted of waits: those in goal, those that gave up at once, what was meant to be reached. */
type Waits = {
  readonly inGoal: Float64Array;
  readonly short: Float64Array;
  readonly sum: Float64Array;
  readonly wanted: Float64Array;
  readonly lengths: (Lengths | null)[];
};
function countWaits(
  to: Waits,
  { codes, places }: Rows,
  end: Numbers,
  [accepted, gaveUp]: readonly [number, number],
  [waited, stayed, goal]: readonly [Numbers, Numbers, Numbers],
  wanted: Float64Array | null,
): void {
  const { inGoal, short, sum, lengths } = to;
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const how = end[i] as number;
    if (how !== accepted && how !== gaveUp) continue;
    const code = codes[k] as number;
    if (how === gaveUp && (stayed[i] as number) <= SHORT_MS) {
      bump(short, code, 1);
      continue;
    }
    if (wanted !== null) bump(to.wanted, code, wanted[i] as number);
    if (how === gaveUp) continue;
    const wait = waited[i] as number;
    bump(sum, code, wait);
    if (wait <= (goal[i] as number)) bump(inGoal, code, 1);
    const of = lengths[code] ?? (lengths[code] = new Lengths());
    of.add(wait);
  }
}

/** What is counted of what a person could meet: from when they were asked. */
type Possible = { readonly possible: Float64Array; readonly met: Float64Array; readonly wanted: Float64Array };
function countPossible(
  to: Possible,
  { codes, places }: Rows,
  [handled, waited, asked, goal]: readonly [Numbers, Numbers, Numbers, Numbers],
  wanted: Float64Array | null,
): void {
  const { possible, met } = to;
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const [wait, first, most] = [waited[i] as number, asked[i] as number, goal[i] as number];
    if (handled[i] === NONE || wait === NONE || first === NONE || first > most) continue;
    const code = codes[k] as number;
    bump(possible, code, 1);
    if (wait <= most) bump(met, code, 1);
    if (wanted !== null) bump(to.wanted, code, wanted[i] as number);
  }
}

const ADD: { readonly [P in Part]: (rows: Rows) => void } = {
  contacts: (rows) => {
    const { part, lengths } = rows;
    const of = (name: LengthOf<'contacts'>) => (lengths.includes(name) ? summed(part.numbers(name), rows) : NOT_SUMMED);
    const [settled, whole, rated, saidIn, saidOut] = [of('again'), of('lasted'), of('rating'), of('in'), of('out')];
    const came = lengths.includes('again') ? countSome(part.numbers('again'), rows) : NOT_SUMMED.count;
    eachCode(rows, countEnds(rows), ({ contacts }, code, counted) => {
      for (const [end, n] of counted) {
        contacts.started += n;
        if (end !== null) contacts.ended[end as ContactEnd] += n;
      }
      contacts.settled.all += settled.count[code] ?? 0;
      contacts.settled.again += came[code] ?? 0;
      contacts.said.in += saidIn.sum[code] ?? 0;
      contacts.said.out += saidOut.sum[code] ?? 0;
      contacts.rated.count += rated.count[code] ?? 0;
      contacts.rated.sum += rated.sum[code] ?? 0;
      spreadOf(contacts.whole, whole.count[code] ?? 0, whole.sum[code] ?? 0);
    });
  },
  offers: (rows) =>
    eachCode(rows, countEnds(rows), ({ offers }, _code, counted) => {
      for (const [end, n] of counted) {
        offers.made += n;
        if (end !== null) offers.ended[end as OfferEnd] += n;
      }
    }),
  visits: (rows) => {
    const { part, many } = rows;
    const ended = countEnds(rows);
    const ends = [ended.names.indexOf('accepted'), ended.names.indexOf('gave-up')] as const;
    const waits: Waits = {
      inGoal: sums(many),
      short: sums(many),
      sum: sums(many),
      wanted: sums(many),
      lengths: new Array<Lengths | null>(many).fill(null),
    };
    const columns = [part.numbers('waited'), part.numbers('stayed'), part.numbers('goal')] as const;
    countWaits(waits, rows, part.coded('how').codes, ends, columns, wantedOf(rows));
    eachCode(rows, ended, ({ visits }, code, counted) => {
      for (const [how, n] of counted) {
        if (how === 'rung-reached' || how === 'rung-not') {
          visits.rung.all += n;
          if (how === 'rung-reached') visits.rung.reached += n;
          continue;
        }
        visits.offered += n;
        if (how === null) continue;
        visits.ended[how as VisitEnd] += n;
        if (how === 'accepted' || how === 'gave-up') visits.rated += n;
        if (how === 'accepted') spreadOf(visits.waits, n, waits.sum[code] ?? 0);
      }
      const lengths = waits.lengths[code];
      if (lengths) visits.lengths.merge(lengths);
      visits.short += waits.short[code] ?? 0;
      visits.rated -= waits.short[code] ?? 0;
      visits.inGoal += waits.inGoal[code] ?? 0;
      visits.wanted += waits.wanted[code] ?? 0;
    });
  },
  legs: (rows) => {
    const { part, many } = rows;
    const handled = part.numbers('handled');
    const ended = countEnds(rows, handled);
    const handles = summed(handled, rows);
    const replies = summed(part.numbers('replied'), rows, handled);
    const fronts = summed(part.numbers('fronted'), rows, handled).count;
    const can: Possible = { possible: sums(many), met: sums(many), wanted: sums(many) };
    const columns = [handled, part.numbers('waited'), part.numbers('asked'), part.numbers('goal')] as const;
    countPossible(can, rows, columns, wantedOf(rows));
    eachCode(rows, ended, ({ legs }, code, counted) => {
      legs.passedOn += counted.find(([how]) => how === 'passed-on')?.[1] ?? 0;
      spreadOf(legs.handles, handles.count[code] ?? 0, handles.sum[code] ?? 0);
      spreadOf(legs.replies, replies.count[code] ?? 0, replies.sum[code] ?? 0);
      legs.fronted += fronts[code] ?? 0;
      legs.possible += can.possible[code] ?? 0;
      legs.met += can.met[code] ?? 0;
      legs.wanted += can.wanted[code] ?? 0;
    });
  },
  lines: (rows) => {
    const misses = countSome(rows.part.numbers('missed'), rows);
    eachCode(rows, countEnds(rows), ({ lines }, code, counted) => {
      for (const [how, n] of counted) {
        lines.came += n;
        if (how === 'left') lines.left += n;
      }
      lines.missed += misses[code] ?? 0;
    });
  },
};
