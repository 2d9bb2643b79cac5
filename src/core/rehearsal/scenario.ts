import type { Chance } from '../chance';
import type { Channel } from '../channels';
import type { ChannelLoad } from '../people/load';
import type { GroupFacts, NumberFacts, PartnerFacts } from '../routing/floor';
import type { Limits } from '../routing/limits';
import type { LimitKind } from '../routing/limits';
import type { Need } from '../routing/needs';
import type { QueueSettings } from '../routing/queue';

/**
 * How long something takes, in seconds. `listed` gives the next one each time, over and over; `variation` is sd ÷
 * mean.
 */
export type Duration =
  | { readonly kind: 'exponential'; readonly mean: number }
  | { readonly kind: 'log-normal'; readonly mean: number; readonly variation: number }
  | { readonly kind: 'fixed'; readonly seconds: number }
  | { readonly kind: 'listed'; readonly seconds: readonly number[] };

/**
 * Somebody, or several people alike: what they know, what they take, when they are there. Seconds count from the
 * scenario's start.
 */
export type Pool = {
  readonly id: string;
  readonly size: number;
  readonly skills: Readonly<Record<string, number>>;
  readonly duty: readonly {
    readonly queue: string;
    readonly channel: Channel;
    readonly band: number;
    readonly delaySeconds: number;
  }[];
  readonly load: Readonly<Partial<Record<Channel, ChannelLoad>>>;
  /** When they are on duty; empty is all the time. Whoever has a contact at the end of it finishes it first. */
  readonly shifts: readonly { readonly fromSeconds: number; readonly toSeconds: number }[];
  /** How long they take to accept an offer. */
  readonly answer: Duration;
};

/** Contacts that come to a queue: at constant rates, interval by interval (Poisson), or at listed seconds. */
export type Arrivals = {
  readonly queue: string;
  readonly channel: Channel;
  readonly rates: readonly { readonly fromSeconds: number; readonly toSeconds: number; readonly perHour: number }[];
  readonly listed: readonly number[];
  readonly needs: readonly Need[];
  readonly priority: number;
  readonly handle: Duration;
  /** Null waits for ever. */
  readonly patience: Duration | null;
};

export type ScenarioGroup = {
  readonly id: string;
  readonly members: readonly string[];
  readonly limits: Limits;
  readonly instead: readonly LimitKind[];
  readonly weights: Readonly<Record<string, number>>;
};
export type ScenarioPartner = Omit<PartnerFacts, 'zone' | 'hours' | 'numbers'> & {
  readonly numbers: readonly { readonly id: string; readonly limits: Limits }[];
  readonly answer: Duration;
  readonly handle: Duration;
};

/**
 * A day, or any stretch of time, to be run through the router. The published schema is
 * `docs/formats/rehearsal-scenario.schema.json`.
 */
export type Scenario = {
  readonly name: string;
  readonly seed: number;
  readonly runs: number;
  readonly lengthSeconds: number;
  /** What enters before this second is not measured. */
  readonly warmUpSeconds: number;
  readonly zone: string;
  /** The instant of second 0, UTC ms. */
  readonly startsAt: number;
  readonly queues: readonly QueueSettings[];
  readonly pools: readonly Pool[];
  readonly arrivals: readonly Arrivals[];
  readonly groups: readonly ScenarioGroup[];
  readonly partners: readonly ScenarioPartner[];
};

/** A source of durations (seconds); listed ones go on where they were. */
export function sampler(duration: Duration, chance: Chance): () => number {
  switch (duration.kind) {
    case 'exponential':
      return () => chance.exponential(duration.mean);
    case 'log-normal':
      return () => chance.lognormal(duration.mean, duration.variation);
    case 'fixed':
      return () => duration.seconds;
    case 'listed': {
      let next = 0;
      return () => duration.seconds[next++ % duration.seconds.length] ?? 0;
    }
  }
}

/**
 * Instants (seconds) at which contacts come, in order: listed ones, then a Poisson process whose rate is constant
 * over each interval.
 */
export function* arrivalTimes(arrivals: Arrivals, chance: Chance, untilSeconds: number): Generator<number> {
  const listed = [...arrivals.listed].sort((a, b) => a - b);
  let l = 0;
  for (const { fromSeconds, toSeconds, perHour } of arrivals.rates) {
    if (perHour <= 0) continue;
    const gap = 3600 / perHour;
    // Memoryless, so that each interval may begin afresh.
    for (let at = fromSeconds + chance.exponential(gap); at < toSeconds; at += chance.exponential(gap)) {
      while (l < listed.length && (listed[l] as number) <= at) yield listed[l++] as number;
      if (at >= untilSeconds) return;
      yield at;
    }
  }
  while (l < listed.length) yield listed[l++] as number;
}

export const numberFacts = (id: string, limits: Limits, zone: string): NumberFacts => ({
  id,
  address: id,
  zone,
  hours: null,
  limits,
  perQueue: new Map(),
});
export const groupFactsOf = (
  g: ScenarioGroup,
  people: readonly { readonly id: string; readonly pool: string }[],
  zone: string,
): GroupFacts => ({
  id: g.id,
  zone,
  hours: null,
  limits: g.limits,
  instead: g.instead,
  members: new Map(
    people
      .filter((p) => g.members.includes(p.pool) || g.members.includes(p.id))
      .map((p) => [p.id, g.weights[p.id] ?? g.weights[p.pool] ?? 1]),
  ),
});
