import { filled, NONE, type Numbers, type PartOfDay } from './columns';
import { MOODS } from '../mood/mood';
import type { LengthOf, OfferEnd, Part } from './factparts';
import type { ContactEnd, VisitEnd } from './facts';
import { type By, type Group, type Grouped, grouped } from './grouping';
import { JOURNEY_TOOK } from './journeys';
import { Lengths } from './lengths';
import { type Narrowing, type Picked, picked } from './narrowing';
import { SHORT_SECONDS } from './servicelevel';
import type { Spread, Tally } from './tally';

const SHORT_MS = SHORT_SECONDS * 1000;

/** The percent that a queue is meant to reach on a channel; 0 where there is no goal. */
export type GoalPercents = (queueId: string, channel: string) => number;
export const noGoal: GoalPercents = () => 0;

/** Lengths that are gone through only where a figure is made of them; `waited` for its quantiles. */
export const SUMMABLE = [
  'lasted',
  'again',
  'rating',
  'mood',
  'journey',
  'told',
  'waited',
] as const satisfies readonly LengthOf<'contacts' | 'visits'>[];
export type Summable = (typeof SUMMABLE)[number];

export type PartOptions = {
  readonly by?: readonly By[];
  /** Which of the lengths that can be left out are summed: all, where nothing is said. */
  readonly lengths?: readonly Summable[];
  readonly goals?: GoalPercents;
};

/**
 * Counts the rows of one part of a day that are asked about, told apart by keys; `cell` gives the tally of a group. Time
 * is linear in the rows.
 */
export function countPart(
  name: Part,
  part: PartOfDay,
  asked: Narrowing,
  cell: (group: Group) => Tally,
  { by = [], lengths = SUMMABLE, goals = noGoal }: PartOptions = {},
): void {
  if (part.rows === 0) return;
  const places = picked(part, asked);
  if (places?.length === 0) return;
  const ofPeople = asked.person !== undefined || by.includes('person');
  ADD[name]({ part, places, goals, lengths, ofPeople, ...grouped(part, by, places, cell) });
}

/** Rows of a part: which are picked, and to which tallies each belongs, in their order. */
type Rows = Grouped<Tally> & {
  readonly part: PartOfDay;
  readonly places: Picked;
  readonly goals: GoalPercents;
  readonly lengths: readonly Summable[];
  /** Whether it is some person's rows: how customers felt is never told of anybody. */
  readonly ofPeople: boolean;
};

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

/** How many rows of each code have each mood: `counts[code * moods + mood]`. */
function countMoods({ part, places, codes, many }: Rows): Uint32Array {
  const counts = new Uint32Array(many * MOODS.length);
  const moods = part.numbers('mood');
  countPairs(counts, codes, MOODS.length, moods, places, moods);
  return counts;
}

/** How many journeys rows of each code begin, how long these are, and how many took what: `took[code * kinds + kind]`. */
function countJourneys(rows: Rows): { readonly spread: Summed; readonly took: Uint32Array } {
  const { part, places, codes, many } = rows;
  const kinds = JOURNEY_TOOK.length;
  const took = new Uint32Array(many * kinds);
  const [lengths, bits] = [part.numbers('journey'), part.numbers('took')];
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const of = bits[i] as number;
    if (of === 0 || of === NONE || lengths[i] === NONE) continue;
    const at = (codes[k] as number) * kinds;
    for (let kind = 0; kind < kinds; kind++) if (of & (1 << kind)) took[at + kind] = (took[at + kind] as number) + 1;
  }
  return { spread: summed(lengths, rows), took };
}

/** What is counted of waits: those in goal, those that gave up at once, what was meant to be reached. */
type Waits = {
  readonly inGoal: Float64Array;
  readonly short: Float64Array;
  readonly sum: Float64Array;
  readonly wanted: Float64Array;
  /** Null where no quantiles are asked for. */
  readonly lengths: (Lengths | null)[] | null;
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
    if (lengths === null) continue;
    const of = lengths[code] ?? (lengths[code] = new Lengths());
    of.add(wait);
  }
}

/** What customers were told of their wait, the wait that followed, and how far these were apart. */
function countTold({ part, places, codes, many }: Rows) {
  const [told, followed] = [part.numbers('told'), part.numbers('followed')];
  const to = { count: sums(many), said: sums(many), followed: sums(many), apart: sums(many) };
  for (let k = 0; k < codes.length; k++) {
    const i = places === null ? k : (places[k] as number);
    const [said, then] = [told[i] as number, followed[i] as number];
    if (said === NONE || then === NONE) continue;
    const code = codes[k] as number;
    bump(to.count, code, 1);
    bump(to.said, code, said);
    bump(to.followed, code, then);
    bump(to.apart, code, Math.abs(then - said));
  }
  return to;
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
    const of = (name: 'again' | 'lasted' | 'rating') =>
      lengths.includes(name) ? summed(part.numbers(name), rows) : NOT_SUMMED;
    const [settled, whole, rated] = [of('again'), of('lasted'), of('rating')];
    const came = lengths.includes('again') ? countSome(part.numbers('again'), rows) : NOT_SUMMED.count;
    const moods = lengths.includes('mood') && !rows.ofPeople ? countMoods(rows) : null;
    const journeys = lengths.includes('journey') ? countJourneys(rows) : null;
    eachCode(rows, countEnds(rows), ({ contacts }, code, counted) => {
      for (const [end, n] of counted) {
        contacts.started += n;
        if (end !== null) contacts.ended[end as ContactEnd] += n;
      }
      contacts.settled.all += settled.count[code] ?? 0;
      contacts.settled.again += came[code] ?? 0;
      contacts.rated.count += rated.count[code] ?? 0;
      contacts.rated.sum += rated.sum[code] ?? 0;
      spreadOf(contacts.whole, whole.count[code] ?? 0, whole.sum[code] ?? 0);
      MOODS.forEach((mood, i) => (contacts.moods[mood] += moods?.[code * MOODS.length + i] ?? 0));
      spreadOf(contacts.journeys, journeys?.spread.count[code] ?? 0, journeys?.spread.sum[code] ?? 0);
      JOURNEY_TOOK.forEach((took, i) => (contacts.took[took] += journeys?.took[code * JOURNEY_TOOK.length + i] ?? 0));
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
      lengths: rows.lengths.includes('waited') ? new Array<Lengths | null>(many).fill(null) : null,
    };
    const columns = [part.numbers('waited'), part.numbers('stayed'), part.numbers('goal')] as const;
    countWaits(waits, rows, part.coded('how').codes, ends, columns, wantedOf(rows));
    const told = rows.lengths.includes('told') ? countTold(rows) : null;
    eachCode(rows, ended, ({ visits }, code, counted) => {
      for (const [how, n] of counted) {
        if (how === 'rung-reached' || how === 'rung-not') {
          visits.rung.all += n;
          if (how === 'rung-reached') visits.rung.reached += n;
          continue;
        }
        if (how === 'message-met' || how === 'message-late' || how === 'message-not') {
          visits.messages.all += n;
          if (how === 'message-met') visits.messages.met += n;
          continue;
        }
        visits.offered += n;
        if (how === null) continue;
        visits.ended[how as VisitEnd] += n;
        if (how === 'accepted' || how === 'gave-up') visits.rated += n;
        if (how === 'accepted') spreadOf(visits.waits, n, waits.sum[code] ?? 0);
      }
      const lengths = waits.lengths?.[code];
      if (lengths) visits.lengths.merge(lengths);
      visits.short += waits.short[code] ?? 0;
      visits.rated -= waits.short[code] ?? 0;
      visits.inGoal += waits.inGoal[code] ?? 0;
      visits.wanted += waits.wanted[code] ?? 0;
      if (told === null) return;
      visits.told.count += told.count[code] ?? 0;
      visits.told.said += told.said[code] ?? 0;
      visits.told.followed += told.followed[code] ?? 0;
      visits.told.apart += told.apart[code] ?? 0;
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
  messages: (rows) => {
    const { part } = rows;
    const of = (name: 'in' | 'out' | 'byPerson') => ({
      name,
      count: countSome(part.numbers(name), rows),
      sum: summed(part.numbers(name), rows).sum,
    });
    const all = [of('in'), of('out'), of('byPerson')];
    eachCode(rows, countEnds(rows), ({ messages }, code) => {
      for (const { name, count, sum } of all) spreadOf(messages[name], count[code] ?? 0, sum[code] ?? 0);
    });
  },
};
