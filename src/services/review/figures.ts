import type { Channel } from '../../core/channels';
import { plusDays } from '../../core/hours/dates';
import { countedFor, measureById, type Measure } from '../../core/measures/definitions';
import { goalStanding, type GoalStanding } from '../../core/measures/servicelevel';
import type { FactDay } from '../../core/measures/columns';
import { tally, type Tallies, type TallyOptions } from '../../core/measures/counting';
import { type By, groupOf } from '../../core/measures/grouping';
import { addTally, emptyTally, shareOf, type Tally } from '../../core/measures/tally';
import { goalOf } from '../../core/routing/queue';
import { readQueues } from '../../data/queuesettings';
import type { Host } from '../ground/host';
import { type Asked, type Range, spansOf } from './asking';
import { factDays } from './factdays';
import { type HourStaff, hourKey } from './staffing';

/** A figure as it is described: everything about it but the code that makes it. */
export type FigureWords = Pick<Measure, 'id' | 'name' | 'unit' | 'formula' | 'countsBy' | 'moreIsBetter'>;
export type Figure = FigureWords & {
  readonly value: number | null;
  readonly before: number | null;
  /** Of how many it speaks. */
  readonly count: number;
  /** How it came about, where that is not the same for all of it. */
  readonly note: string | null;
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
  measures.map((m) => ({
    ...wordsOf(m),
    value: m.value(now),
    before: m.value(then),
    count: m.count(now),
    note: m.note?.(now) ?? null,
  }));

/** The days of what is asked, and of what it is compared with. */
export type Compared = { readonly now: readonly FactDay[]; readonly then: readonly FactDay[] };
export const daysOf = (host: Host, asked: Asked): Compared => ({
  now: factDays(host, spansOf(asked.now)),
  then: factDays(host, spansOf(asked.then)),
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
const unitOf = (days: number): LineUnit => (days <= 2 ? 'hour' : days <= 62 ? 'day' : 'week');

/** Tallies through a range, by its unit: one for each point, in order. */
function through(
  days: readonly FactDay[],
  range: Range,
  unit: LineUnit,
  counted: Pick<TallyOptions, 'parts' | 'lengths'>,
): Tally[] {
  const found = tally(days, range.narrowing, { by: unit === 'hour' ? ['day', 'hour'] : ['day'], ...counted });
  const of = (name: string) => found.get(name) ?? emptyTally();
  if (unit === 'hour')
    return days.flatMap((span) => [...new Set(span.hours)].map((hour) => of(`${span.from}\n${hour}`)));
  const daily = days.map((span) => of(String(span.from)));
  if (unit === 'day') return daily;
  const weeks: Tally[] = [];
  daily.forEach((day, i) => {
    if (i % 7 === 0) weeks.push(emptyTally());
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
  const unit = unitOf(days.now.length);
  const counted = countedFor(measures);
  const [nows, thens] = [through(days.now, asked.now, unit, counted), through(days.then, asked.then, unit, counted)];
  const [now, then] = [emptyTally(), emptyTally()];
  for (const one of nows) addTally(now, one);
  for (const one of thens) addTally(then, one);
  const places =
    unit === 'hour'
      ? days.now.flatMap((span, i) => [...new Set(span.hours)].map((hour) => ({ day: dayAt(asked.now, i), hour })))
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
  /** People on duty and people needed; null where that is not counted. */
  readonly staff: HourStaff | null;
};
export const busyHours = (
  days: readonly FactDay[],
  range: Range,
  staff: ReadonlyMap<string, HourStaff> | null = null,
): BusyHour[] =>
  [
    ...tally(days, range.narrowing, {
      by: ['weekday', 'hour'],
      parts: ['contacts', 'visits'],
      lengths: [],
    }),
  ].map(([name, t]) => {
    const [day = 1, hour = 0] = groupOf(name).map(Number);
    return {
      day,
      hour,
      started: t.contacts.started,
      offered: t.visits.offered,
      inGoal: shareOf(t.visits.inGoal, t.visits.rated),
      staff: staff?.get(hourKey(day, hour)) ?? null,
    };
  });

/** The percent that each queue is meant to reach on a channel, as it is set now. */
export type Goals = (queueId: string, channel: string) => number;
export function goalsNow(host: Host): Goals {
  const queues = new Map(readQueues(host.db).map((q) => [q.id, q]));
  return (queueId, channel) => {
    const queue = queues.get(queueId);
    return queue ? goalOf(queue, channel as Channel).percent : 0;
  };
}

/** What is counted of each thing of a kind. */
export const eachOf = (
  days: readonly FactDay[],
  range: Range,
  key: By,
  more: Pick<TallyOptions, 'parts' | 'lengths' | 'goals'> = {},
): Tallies => tally(days, range.narrowing, { by: [key], ...more });

/** What some figures of each thing of a kind are made of, in the range and in the one it is compared with. */
export const eachCompared = (
  days: Compared,
  asked: Asked,
  key: By,
  measures: readonly Measure[],
): readonly [now: Tallies, then: Tallies] => {
  const counted = countedFor(measures);
  return [eachOf(days.now, asked.now, key, counted), eachOf(days.then, asked.then, key, counted)];
};

export type GoalOfShare = { readonly wanted: number | null; readonly standing: GoalStanding | null };
/**
 * How a share stands to the goals of what it was counted of: `wanted` adds up the percent of each. What has no goal now
 * (its queue is gone) is judged by none.
 */
export function standingOf(good: number, all: number, wanted: number): GoalOfShare {
  const [share, meant] = [shareOf(good, all), shareOf(wanted, all * 100)];
  return share === null || meant === null || meant === 0
    ? { wanted: null, standing: null }
    : { wanted: meant, standing: goalStanding(share, meant) };
}
