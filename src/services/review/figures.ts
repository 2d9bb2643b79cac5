import type { Channel } from '../../core/channels';
import { plusDays, weekdayOf } from '../../core/hours/dates';
import { measureById, type Measure } from '../../core/measures/definitions';
import { goalStanding, type GoalStanding, wantedShare } from '../../core/measures/servicelevel';
import {
  addTally,
  type By,
  emptyTally,
  type FactDay,
  groupOf,
  type Each,
  tally,
  type Tally,
  type Tallies,
} from '../../core/measures/tally';
import type { Part } from '../../core/measures/factparts';
import { goalOf, type QueueSettings } from '../../core/routing/queue';
import type { Host } from '../ground/host';
import type { Asked, Range } from './asking';
import { factDays } from './factdays';

/** A figure as it is described: everything about it but the code that makes it. */
export type FigureWords = Pick<Measure, 'id' | 'name' | 'unit' | 'formula' | 'countsBy' | 'moreIsBetter'>;
export type Figure = FigureWords & {
  readonly value: number | null;
  readonly before: number | null;
  /** Of how many it speaks. */
  readonly count: number;
};

export const wordsOf = ({ id, name, unit, formula, countsBy, moreIsBetter }: Measure): FigureWords => ({
  id,
  name,
  unit,
  formula,
  countsBy,
  moreIsBetter,
});
export const measuresOf = (ids: readonly string[]): Measure[] => ids.flatMap((id) => measureById(id) ?? []);

export const figuresOf = (measures: readonly Measure[], now: Tally, then: Tally): Figure[] =>
  measures.map((m) => ({ ...wordsOf(m), value: m.value(now), before: m.value(then), count: m.count(now) }));

/** The days of what is asked, and of what it is compared with. */
export type Compared = { readonly now: readonly FactDay[]; readonly then: readonly FactDay[] };
export const daysOf = (host: Host, asked: Asked): Compared => ({
  now: factDays(host, asked.now.spans),
  then: factDays(host, asked.then.spans),
});

export type LineUnit = 'hour' | 'day' | 'week';
/** The figures through a range: at each point what they were, and at the same point of the range before. */
export type Line = {
  readonly unit: LineUnit;
  readonly points: readonly {
    /** The day (its week’s first), and the hour where it goes by hours. */
    readonly day: string;
    readonly hour: number | null;
    readonly values: Readonly<Record<string, number | null>>;
    readonly before: Readonly<Record<string, number | null>>;
  }[];
};
/** Quantiles need each length. */
const EACH: Each = ['waits'];

const unitOf = (days: number): LineUnit => (days <= 2 ? 'hour' : days <= 62 ? 'day' : 'week');

/** Tallies through a range, by its unit: one for each point, in order. */
function through(days: readonly FactDay[], range: Range, unit: LineUnit): Tally[] {
  const found = tally(days, range.narrowing, { by: unit === 'hour' ? ['day', 'hour'] : ['day'], each: EACH });
  const of = (name: string) => found.get(name) ?? emptyTally(EACH);
  if (unit === 'hour')
    return range.spans.flatMap((span) => [...new Set(span.hours)].map((hour) => of(`${span.from}\n${hour}`)));
  const daily = range.spans.map((span) => of(String(span.from)));
  if (unit === 'day') return daily;
  const weeks: Tally[] = [];
  daily.forEach((day, i) => {
    if (i % 7 === 0) weeks.push(emptyTally(EACH));
    const week = weeks.at(-1);
    if (week) addTally(week, day);
  });
  return weeks;
}

/** The figures of a range and of the one it is compared with, whole and through them. */
export function figuresThrough(
  measures: readonly Measure[],
  days: Compared,
  asked: Asked,
): { readonly figures: Figure[]; readonly line: Line; readonly now: Tally; readonly then: Tally } {
  const unit = unitOf(asked.now.spans.length);
  const [nows, thens] = [through(days.now, asked.now, unit), through(days.then, asked.then, unit)];
  const [now, then] = [emptyTally(EACH), emptyTally(EACH)];
  for (const one of nows) addTally(now, one);
  for (const one of thens) addTally(then, one);
  const places =
    unit === 'hour'
      ? asked.now.spans.flatMap((span, i) =>
          [...new Set(span.hours)].map((hour) => ({ day: dayAt(asked.now, i), hour })),
        )
      : nows.map((_, i) => ({ day: dayAt(asked.now, unit === 'week' ? i * 7 : i), hour: null }));
  const valuesOf = (one: Tally | undefined) =>
    Object.fromEntries(measures.map((m) => [m.id, one ? m.value(one) : null]));
  return {
    now,
    then,
    figures: figuresOf(measures, now, then),
    line: {
      unit,
      points: places.map((place, i) => ({ ...place, values: valuesOf(nows[i]), before: valuesOf(thens[i]) })),
    },
  };
}
const dayAt = (range: Range, i: number): string => plusDays(range.from, i);

/** Contacts started by weekday (Monday 1) and hour, and the share of visits in goal. */
export type BusyHour = {
  readonly day: number;
  readonly hour: number;
  readonly started: number;
  readonly offered: number;
  readonly inGoal: number | null;
};
export function busyHours(days: readonly FactDay[], range: Range): BusyHour[] {
  const weekday = new Map(range.spans.map((span, i) => [String(span.from), weekdayOf(dayAt(range, i))]));
  const cells = new Map<string, { readonly day: number; readonly hour: number; readonly tally: Tally }>();
  const found = tally(days, range.narrowing, { by: ['day', 'hour'], parts: ['contacts', 'visits'] });
  for (const [name, one] of found) {
    const [dayFrom = '', hour = '0'] = groupOf(name);
    const day = weekday.get(dayFrom) ?? 1;
    const key = `${day}|${hour}`;
    let cell = cells.get(key);
    if (!cell) cells.set(key, (cell = { day, hour: Number(hour), tally: emptyTally() }));
    addTally(cell.tally, one);
  }
  return [...cells.values()].map(({ day, hour, tally: t }) => ({
    day,
    hour,
    started: t.contacts.started,
    offered: t.visits.offered,
    inGoal: t.visits.rated === 0 ? null : t.visits.inGoal / t.visits.rated,
  }));
}

/** What is counted of each thing of a kind. */
export function eachOf(days: readonly FactDay[], range: Range, key: By, parts?: readonly Part[]): Map<string, Tally> {
  return new Map(tally(days, range.narrowing, { by: [key], each: EACH, ...(parts ? { parts } : {}) }));
}

export type GoalOfShare = { readonly wanted: number | null; readonly standing: GoalStanding | null };
/** How a share stands to the goals that are set now, over the queues and channels of what it was counted of. */
export function goalsOf(
  queues: ReadonlyMap<string, QueueSettings>,
  found: Tallies,
  countOf: (tally: Tally) => number,
): (share: number | null, isOf?: (group: readonly string[]) => boolean) => GoalOfShare {
  return (share, isOf = () => true) => {
    const counts = [...found].flatMap(([name, one]) => {
      const group = groupOf(name);
      const [queueId = '', channel = 'voice'] = group.slice(-2);
      const queue = queues.get(queueId);
      const all = countOf(one);
      return queue && all > 0 && isOf(group) ? [{ all, goal: goalOf(queue, channel as Channel) }] : [];
    });
    const wanted = wantedShare(counts);
    return { wanted, standing: share === null || wanted === null ? null : goalStanding(share, wanted) };
  };
}
