import { type DaySpan, filled, NONE, type PartOfDay } from './columns';
import { type FactKey, type OfferEnd, type Part, PARTS } from './factparts';
import { CONTACT_ENDS, type ContactEnd, VISIT_ENDS, type VisitEnd } from './facts';
import { type Narrowing, passing } from './narrowing';
import { SHORT_SECONDS } from './servicelevel';

/**
 * Counts and sums over rows, from which every figure is made. All are exact, and two can be added. Sums are ms.
 * `visits`: `rated` are those that count for the service level; `waits` are of those accepted. A visit that rang a
 * customer back is in `rung` alone.
 */
export type Tally = {
  readonly contacts: { started: number; readonly ended: Record<ContactEnd, number> };
  readonly visits: {
    offered: number;
    readonly ended: Record<VisitEnd, number>;
    short: number;
    rated: number;
    inGoal: number;
    /** What the rated ones were meant to reach, percent each; where goals are given. */
    wanted: number;
    readonly waits: Spread;
    readonly rung: { all: number; reached: number };
  };
  readonly offers: { made: number; readonly ended: Record<OfferEnd, number> };
  readonly legs: {
    passedOn: number;
    /** Those that the person was asked about while the goal could still be met, and of them those that met it. */
    possible: number;
    met: number;
    /** What the possible ones were meant to reach, percent each; where goals are given. */
    wanted: number;
    readonly handles: Spread;
    readonly wraps: Spread;
    readonly waits: Spread;
    readonly replies: Spread;
  };
};

/** How many there are, their sum, and each of them where quantiles are asked for. */
export type Spread = { count: number; sum: number; readonly each: number[] | null };

const spread = (each: boolean): Spread => ({ count: 0, sum: 0, each: each ? [] : null });
const noughts = <K extends string>(keys: readonly K[]) =>
  Object.fromEntries(keys.map((key) => [key, 0])) as Record<K, number>;
const OFFER_ENDS: readonly OfferEnd[] = ['accepted', 'declined', 'missed', 'withdrawn', 'taken'];

/** Lengths of which each is kept, for quantiles: waits of visits, handle times, first replies. */
export type Each = readonly ('waits' | 'handles' | 'replies')[];

/** Nothing yet. */
export const emptyTally = (each: Each = []): Tally => ({
  contacts: { started: 0, ended: noughts(CONTACT_ENDS) },
  visits: {
    offered: 0,
    ended: noughts(VISIT_ENDS),
    short: 0,
    rated: 0,
    inGoal: 0,
    wanted: 0,
    waits: spread(each.includes('waits')),
    rung: { all: 0, reached: 0 },
  },
  offers: { made: 0, ended: noughts(OFFER_ENDS) },
  legs: {
    passedOn: 0,
    possible: 0,
    met: 0,
    wanted: 0,
    handles: spread(each.includes('handles')),
    wraps: spread(false),
    waits: spread(false),
    replies: spread(each.includes('replies')),
  },
});

function add(to: Spread, ms: number): void {
  to.count++;
  to.sum += ms;
  to.each?.push(ms);
}

const addSpread = (to: Spread, more: Spread): void => {
  to.count += more.count;
  to.sum += more.sum;
  for (const ms of more.each ?? []) to.each?.push(ms);
};
const addCounts = <K extends string>(to: Record<K, number>, more: Readonly<Record<K, number>>): void => {
  for (const key of Object.keys(more) as K[]) to[key] += more[key];
};

/** Adds a tally to another, which is changed. */
export function addTally(to: Tally, more: Tally): void {
  to.contacts.started += more.contacts.started;
  addCounts(to.contacts.ended, more.contacts.ended);
  to.visits.offered += more.visits.offered;
  addCounts(to.visits.ended, more.visits.ended);
  to.visits.short += more.visits.short;
  to.visits.rated += more.visits.rated;
  to.visits.inGoal += more.visits.inGoal;
  to.visits.wanted += more.visits.wanted;
  addSpread(to.visits.waits, more.visits.waits);
  addCounts(to.visits.rung, more.visits.rung);
  to.offers.made += more.offers.made;
  addCounts(to.offers.ended, more.offers.ended);
  to.legs.passedOn += more.legs.passedOn;
  to.legs.possible += more.legs.possible;
  to.legs.met += more.legs.met;
  to.legs.wanted += more.legs.wanted;
  for (const name of ['handles', 'wraps', 'waits', 'replies'] as const) addSpread(to.legs[name], more.legs[name]);
}

/** A day of facts, part by part. */
export type FactDay = DaySpan & { readonly part: (part: Part) => PartOfDay };

/**
 * What rows are told apart by: a key; the day they are counted in (its first instant); its weekday, Monday 1; the hour
 * of its clock.
 * A row with several values of a key counts for each.
 */
export type By = FactKey | 'day' | 'weekday' | 'hour';
/** The values of a group, in the order in which they were asked for. */
export type Group = readonly string[];
/** Groups with what is counted of each, by their values joined by line breaks. */
export type Tallies = ReadonlyMap<string, Tally>;
export const groupName = (group: Group): string => group.join('\n');
export const groupOf = (name: string): Group => name.split('\n');

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
      const rows: Rows = { part, mask: passing(part, asked), goals, ...grouped(part, by, cell) };
      ADD[name](rows);
    }
  return tallies;
}

/** Rows of a part: which pass, and to which tallies each belongs: `cells[codes[row]]`. */
type Rows = {
  readonly part: PartOfDay;
  readonly mask: Uint8Array | null;
  readonly codes: ArrayLike<number> | null;
  readonly goals: (queueId: string, channel: string) => number;
  /** The tallies of a code; made when the first row that has it passes, so that there is no group without rows. */
  readonly cells: (code: number) => readonly Tally[];
};

function grouped(part: PartOfDay, by: readonly By[], cell: (group: Group) => Tally): Pick<Rows, 'codes' | 'cells'> {
  const keys = by.map((key) => toldApart(part, key));
  let codes: ArrayLike<number> | null = null;
  for (const { codes: own, entries } of keys) {
    const before: ArrayLike<number> | null = codes;
    const width = entries.length;
    codes = before === null ? own : filled(new Uint32Array(part.rows), (i) => (before[i] ?? 0) * width + (own[i] ?? 0));
  }
  /** The groups of a code, taken apart from the last key to the first. Most codes that could be never are. */
  const groups = (code: number): readonly Group[] =>
    keys.length === 1
      ? (keys[0]?.entries[code] ?? []).map((value) => [value])
      : keys.reduceRight<{ readonly code: number; readonly groups: readonly Group[] }>(
          ({ code: rest, groups: after }, { entries }) => ({
            code: Math.floor(rest / entries.length),
            groups: (entries[rest % entries.length] ?? []).flatMap((value) => after.map((group) => [value, ...group])),
          }),
          { code, groups: [[]] },
        ).groups;
  const found = new Map<number, readonly Tally[]>();
  return {
    codes,
    cells: (code) => {
      let of = found.get(code);
      if (!of) found.set(code, (of = groups(code).map(cell)));
      return of;
    },
  };
}

const HOUR_MS = 3_600_000;
function toldApart(part: PartOfDay, by: By): { codes: ArrayLike<number>; entries: readonly (readonly string[])[] } {
  if (by === 'day' || by === 'weekday')
    return { codes: new Uint8Array(part.rows), entries: [[String(by === 'day' ? part.from : part.weekday)]] };
  if (by !== 'hour') return part.coded(by);
  const at = part.numbers('at');
  return {
    codes: filled(new Uint8Array(part.rows), (i) => (at[i] ?? 0) / HOUR_MS),
    entries: part.hours.map((hour) => [String(hour)]),
  };
}

const noGoal = () => 0;
/** The percent that each row's queue is meant to reach. A contact's row may have had several queues: the first counts. */
function wantedOf({ part, goals }: Rows): (row: number) => number {
  if (goals === noGoal) return noGoal;
  const [queue, channel] = [part.coded('queue'), part.coded('channel')];
  const percents = queue.entries.map(([queueId = '']) => channel.entries.map(([name = '']) => goals(queueId, name)));
  return (row) => percents[queue.codes[row] ?? 0]?.[channel.codes[row] ?? 0] ?? 0;
}

/** Goes through the rows that pass; `count` adds one to a tally. */
function eachRow({ part, mask, codes, cells }: Rows, count: (tally: Tally, row: number) => void): void {
  for (let i = 0; i < part.rows; i++) {
    if (mask !== null && mask[i] === 0) continue;
    const of = cells(codes === null ? 0 : (codes[i] ?? 0));
    for (let c = 0; c < of.length; c++) count(of[c] as Tally, i);
  }
}

const ADD: { readonly [P in Part]: (rows: Rows) => void } = {
  contacts: (rows) => {
    const how = rows.part.coded('how');
    const ends = how.entries.map((e) => (e[0] ?? null) as ContactEnd | null);
    eachRow(rows, ({ contacts }, i) => {
      contacts.started++;
      const end = ends[how.codes[i] ?? 0];
      if (end) contacts.ended[end]++;
    });
  },
  visits: (rows) => {
    const how = rows.part.coded('how');
    const ends = how.entries.map((e) => (e[0] ?? null) as VisitEnd | 'rung-reached' | 'rung-not' | null);
    const wanted = wantedOf(rows);
    const [waited, stayed, goal] = [
      rows.part.numbers('waited'),
      rows.part.numbers('stayed'),
      rows.part.numbers('goal'),
    ];
    eachRow(rows, ({ visits }, i) => {
      const end = ends[how.codes[i] ?? 0] ?? null;
      if (end === 'rung-reached' || end === 'rung-not') {
        visits.rung.all++;
        if (end === 'rung-reached') visits.rung.reached++;
        return;
      }
      visits.offered++;
      if (end === null) return;
      visits.ended[end]++;
      if (end === 'gave-up') {
        if ((stayed[i] ?? 0) <= SHORT_SECONDS * 1000) visits.short++;
        else {
          visits.rated++;
          visits.wanted += wanted(i);
        }
      } else if (end === 'accepted') {
        visits.rated++;
        visits.wanted += wanted(i);
        if ((waited[i] ?? 0) <= (goal[i] ?? 0)) visits.inGoal++;
        add(visits.waits, waited[i] ?? 0);
      }
    });
  },
  offers: (rows) => {
    const how = rows.part.coded('how');
    const ends = how.entries.map((e) => (e[0] ?? null) as OfferEnd | null);
    eachRow(rows, ({ offers }, i) => {
      offers.made++;
      const end = ends[how.codes[i] ?? 0];
      if (end) offers.ended[end]++;
    });
  },
  legs: (rows) => {
    const { part } = rows;
    const how = part.coded('how');
    const wanted = wantedOf(rows);
    const passed = how.entries.map((e) => e[0] === 'passed-on');
    const [handled, wrapped, waited] = [part.numbers('handled'), part.numbers('wrapped'), part.numbers('waited')];
    const [goal, asked, replied] = [part.numbers('goal'), part.numbers('asked'), part.numbers('replied')];
    eachRow(rows, ({ legs }, i) => {
      if (handled[i] === NONE) return;
      if (passed[how.codes[i] ?? 0]) legs.passedOn++;
      add(legs.handles, handled[i] ?? 0);
      add(legs.wraps, wrapped[i] ?? 0);
      const wait = waited[i] ?? NONE;
      if (wait !== NONE) add(legs.waits, wait);
      const first = asked[i] ?? NONE;
      if (wait !== NONE && first !== NONE && first <= (goal[i] ?? 0)) {
        legs.possible++;
        legs.wanted += wanted(i);
        if (wait <= (goal[i] ?? 0)) legs.met++;
      }
      const reply = replied[i] ?? NONE;
      if (reply !== NONE) add(legs.replies, reply);
    });
  },
};

/** The mean of a spread in seconds; null without any. */
export const meanSeconds = ({ count, sum }: Spread): number | null => (count === 0 ? null : sum / count / 1000);

/** A part of a whole; null without a whole. */
export const shareOf = (part: number, whole: number): number | null => (whole === 0 ? null : part / whole);
