import type { FactDay } from '../measures/columns';
import { type Measure, measureById } from '../measures/definitions';
import type { By } from '../measures/grouping';
import type { Narrowing } from '../measures/narrowing';
import { chanceOf, discoveries, type Question } from './discoveries';
import { type DayEvidence, emptyDay, type Noise, scoreOf, type Series } from './evidence';
import { gather, kindOf } from './gather';

/** Nothing is told of fewer rows than this, on either side. */
export const LEAST = 30;
const FEW = 10;
/** At most this many sentences, and at most this share of them by chance. */
export const MOST = 7;
const RATE = 0.05;

/** What a figure speaks of: everything that is asked about, or one thing of a key. */
export type Of = Extract<By, 'queue' | 'person' | 'door' | 'bot' | 'line' | 'language' | 'outcome'> | 'all';

/** Waits come in clusters, and days are busy for reasons of their own: what that is, before any day has been looked at. */
const PRIOR = {
  queueing: { factor: 2.7, df: 20 },
  arriving: { factor: 2.5, df: 20 },
  single: { factor: 1.1, df: 60 },
} as const satisfies Record<string, Noise>;

/**
 * Which figures are looked at, of what, and which share of what may be told by chance is theirs: the more a lead can do
 * about it, the larger.
 */
const LOOKED_AT: { readonly [O in Of]?: Readonly<Record<string, number>> } = {
  all: {
    started: 0.5,
    'service-level': 1,
    speed: 0.5,
    'gave-up': 0.5,
    'handle-time': 0.5,
    'own-reply': 0.5,
    missed: 0.5,
    bot: 0.5,
    'left-bot': 0.5,
  },
  queue: { 'service-level': 3, speed: 1.5, 'handle-time': 1.5, offered: 1 },
  person: { 'handle-time': 2, missed: 1.5, 'own-reply': 1 },
  bot: { 'left-bot': 1, bot: 0.5 },
  line: { 'left-at-line': 3, 'missed-at-line': 1 },
  door: { started: 0.5 },
  language: { started: 0.5 },
  outcome: { handled: 0.5 },
};
const QUESTIONS = (Object.entries(LOOKED_AT) as [Of, Readonly<Record<string, number>>][]).flatMap(([of, figures]) =>
  Object.entries(figures).map(([figure, share]) => ({ of, figure, share, family: `${of} ${figure}` })),
);
const SHARES = Object.fromEntries(QUESTIONS.map(({ family, share }) => [family, share]));
const NOISE: Readonly<Record<string, Noise>> = {
  started: PRIOR.arriving,
  offered: PRIOR.arriving,
  handled: PRIOR.arriving,
  'service-level': PRIOR.queueing,
  speed: PRIOR.queueing,
  'gave-up': PRIOR.queueing,
};
/** Figures that say the same in other words: one sentence is enough. */
const TOPIC: Readonly<Record<string, string>> = {
  'service-level': 'waiting',
  speed: 'waiting',
  'gave-up': 'waiting',
  'left-bot': 'leaving',
  'left-at-line': 'leaving',
  started: 'volume',
  offered: 'volume',
};

/** One thing that changed: which figure, of what, what it is and was, and of how many each speaks. */
export type Change = {
  readonly measure: string;
  readonly of: Of;
  readonly id: string;
  readonly value: number;
  readonly before: number;
  readonly count: number;
  readonly countBefore: number;
  /** How far it is from what chance would make of it, in standard errors. */
  readonly score: number;
};

/** The days that are compared, and days before both; only whole ones. */
export type ComparedDays = {
  readonly now: readonly FactDay[];
  readonly then: readonly FactDay[];
  readonly earlier: readonly FactDay[];
};

/** What changed, largest first: only what would be surprising if nothing had, and never from fewer than 30 rows. */
export function changesBetween(
  days: ComparedDays,
  asked: Narrowing,
  /** Which things may be told about. */
  may: (of: Of, id: string) => boolean = () => true,
): Change[] {
  const questions = QUESTIONS.flatMap(({ of, figure }) => candidates(days, asked, of, measureById(figure))).filter(
    (c) => may(c.of, c.id),
  );
  // What would not be told if days varied by chance alone will not be told where they vary more: only of the others is
  // it looked at what they did on earlier days.
  const possible = new Set(discoveries(questions, SHARES, RATE));
  const noisy = withEarlier([...possible], days, asked);
  const found = discoveries(
    questions.map((c) => noisy.get(c) ?? { ...c, chance: 1 }),
    SHARES,
    RATE,
  );
  return told(found.filter(worthTelling)).slice(0, MOST);
}

type Candidate = Change & Question & { readonly size: number; readonly series: Series };

/** Chance alone: no more than that can be known without looking at earlier days. */
const CHANCE_ALONE: Noise = { factor: 1, df: 1e6 };

function candidates({ now, then }: ComparedDays, asked: Narrowing, of: Of, measure: Measure | undefined): Candidate[] {
  if (!measure) return [];
  const by: readonly By[] = of === 'all' ? [] : [of];
  const [after, before] = [gather(now, asked, measure, by), gather(then, asked, measure, by)];
  const kind = kindOf(measure);
  // A contact that had several is counted for each; only those that are asked about are told of.
  const within = of === 'all' ? undefined : asked[of];
  return [...after].flatMap(([id, days]) => {
    if (within && !within.includes(id)) return [];
    const [series, a, b] = [
      {
        kind,
        now: days,
        then: before.get(id) ?? then.map((d) => emptyDay(d.weekday, kind)),
        earlier: [],
        prior: NOISE[measure.id] ?? PRIOR.single,
      } satisfies Series,
      summed(days),
      summed(before.get(id) ?? []),
    ];
    if (a.all < LEAST || b.all < LEAST) return [];
    // Where hardly anything is on one side there is nothing to ask; which side it was on is not looked at for that.
    if (kind === 'share' && Math.min(a.good + b.good, a.all + b.all - a.good - b.good) < FEW) return [];
    const score = scoreOf(series, CHANCE_ALONE);
    if (!score) return [];
    const [value, was] = [valueOf(kind, a), valueOf(kind, b, now.length / then.length)];
    return [
      {
        measure: measure.id,
        of,
        id,
        family: `${of} ${measure.id}`,
        value,
        before: was,
        count: a.all,
        countBefore: b.all,
        score: score.score,
        chance: chanceOf(score),
        size: a.all * (kind === 'share' ? Math.abs(value - was) : effect({ measure: measure.id, value, before: was })),
        series,
      },
    ];
  });
}

/** The same candidates by what such days vary anyhow, as the days before both ranges show it. */
function withEarlier(
  found: readonly Candidate[],
  { earlier }: ComparedDays,
  asked: Narrowing,
): ReadonlyMap<Candidate, Candidate> {
  const families = new Map<string, Candidate[]>();
  for (const one of found) families.set(one.family, [...(families.get(one.family) ?? []), one]);
  return new Map(
    [...families.values()].flatMap((family) => {
      const { of, measure: id } = family[0] as Candidate;
      const measure = measureById(id) as Measure;
      const ids = family.map((c) => c.id);
      const before =
        of === 'all' ? gather(earlier, asked, measure, []) : gather(earlier, { ...asked, [of]: ids }, measure, [of]);
      return family.map((c): [Candidate, Candidate] => {
        const { kind } = c.series;
        // What is not there on a day was counted and is nothing.
        const days = before.get(c.id) ?? earlier.map((d) => emptyDay(d.weekday, kind));
        const score = scoreOf({ ...c.series, earlier: days });
        return [c, score ? { ...c, score: score.score, chance: chanceOf(score) } : { ...c, chance: 1 }];
      });
    }),
  );
}

const summed = (days: readonly DayEvidence[]): { all: number; good: number; sum: number } => {
  const all = { all: 0, good: 0, sum: 0 };
  for (const day of days) {
    all.all += day.all;
    all.good += day.good;
    all.sum += day.sum;
  }
  return all;
};
/** A share, a mean in seconds, or rows in all: in as many days as are asked about. */
const valueOf = (kind: Series['kind'], { all, good, sum }: ReturnType<typeof summed>, days = 1): number =>
  kind === 'share' ? good / all : kind === 'lengths' ? sum / all / 1000 : all * days;

/** Over very many contacts the smallest change is certain. It is not worth a sentence. */
function worthTelling({ value, before, score, measure }: Candidate): boolean {
  if (value === before || value > before !== score > 0) return false;
  return measureById(measure)?.unit === 'share'
    ? Math.abs(value - before) >= 0.01
    : effect({ measure, value, before }) >= Math.log(1.05);
}

/** A part that is this share as certain as the whole carries it. */
const CARRIES = 0.7;
/** Changes without those that others tell already, largest first. */
function told(found: readonly Candidate[]): Change[] {
  const topic = (c: Candidate) => TOPIC[c.measure] ?? c.measure;
  const alike = (a: Candidate, b: Candidate) => topic(a) === topic(b) && worse(a) === worse(b);
  /** Whether the one is a part of the other. */
  const within = (part: Candidate, whole: Candidate) =>
    part.of !== whole.of &&
    (whole.of === 'all' || (whole.of === 'bot' && part.of === 'line' && part.id.startsWith(`${whole.id} `)));
  const strongest = found.filter(
    (c) => !found.some((o) => o !== c && o.of === c.of && o.id === c.id && topic(o) === topic(c) && stronger(o, c)),
  );
  return strongest
    .filter((c) => {
      // One part that carries it says more than the whole.
      if (strongest.some((o) => within(o, c) && alike(o, c) && Math.abs(o.score) >= CARRIES * Math.abs(c.score)))
        return false;
      // What all have alike is told once.
      const whole = strongest.find((o) => within(c, o) && alike(o, c));
      return !whole || Math.abs(c.score) >= CARRIES * Math.abs(whole.score) || effect(c) >= 1.5 * effect(whole);
    })
    .sort((a, b) => b.size - a.size)
    .map(({ family: _family, chance: _chance, size: _size, series: _series, ...change }) => change);
}
const stronger = (a: Candidate, b: Candidate) => Math.abs(a.score) > Math.abs(b.score);
const worse = (c: Candidate) => (c.measure === 'service-level' ? c.score < 0 : c.score > 0);
/** How many times as much it is, as a logarithm; what is next to nothing is not many times nothing. */
const effect = ({ measure, value, before }: Pick<Change, 'measure' | 'value' | 'before'>): number => {
  const next = measureById(measure)?.unit === 'share' ? 0.01 : 1;
  return Math.abs(Math.log((value + next) / (before + next)));
};
