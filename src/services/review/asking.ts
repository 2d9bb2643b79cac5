import { object, string } from 'yup';
import { CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { daysBetween, daysFrom, isDay, plusDays } from '../../core/hours/dates';
import { localDate } from '../../core/hours/weekly';
import { daySpan } from '../../core/measures/calendar';
import type { DaySpan } from '../../core/measures/columns';
import type { FactKey } from '../../core/measures/factparts';
import { CONTACT_ENDS, type ContactEnd } from '../../core/measures/facts';
import { type Mood, MOODS } from '../../core/mood/mood';
import type { ClockHours, Narrowing } from '../../core/measures/narrowing';
import { readWorkspace } from '../../data/workspace';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';

/** Days that a range may cover: thirteen months. */
const MOST_DAYS = 400;
/** Values that one key may be narrowed to. */
const MOST_VALUES = 200;

const day = string().test(
  'day',
  ({ value }) => `${String(value)} is not a day. Days are written like 2026-11-09`,
  (text) => !text || isDay(text),
);
/** Several values stand in one, with commas between them: what is asked stands in the address. */
const several = string().max(10_000, 'That are too many at once').optional();

/** By what Review can be narrowed, in the order in which it is offered. */
export const NARROWED_BY = [
  'queue',
  'channel',
  'door',
  'team',
  'person',
  'bot',
  'language',
  'outcome',
  'skill',
] as const satisfies readonly FactKey[];
export type NarrowedBy = (typeof NARROWED_BY)[number];

const askSchema = exactly(
  object({
    from: day.optional(),
    to: day.optional(),
    /** The first day of what it is compared with; as many days. Empty: the range before. */
    against: day.optional(),
    queue: several,
    channel: several,
    door: several,
    team: several,
    person: several,
    bot: several,
    language: several,
    outcome: several,
    skill: several,
    /** Hours of the clock, on one weekday (Monday 1) or all: “1-10-12”, “-18-21”. */
    clock: string()
      .matches(/^$|^[1-7]?-([01]?\d|2[0-3])-(1?\d|2[0-4])$/, 'Hours of the clock are written like 1-10-12')
      .optional(),
    hours: string().oneOf(['', 'open'], 'Hours are “open” or left out').optional(),
    measure: string().optional(),
    side: string().oneOf(['', 'with', 'without'], 'A side is “with” or “without”').optional(),
    page: string()
      .matches(/^\d{0,5}$/, 'A page is a number')
      .optional(),
    kind: string().optional(),
    id: string().optional(),
    /** What a thing is put beside: another of its kind, or (people) `team`, the mean of their team. */
    with: string().optional(),
    reason: string().optional(),
    /** Finding a contact: a part of the customer’s name or address, words said, how it ended, how long it took at least. */
    customer: string().max(200, 'That is too long to be looked for').optional(),
    words: string().max(200, 'That is too long to be looked for').optional(),
    ended: string()
      .oneOf(['', ...CONTACT_ENDS], 'No contact ends that way')
      .optional(),
    minutes: string()
      .matches(/^\d{0,5}$/, 'Minutes are a number')
      .optional(),
    /** Finding a contact: how its customer seemed to feel, and the most they gave when they rated it. */
    mood: string()
      .oneOf(['', ...MOODS], 'That is no mood')
      .optional(),
    rated: string()
      .matches(/^[1-5]?$/, 'A rating is from 1 to 5')
      .optional(),
    after: string()
      .matches(/^\d{0,12}$/, 'A place is a number')
      .optional(),
  }),
);

/** A range that is asked about: its local days, and what narrows it. */
export type Range = {
  readonly from: string;
  readonly to: string;
  readonly zone: string;
  readonly narrowing: Narrowing;
};
/** The days of a range, in order. Some 0.1 ms each the first time: for a thread of its own. */
export const spansOf = ({ from, to, zone }: Range): DaySpan[] => daysFrom(from, to).map((date) => daySpan(date, zone));

export type Asked = {
  readonly zone: string;
  /** The floor's present day. */
  readonly today: string;
  readonly now: Range;
  /** What it is compared with, which stops at the same moment of its last day while that of the range is not over. */
  readonly then: Range;
  /** What is asked, as it stands in the address; only what was asked. */
  readonly address: Readonly<Record<string, string>>;
  readonly measure: string | null;
  readonly side: 'with' | 'without' | null;
  readonly page: number;
  readonly kind: string | null;
  readonly id: string | null;
  readonly with: string | null;
  readonly reason: string | null;
  readonly finding: {
    readonly customer: string | null;
    readonly words: string | null;
    readonly ended: ContactEnd | null;
    readonly minutes: number;
    readonly mood: Mood | null;
    /** The most that the customer gave; null for whatever, or nothing. */
    readonly rated: number | null;
    /** The number of the contact after which it is looked further. */
    readonly after: number | null;
  };
};

/**
 * What somebody asks of Review, as far as they may see it: whoever has some teams asks about the queues that these serve,
 * so that all figures speak of the same contacts; of people and teams, only about theirs.
 */
export function askedOf(host: Host, actor: Actor, input: unknown): Asked {
  const asked = parse(askSchema, input);
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const at = host.times.floor();
  const today = localDate(at, zone);
  const to = asked.to || today;
  const from = asked.from || plusDays(to, -6);
  const days = daysBetween(from, to) + 1;
  if (days < 1)
    throw new LaneError('not-valid', 'The range ends before it begins.', [{ where: 'to', what: 'is before from' }]);
  if (days > MOST_DAYS)
    throw new LaneError('not-valid', `A range may cover at most ${MOST_DAYS} days.`, [
      { where: 'from', what: 'is too long ago' },
    ]);
  const before = asked.against || plusDays(from, -days);
  const [last, lastBefore] = [daySpan(to, zone), daySpan(plusDays(before, days - 1), zone)];
  // While the range is not over, what it is compared with stops at the same moment.
  const until = at < last.to && at >= last.from ? lastBefore.from + (at - last.from) : undefined;
  const narrowing = narrowingOf(host, actor, asked);
  return {
    zone,
    today,
    now: { from, to, zone, narrowing },
    then: {
      from: before,
      to: plusDays(before, days - 1),
      zone,
      narrowing: until === undefined ? narrowing : { ...narrowing, until },
    },
    address: Object.fromEntries(
      [...(['from', 'to', 'against', ...NARROWED_BY, 'clock', 'hours'] as const)].flatMap((name) => {
        const value = asked[name];
        return value ? [[name, value]] : [];
      }),
    ),
    measure: asked.measure || null,
    side: (asked.side || null) as Asked['side'],
    page: Number(asked.page || 0),
    kind: asked.kind || null,
    id: asked.id || null,
    with: asked.with || null,
    reason: asked.reason || null,
    finding: {
      customer: asked.customer?.trim() || null,
      words: asked.words?.trim() || null,
      ended: (asked.ended || null) as ContactEnd | null,
      minutes: Number(asked.minutes || 0),
      mood: (asked.mood || null) as Mood | null,
      rated: asked.rated ? Number(asked.rated) : null,
      after: asked.after ? Number(asked.after) : null,
    },
  };
}

const listed = (text: string | null | undefined): string[] | null =>
  text ? [...new Set(text.split(',').filter((value) => value !== ''))] : null;

/** Hours of the clock as the address says them. */
export function clockOf(text: string): ClockHours {
  const [weekday, from, to] = text.split('-').map(Number);
  return { weekday: weekday || null, from: from ?? 0, to: to ?? 24 };
}

function narrowingOf(
  host: Host,
  actor: Actor,
  asked: { readonly [K in NarrowedBy]?: string | null | undefined } & {
    readonly hours?: string | null | undefined;
    readonly clock?: string | null | undefined;
  },
): Narrowing {
  const { queues, people } = sightOf(host, actor);
  const within: Partial<Record<FactKey, ReadonlySet<string> | null>> = {
    queue: queues,
    person: people,
    team: actor.teams === 'all' ? null : new Set(actor.teams),
  };
  const narrowed: Partial<Record<FactKey, readonly string[]>> = {};
  for (const key of NARROWED_BY) {
    const values = listed(asked[key]);
    const may = within[key] ?? null;
    if (values && values.length > MOST_VALUES)
      throw new LaneError('not-valid', `At most ${MOST_VALUES} can be chosen at once.`, [
        { where: key, what: 'too many' },
      ]);
    if (key === 'channel' && values?.some((value) => !CHANNELS.some((channel) => channel === value)))
      throw new LaneError('not-valid', `The channel must be one of ${CHANNELS.join(', ')}.`, [
        { where: key, what: 'is none' },
      ]);
    if (values) narrowed[key] = may === null ? values : values.filter((value) => may.has(value));
    // Queues are what everybody's figures have in common.
    else if (key === 'queue' && may !== null) narrowed[key] = [...may];
  }
  if (asked.hours === 'open') narrowed.open = ['open'];
  const clock = asked.clock ? clockOf(asked.clock) : null;
  return clock ? { ...narrowed, clock } : narrowed;
}
