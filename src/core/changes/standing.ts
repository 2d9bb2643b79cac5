import type { FactDay } from '../measures/columns';
import { type Measure, measureById } from '../measures/definitions';
import { groupOf } from '../measures/grouping';
import type { Narrowing } from '../measures/narrowing';
import { LEAST } from './changes';
import { chanceOf, discoveries, type Question } from './discoveries';
import { type Cell, cellsOver } from './gather';

/** At most this many of each kind, and at most this share of all by chance. */
const MOST = 4;
const RATE = 0.05;
/** Only one way is looked for; what it is held against is known, or as good as. */
const oneSided = (score: number): number => (score > 0 ? chanceOf({ score, df: 1e6 }) / 2 : 1);

/** A share of some rows beside what it is held against: its goal, or the same share of all others. */
type Stands = { readonly share: number; readonly count: number; readonly against: number };

/**
 * What stands out in a range, whatever it was before: hours of a queue, or of a language, in which the goal is missed;
 * somebody who carries nearly all of a language in a queue that others serve as well; somebody who leaves far more offers
 * than others; a line of a bot where far more leave than elsewhere; somebody who hardly has a moment where others of their
 * team do. It may be the same week after week.
 */
export type Standing =
  | (Stands & {
      readonly kind: 'peak' | 'gap';
      /** The queue (peak) or language (gap). */ readonly id: string;
      /** Monday 1; null where it is so on all days. */ readonly weekday: number | null;
      /** Hours of the clock, `to` not in it; null for all of the day. */
      readonly hours: { readonly from: number; readonly to: number } | null;
    })
  | (Stands & { readonly kind: 'alone'; readonly id: string; readonly queueId: string; readonly language: string })
  | (Stands & { readonly kind: 'offers' | 'line' | 'busy'; readonly id: string });

/** `far`: whether it is far enough to be worth a sentence, however certain. */
/** How busy somebody was on each of their days of the range, and of the weeks before, 0 to 1; and whom they are compared with. */
export type Workload = {
  readonly id: string;
  readonly teamId: string;
  readonly days: readonly number[];
  readonly before: readonly number[];
};

/** `far`: whether it is far enough to be worth a sentence, however certain. */
type Found = Standing & Question & { readonly size: number; readonly far: boolean };

/** `goalOf` gives the share that a queue is meant to reach (0 to 1), null where it has no goal. */
export function standingOut(
  days: readonly FactDay[],
  /** Days before: what stands out in hours of the week is surer where it did so in earlier weeks. */
  earlier: readonly FactDay[],
  asked: Narrowing,
  goalOf: (queueId: string) => number | null,
  workloads: readonly Workload[] = [],
): Standing[] {
  const families = {
    peak: peaks(days, earlier, asked, goalOf),
    gap: gaps(days, earlier, asked),
    alone: alone(days, asked),
    offers: outliers(days, asked, 'missed', 'person', 'offers'),
    line: outliers(days, asked, 'left-at-line', 'line', 'line'),
    busy: overloaded(workloads),
  };
  const shares = Object.fromEntries(Object.keys(families).map((family) => [family, 1]));
  const found = discoveries(Object.values(families).flat(), shares, RATE);
  const told = Object.keys(families).map((family) =>
    merged(found.filter((f) => f.family === family && f.far))
      .sort((a, b) => b.size - a.size)
      .slice(0, MOST),
  );
  // The largest of each kind, then the second of each: one kind does not push the others out of sight.
  return Array.from({ length: MOST }, (_, place) => told.flatMap((of) => of[place] ?? []))
    .flat()
    .map(({ family: _family, chance: _chance, size: _size, far: _far, ...standing }) => standing as Standing);
}

const plus = (cells: readonly (Cell | undefined)[]): Cell =>
  cells.reduce<Cell>((sum, cell) => ({ good: sum.good + (cell?.good ?? 0), all: sum.all + (cell?.all ?? 0) }), {
    good: 0,
    all: 0,
  });
const less = (whole: Cell, part: Cell): Cell => ({ good: whole.good - part.good, all: whole.all - part.all });
const shareOf = ({ good, all }: Cell): number => (all === 0 ? 0 : good / all);
/** How far some lie below a share they are held against, in standard errors; `noise` is a ratio of variances. */
const below = ({ good, all }: Cell, against: number, noise: number): number =>
  (all * against - good) / Math.sqrt(all * against * (1 - against) * noise);
/** How far a share lies above that of others, in standard errors. */
function above(some: Cell, others: Cell, noise: number): number {
  const both = shareOf(plus([some, others]));
  if (both === 0 || both === 1) return 0;
  return (shareOf(some) - shareOf(others)) / Math.sqrt(both * (1 - both) * noise * (1 / some.all + 1 / others.all));
}
/** Waits come in clusters, and within an hour or two more so than over days (see the noise of queueing in changes.ts). */
const QUEUEING = 4;
const SINGLE = 1.5;
/** Hours that are looked at together. */
const WINDOW = 2;

const level = () => measureById('service-level') as Measure;

type Hours = { readonly from: number; readonly to: number };
/** Windows of hours [from, from + WINDOW) that lie within the day. */
const WINDOWS = Array.from({ length: 25 - WINDOW }, (_, from) => ({ from, to: from + WINDOW }));
const within = (cells: (hour: number) => Cell | undefined, { from, to }: Hours): Cell =>
  plus(Array.from({ length: to - from }, (_, i) => cells(from + i)));

function peaks(
  days: readonly FactDay[],
  earlier: readonly FactDay[],
  asked: Narrowing,
  goalOf: (queueId: string) => number | null,
): Found[] {
  const [hourly, before] = [days, earlier].map((d) => cellsOver(d, asked, level(), ['queue', 'weekday', 'hour'])) as [
    Map<string, Cell>,
    Map<string, Cell>,
  ];
  const queues = [...new Set([...hourly.keys()].map((name) => groupOf(name)[0] ?? ''))];
  return queues.flatMap((id): Found[] => {
    const goal = goalOf(id);
    if (goal === null || goal <= 0 || goal >= 1) return [];
    const whole = plus([...hourly].filter(([name]) => groupOf(name)[0] === id).map(([, cell]) => cell));
    const found = (cell: Cell, weeks: Cell, weekday: number | null, hours: Hours | null, far: boolean): Found[] =>
      cell.all < LEAST
        ? []
        : [
            {
              kind: 'peak',
              family: 'peak',
              id,
              weekday,
              hours,
              share: shareOf(cell),
              count: cell.all,
              against: goal,
              chance: oneSided(below(weeks, goal, QUEUEING)),
              size: cell.all * goal - cell.good,
              far,
            },
          ];
    return [
      ...found(whole, whole, null, null, shareOf(whole) <= goal - 0.05),
      ...[1, 2, 3, 4, 5, 6, 7].flatMap((weekday) =>
        WINDOWS.flatMap((hours) => {
          const at = (cells: ReadonlyMap<string, Cell>) => within((h) => cells.get(`${id}\n${weekday}\n${h}`), hours);
          const cell = at(hourly);
          // Hours are only worth naming where the rest of the time is better.
          const far = shareOf(cell) <= goal - 0.1 && shareOf(cell) <= shareOf(less(whole, cell)) - 0.1;
          return found(cell, plus([cell, at(before)]), weekday, hours, far);
        }),
      ),
    ];
  });
}

/** Hours in which one language is answered far less in goal than all others are in the same hours. */
function gaps(days: readonly FactDay[], earlier: readonly FactDay[], asked: Narrowing): Found[] {
  const [hourly, before] = [days, earlier].map((d) => cellsOver(d, asked, level(), ['language', 'hour'])) as [
    Map<string, Cell>,
    Map<string, Cell>,
  ];
  const languages = [...new Set([...hourly.keys()].map((name) => groupOf(name)[0] ?? ''))];
  const at = (cells: ReadonlyMap<string, Cell>, language: string, hours: Hours) =>
    within((hour) => cells.get(`${language}\n${hour}`), hours);
  return languages.flatMap((id): Found[] =>
    WINDOWS.flatMap((hours) => {
      const rest = languages.filter((one) => one !== id);
      const cell = at(hourly, id, hours);
      const others = plus(rest.map((one) => at(hourly, one, hours)));
      const weeks = plus([cell, at(before, id, hours)]);
      const othersWeeks = plus([others, ...rest.map((one) => at(before, one, hours))]);
      if (cell.all < LEAST || others.all < LEAST) return [];
      return [
        {
          kind: 'gap',
          family: 'gap',
          id,
          weekday: null,
          hours,
          share: shareOf(cell),
          count: cell.all,
          against: shareOf(others),
          chance: oneSided(above(othersWeeks, weeks, QUEUEING)),
          size: cell.all * shareOf(others) - cell.good,
          far: shareOf(cell) <= shareOf(others) - 0.2,
        },
      ];
    }),
  );
}

/** People without whom a queue is hardly a queue of several. */
const SEVERAL = 4;
/** Who takes nearly all contacts of a language in a queue that others serve as well. */
function alone(days: readonly FactDay[], asked: Narrowing): Found[] {
  const legs = cellsOver(days, asked, measureById('handled') as Measure, ['queue', 'language', 'person']);
  const groups = new Map<string, { person: string; all: number }[]>();
  const inQueue = new Map<string, Map<string, number>>();
  for (const [name, { all }] of legs) {
    const [queue = '', language = '', person = ''] = groupOf(name);
    const of = `${queue}\n${language}`;
    groups.set(of, [...(groups.get(of) ?? []), { person, all }]);
    const people = inQueue.get(queue) ?? new Map<string, number>();
    people.set(person, (people.get(person) ?? 0) + all);
    inQueue.set(queue, people);
  }
  return [...groups].flatMap(([of, people]): Found[] => {
    const [queueId = '', language = ''] = groupOf(of);
    const total = people.reduce((n, p) => n + p.all, 0);
    const regulars = [...(inQueue.get(queueId)?.values() ?? [])].filter((n) => n >= 10).length;
    const first = people.reduce((a, b) => (b.all > a.all ? b : a));
    if (total < LEAST || regulars < SEVERAL) return [];
    return [
      {
        kind: 'alone',
        family: 'alone',
        id: first.person,
        queueId,
        language,
        share: first.all / total,
        count: total,
        against: 1 / regulars,
        chance: oneSided((first.all - total / 2) / Math.sqrt((total / 4) * SINGLE)),
        size: first.all,
        far: first.all / total >= 0.6,
      },
    ];
  });
}

/** Fewer days than this say nothing; who is less busy than this has moments left. */
const DAYS_AT_LEAST = 3;
const HARDLY_A_MOMENT = 0.9;
/** Who is busy on nearly all of their time, and far more than the others of their team. */
function overloaded(workloads: readonly Workload[]): Found[] {
  return workloads.flatMap((one): Found[] => {
    const mates = workloads.filter((w) => w.teamId === one.teamId && w.id !== one.id);
    const others = mates.flatMap((w) => w.days);
    if (one.days.length < DAYS_AT_LEAST || others.length < DAYS_AT_LEAST) return [];
    const [mine, theirs] = [spreadOf(one.days), spreadOf(others)];
    // It is surer where it was so in the weeks before as well. A day of theirs varies like a day of others; a few days do
    // not say how.
    const [long, longOthers] = [
      spreadOf([...one.before, ...one.days]),
      spreadOf([...mates.flatMap((w) => w.before), ...others]),
    ];
    const error = Math.sqrt(
      Math.max(long.variance, longOthers.variance) / (one.before.length + one.days.length) +
        longOthers.variance / others.length,
    );
    return [
      {
        kind: 'busy',
        family: 'busy',
        id: one.id,
        share: mine.mean,
        count: one.days.length,
        against: theirs.mean,
        chance: error === 0 ? 1 : oneSided((long.mean - longOthers.mean) / error),
        size: mine.mean - theirs.mean,
        far: mine.mean >= HARDLY_A_MOMENT && mine.mean >= theirs.mean + 0.1,
      },
    ];
  });
}
function spreadOf(values: readonly number[]): { readonly mean: number; readonly variance: number } {
  const mean = values.reduce((n, v) => n + v, 0) / values.length;
  return { mean, variance: values.reduce((n, v) => n + (v - mean) ** 2, 0) / Math.max(1, values.length - 1) };
}

/** Things of which a share is at least twice, and five points above, that of all others together. */
function outliers(
  days: readonly FactDay[],
  asked: Narrowing,
  measure: string,
  by: 'person' | 'line',
  kind: 'offers' | 'line',
): Found[] {
  const cells = cellsOver(days, asked, measureById(measure) as Measure, [by]);
  const whole = plus([...cells.values()]);
  return [...cells].flatMap(([id, cell]): Found[] => {
    const others = less(whole, cell);
    if (cell.all < LEAST || others.all < LEAST) return [];
    const [share, against] = [shareOf(cell), shareOf(others)];
    return [
      {
        kind,
        family: kind,
        id,
        share,
        count: cell.all,
        against,
        chance: oneSided(above(cell, others, SINGLE)),
        size: cell.good - cell.all * against,
        far: share >= against + 0.05 && share >= 2 * against,
      },
    ];
  });
}

/** Windows that touch are one: the hours in which it was worst say where. */
function merged(found: readonly Found[]): Found[] {
  const kept: Found[] = [];
  for (const one of [...found].sort((a, b) => a.chance - b.chance)) {
    const same = kept.find(
      (k) =>
        k.id === one.id &&
        'hours' in k &&
        'hours' in one &&
        k.weekday === one.weekday &&
        k.hours !== null &&
        one.hours !== null &&
        one.hours.from <= k.hours.to &&
        k.hours.from <= one.hours.to,
    );
    if (!same) kept.push(one);
  }
  return kept;
}
