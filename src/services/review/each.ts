import { LaneError } from '../../core/errors';
import { countedFor } from '../../core/measures/definitions';
import type { GoalStanding } from '../../core/measures/servicelevel';
import type { Tally } from '../../core/measures/tally';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import { type Asked, askedOf, type NarrowedBy } from './asking';
import { type Compared, daysOf, eachOf, type FigureWords, goalsNow, measuresOf, standingOf, wordsOf } from './figures';
import { namesOf, type ThingKey } from './names';
import { type AskedView, askedView } from './askedview';

/** How long a matter took a customer, over all that they began for it, and what it took. */
const JOURNEYS = ['journey', 'journey-several', 'journey-channels', 'journey-people'] as const;

/**
 * The kinds of things that Review has a page for: by which key their rows are told apart, the figures of each in reading
 * order (the first is what it is put in order by), and by what a page of one is split further.
 */
export const KINDS = {
  people: {
    one: 'person',
    name: 'People',
    key: 'person',
    figures: ['handled', 'handle-time', 'own-reply', 'met', 'missed', 'passed-on', 'came-back', 'rating'],
    splits: ['queue', 'channel', 'outcome'],
  },
  teams: {
    one: 'team',
    name: 'Teams',
    key: 'team',
    figures: ['handled', 'handle-time', 'own-reply', 'met', 'missed', 'passed-on', 'came-back', 'rating'],
    splits: ['person', 'queue', 'outcome'],
  },
  queues: {
    one: 'queue',
    name: 'Queues',
    key: 'queue',
    figures: [
      'offered',
      'service-level',
      'speed',
      'speed-90',
      'gave-up',
      'handled',
      'handle-time',
      'missed',
      'came-back',
      'rating',
      'upset',
      'wait-told',
      'wait-after-told',
      'told-wrong-by',
      'rung-back',
      'messages-met',
    ],
    splits: ['channel', 'person', 'language', 'outcome'],
  },
  channels: {
    one: 'channel',
    name: 'Channels',
    key: 'channel',
    figures: [
      'started',
      'messages-in',
      'messages-out',
      'messages-person',
      'bot',
      'left-bot',
      'offered',
      'service-level',
      'speed',
      'gave-up',
      'handle-time',
      'first-to-last',
      'journey',
      'journey-several',
      'journey-channels',
      'rating',
      'upset',
    ],
    splits: ['queue', 'door', 'language'],
  },
  doors: {
    one: 'door',
    name: 'Doors',
    key: 'door',
    figures: [
      'started',
      'messages-in',
      'messages-out',
      'messages-person',
      'bot',
      'left-bot',
      'offered',
      'service-level',
      'speed',
      'gave-up',
      ...JOURNEYS,
      'rating',
      'upset',
    ],
    splits: ['queue', 'bot', 'language'],
  },
  bots: {
    one: 'bot',
    name: 'Bots',
    key: 'bot',
    figures: [
      'started',
      'bot',
      'left-bot',
      'came-back',
      ...JOURNEYS,
      'rating',
      'upset',
      'offered',
      'service-level',
      'gave-up',
    ],
    splits: ['door', 'queue', 'language'],
  },
  lines: {
    one: 'line of a bot',
    name: 'Bot lines',
    key: 'line',
    figures: ['came-to-line', 'missed-at-line', 'left-at-line'],
    splits: ['language', 'door', 'channel'],
  },
  intents: {
    one: 'intent',
    name: 'Intents',
    key: 'intent',
    figures: [
      'started',
      'bot',
      'left-bot',
      'came-back',
      'rating',
      'upset',
      'first-to-last',
      'journey',
      'journey-people',
    ],
    splits: ['bot', 'channel', 'language'],
  },
  stages: {
    one: 'stage of a queue',
    name: 'Queue stages',
    key: 'stage',
    figures: ['offered', 'answered', 'gave-up', 'speed'],
    splits: ['channel', 'person', 'language'],
  },
  languages: {
    one: 'language',
    name: 'Languages',
    key: 'language',
    figures: ['started', 'bot', 'left-bot', 'offered', 'service-level', 'speed', 'gave-up', 'handle-time'],
    splits: ['queue', 'person', 'door'],
  },
  skills: {
    one: 'skill',
    name: 'Skills',
    key: 'skill',
    figures: ['offered', 'service-level', 'speed', 'speed-90', 'gave-up', 'handle-time', 'missed'],
    splits: ['queue', 'person', 'channel'],
  },
  outcomes: {
    one: 'outcome',
    name: 'Outcomes',
    key: 'outcome',
    figures: ['handled', 'handle-time', 'passed-on', 'came-back', 'rating'],
    splits: ['person', 'queue', 'channel'],
  },
} as const satisfies Record<
  string,
  {
    readonly one: string;
    readonly name: string;
    readonly key: ThingKey;
    readonly figures: readonly string[];
    readonly splits: readonly NarrowedBy[];
  }
>;
export type Kind = keyof typeof KINDS;
export const isKind = (text: string | null): text is Kind => text !== null && Object.hasOwn(KINDS, text);
export function kindOf(text: string | null): Kind {
  if (!isKind(text)) throw new LaneError('not-found', 'Review has no such page.');
  return text;
}

/** The figures that stand beside each other in the table of a kind: as many as there is room for. All are on each one's page. */
const IN_TABLE: Partial<Record<Kind, readonly string[]>> = {
  queues: ['offered', 'service-level', 'speed-90', 'gave-up', 'handled', 'handle-time', 'missed', 'rating'],
  channels: ['started', 'messages-in', 'messages-out', 'left-bot', 'service-level', 'speed', 'gave-up', 'rating'],
  bots: ['started', 'bot', 'left-bot', 'came-back', 'rating', 'offered', 'service-level', 'gave-up'],
  intents: ['started', 'bot', 'left-bot', 'came-back', 'rating', 'upset', 'first-to-last'],
  doors: ['started', 'messages-in', 'bot', 'left-bot', 'service-level', 'speed', 'gave-up', 'rating'],
};
export const columnsOf = (kind: Kind): FigureWords[] => measuresOf(IN_TABLE[kind] ?? KINDS[kind].figures).map(wordsOf);

/** One thing of a kind: each figure of it in the range, in the one it is compared with, and of how many it speaks. */
export type EachRow = {
  readonly id: string;
  readonly name: string;
  readonly values: Readonly<Record<string, number | null>>;
  readonly before: Readonly<Record<string, number | null>>;
  readonly counts: Readonly<Record<string, number>>;
  /** How its share in goal stands to the goals of what it was counted of. */
  readonly standing: GoalStanding | null;
};
export type EachView = AskedView & {
  readonly kind: Kind;
  /** What things of the kind are called, all and one. */
  readonly name: string;
  readonly one: string;
  readonly columns: readonly FigureWords[];
  readonly rows: readonly EachRow[];
};

/** Each thing of a kind, most first. A reader of some teams finds their own people and teams only. */
export function eachRows(host: Host, actor: Actor, asked: Asked, days: Compared, kind: Kind): EachRow[] {
  const { key, figures } = KINDS[kind];
  const measures = measuresOf(figures);
  const counted = countedFor(measures);
  const now = eachOf(days.now, asked.now, key, { ...counted, goals: goalsNow(host) });
  const then = eachOf(days.then, asked.then, key, counted);
  const may = mayRead(host, actor, key);
  const chosen = asked.now.narrowing[key];
  const nameOf = namesOf(host, actor);
  const first = measures[0];
  return [...now]
    .filter(([id, one]) => may(id) && (chosen?.includes(id) ?? true) && measures.some((m) => m.count(one) > 0))
    .map(([id, one]) => ({
      id,
      name: nameOf(key, id),
      values: valuesOf(measures, one),
      before: valuesOf(measures, then.get(id)),
      counts: Object.fromEntries(measures.map((m) => [m.id, m.count(one)])),
      standing: standing(key, one),
    }))
    .sort(
      (a, b) =>
        (b.values[first?.id ?? ''] ?? 0) - (a.values[first?.id ?? ''] ?? 0) ||
        (a.name < b.name ? -1 : a.name > b.name ? 1 : 0),
    );
}
const valuesOf = (measures: ReturnType<typeof measuresOf>, one: Tally | undefined) =>
  Object.fromEntries(measures.map((m) => [m.id, one ? m.value(one) : null]));

export function mayRead(host: Host, actor: Actor, key: ThingKey): (id: string) => boolean {
  const { people, queues } = sightOf(host, actor);
  if (key === 'person') return (id) => people?.has(id) ?? true;
  if (key === 'queue') return (id) => queues?.has(id) ?? true;
  if (key === 'team') return (id) => actor.teams === 'all' || actor.teams.includes(id);
  return () => true;
}

/** People and teams are judged by what they could have met, all else by the service level. */
const standing = (key: ThingKey, { legs, visits }: Tally): GoalStanding | null =>
  (key === 'person' || key === 'team'
    ? standingOf(legs.met, legs.possible, legs.wanted)
    : standingOf(visits.inGoal, visits.rated, visits.wanted)
  ).standing;

export function viewEach(host: Host, actor: Actor, input: unknown): EachView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const kind = kindOf(asked.kind);
  const days = daysOf(host, asked);
  return {
    ...askedView(host, actor, asked),
    kind,
    name: KINDS[kind].name,
    one: KINDS[kind].one,
    columns: columnsOf(kind),
    rows: eachRows(host, actor, asked, days, kind),
  };
}
