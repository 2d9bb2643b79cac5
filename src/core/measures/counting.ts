import { type FactDay, filled, NONE, type Numbers, type PartOfDay } from './columns';
import { type OfferEnd, type Part, PARTS } from './factparts';
import type { ContactEnd, VisitEnd } from './facts';
import { type By, type Group, type Grouped, grouped, groupName } from './grouping';
import { type Narrowing, passing } from './narrowing';
import { SHORT_SECONDS } from './servicelevel';
import { type Each, emptyTally, type Spread, type Tally } from './tally';

const SHORT_MS = SHORT_SECONDS * 1000;

/** Groups with what is counted of each, by their values joined by line breaks. */
export type Tallies = ReadonlyMap<string, Tally>;

export type TallyOptions = {
  readonly by?: readonly By[];
  readonly each?: Each;
  readonly parts?: readonly Part[];
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
  { by = [], each = [], parts = PARTS, goals = noGoal }: TallyOptions = {},
): Tallies {
  const tallies = new Map<string, Tally>();
  const cell = (group: Group): Tally => {
    const name = groupName(group);
    let found = tallies.get(name);
    if (!found) tallies.set(name, (found = emptyTally(each)));
    return found;
  };
  for (const day of days)
    for (const name of parts) {
      const part = day.part(name);
      if (part.rows === 0) continue;
      ADD[name]({ part, mask: passing(part, asked), goals, each, ...grouped(part, by, cell) });
    }
  return tallies;
}

/** Rows of a part: which pass, and to which tallies each belongs. */
type Rows = Grouped<Tally> & {
  readonly part: PartOfDay;
  readonly mask: Uint8Array | null;
  readonly goals: (queueId: string, channel: string) => number;
  readonly each: Each;
};

const noGoal = () => 0;
/**
 * The percent that each row's queue is meant to reach: `percents[queue * channels + channel]`. Null where no goals are
 * given. A row that has had several queues is judged by the first.
 */
function wantedOf({ part, goals }: Rows): {
  readonly queue: Numbers;
  readonly channel: Numbers;
  readonly channels: number;
  readonly percents: Float64Array;
} | null {
  if (goals === noGoal) return null;
  const [queue, channel] = [part.coded('queue'), part.coded('channel')];
  const channels = channel.entries.length;
  const percents = filled(new Float64Array(queue.entries.length * channels), (i) =>
    goals(queue.entries[Math.floor(i / channels)]?.[0] ?? '', channel.entries[i % channels]?.[0] ?? ''),
  );
  return { queue: queue.codes, channel: channel.codes, channels, percents };
}

/** Rows that pass, by code and how they ended: `counts[code * ends + end]`. */
function countEnds({ part, mask, codes, many }: Rows, skip: Numbers | null = null) {
  const how = part.coded('how');
  const ends = how.entries.length;
  const counts = new Uint32Array(many * ends);
  const end = how.codes;
  for (let i = 0; i < part.rows; i++) {
    if ((mask !== null && mask[i] === 0) || (skip !== null && skip[i] === NONE)) continue;
    const at = (codes[i] as number) * ends + (end[i] as number);
    counts[at] = (counts[at] as number) + 1;
  }
  return { counts, ends, names: how.entries.map(([name]) => name ?? null) };
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
/** A number of a column in which there may be none. */
const countIn = (n: number | undefined): number => (n === undefined || n === NONE ? 0 : n);
const sums = (many: number) => new Float64Array(many);
const bump = (of: Float64Array, code: number, by: number): void => {
  of[code] = (of[code] as number) + by;
};
const lists = (wanted: boolean, many: number): number[][] | null =>
  wanted ? Array.from({ length: many }, () => []) : null;
const spreadOf = (to: Spread, count: number, sum: number, each: readonly number[] | undefined): void => {
  to.count += count;
  to.sum += sum;
  if (to.each && each) for (const ms of each) to.each.push(ms);
};

// One loop for each part over plain numbers: a year has millions of rows, and each page goes through them several times.
const ADD: { readonly [P in Part]: (rows: Rows) => void } = {
  contacts: (rows) => {
    const { part, mask, codes, many } = rows;
    const [again, lasted, rating] = [part.numbers('again'), part.numbers('lasted'), part.numbers('rating')];
    const [incoming, outgoing] = [part.numbers('in'), part.numbers('out')];
    const [settled, came, ended, whole] = [sums(many), sums(many), sums(many), sums(many)];
    const [ratings, given, saidIn, saidOut] = [sums(many), sums(many), sums(many), sums(many)];
    for (let i = 0; i < part.rows; i++) {
      if (mask !== null && mask[i] === 0) continue;
      const code = codes[i] as number;
      bump(saidIn, code, countIn(incoming[i]));
      bump(saidOut, code, countIn(outgoing[i]));
      const [after, length, stars] = [again[i] as number, lasted[i] as number, rating[i] as number];
      if (stars !== NONE) {
        bump(ratings, code, 1);
        bump(given, code, stars);
      }
      if (length !== NONE) {
        bump(ended, code, 1);
        bump(whole, code, length);
      }
      if (after === NONE) continue;
      bump(settled, code, 1);
      if (after > 0) bump(came, code, 1);
    }
    eachCode(rows, countEnds(rows), ({ contacts }, code, counted) => {
      for (const [end, n] of counted) {
        contacts.started += n;
        if (end !== null) contacts.ended[end as ContactEnd] += n;
      }
      contacts.settled.all += settled[code] ?? 0;
      contacts.settled.again += came[code] ?? 0;
      contacts.said.in += saidIn[code] ?? 0;
      contacts.said.out += saidOut[code] ?? 0;
      contacts.rated.count += ratings[code] ?? 0;
      contacts.rated.sum += given[code] ?? 0;
      spreadOf(contacts.whole, ended[code] ?? 0, whole[code] ?? 0, undefined);
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
    const { part, mask, codes, many } = rows;
    const ended = countEnds(rows);
    const [waited, stayed, goal] = [part.numbers('waited'), part.numbers('stayed'), part.numbers('goal')];
    const end = part.coded('how').codes;
    const [accepted, gaveUp] = [ended.names.indexOf('accepted'), ended.names.indexOf('gave-up')];
    const [inGoal, short, waits, wanted] = [sums(many), sums(many), sums(many), sums(many)];
    const each = lists(rows.each.includes('waits'), many);
    const goals = wantedOf(rows);
    for (let i = 0; i < part.rows; i++) {
      const how = end[i] as number;
      if ((how !== accepted && how !== gaveUp) || (mask !== null && mask[i] === 0)) continue;
      const code = codes[i] as number;
      if (how === gaveUp && (stayed[i] as number) <= SHORT_MS) {
        bump(short, code, 1);
        continue;
      }
      if (goals)
        bump(
          wanted,
          code,
          goals.percents[(goals.queue[i] as number) * goals.channels + (goals.channel[i] as number)] as number,
        );
      if (how === gaveUp) continue;
      const wait = waited[i] as number;
      bump(waits, code, wait);
      if (wait <= (goal[i] as number)) bump(inGoal, code, 1);
      if (each) (each[code] as number[]).push(wait);
    }
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
        if (how === 'accepted') spreadOf(visits.waits, n, waits[code] ?? 0, each?.[code]);
      }
      visits.short += short[code] ?? 0;
      visits.rated -= short[code] ?? 0;
      visits.inGoal += inGoal[code] ?? 0;
      visits.wanted += wanted[code] ?? 0;
    });
  },
  legs: (rows) => {
    const { part, mask, codes, many } = rows;
    const handled = part.numbers('handled');
    const ended = countEnds(rows, handled);
    const [waited, goal] = [part.numbers('waited'), part.numbers('goal')];
    const [asked, replied] = [part.numbers('asked'), part.numbers('replied')];
    const [handles, replies, answers] = [sums(many), sums(many), sums(many)];
    const fronted = part.numbers('fronted');
    const [possible, met, wanted, fronts] = [sums(many), sums(many), sums(many), sums(many)];
    const eachHandle = lists(rows.each.includes('handles'), many);
    const eachReply = lists(rows.each.includes('replies'), many);
    const goals = wantedOf(rows);
    for (let i = 0; i < part.rows; i++) {
      const handle = handled[i] as number;
      if (handle === NONE || (mask !== null && mask[i] === 0)) continue;
      const code = codes[i] as number;
      bump(handles, code, handle);
      if (fronted[i] !== NONE) bump(fronts, code, 1);
      if (eachHandle) (eachHandle[code] as number[]).push(handle);
      const reply = replied[i] as number;
      if (reply !== NONE) {
        bump(replies, code, reply);
        bump(answers, code, 1);
        if (eachReply) (eachReply[code] as number[]).push(reply);
      }
      const [wait, first, most] = [waited[i] as number, asked[i] as number, goal[i] as number];
      if (wait === NONE || first === NONE || first > most) continue;
      bump(possible, code, 1);
      if (wait <= most) bump(met, code, 1);
      if (goals)
        bump(
          wanted,
          code,
          goals.percents[(goals.queue[i] as number) * goals.channels + (goals.channel[i] as number)] as number,
        );
    }
    eachCode(rows, ended, ({ legs }, code, counted) => {
      const all = counted.reduce((n, [, some]) => n + some, 0);
      legs.passedOn += counted.find(([how]) => how === 'passed-on')?.[1] ?? 0;
      spreadOf(legs.handles, all, handles[code] ?? 0, eachHandle?.[code]);
      spreadOf(legs.replies, answers[code] ?? 0, replies[code] ?? 0, eachReply?.[code]);
      legs.fronted += fronts[code] ?? 0;
      legs.possible += possible[code] ?? 0;
      legs.met += met[code] ?? 0;
      legs.wanted += wanted[code] ?? 0;
    });
  },
  lines: (rows) => {
    const { part, mask, codes, many } = rows;
    const missed = part.numbers('missed');
    const misses = sums(many);
    for (let i = 0; i < part.rows; i++)
      if ((mask === null || mask[i] === 1) && (missed[i] as number) > 0) bump(misses, codes[i] as number, 1);
    eachCode(rows, countEnds(rows), ({ lines }, code, counted) => {
      for (const [how, n] of counted) {
        lines.came += n;
        if (how === 'left') lines.left += n;
      }
      lines.missed += misses[code] ?? 0;
    });
  },
};
