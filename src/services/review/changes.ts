import { type Change, changesBetween, type ComparedDays } from '../../core/changes/changes';
import { type Standing, standingOut, type Workload } from '../../core/changes/standing';
import { daysBetween, daysFrom, plusDays } from '../../core/hours/dates';
import { daySpan } from '../../core/measures/calendar';
import type { DaySpan, FactDay } from '../../core/measures/columns';
import { goalOf } from '../../core/routing/queue';
import { noTurns, occupancy, secondsUsed, usesOf } from '../../core/measures/timeused';
import { firstContactAt } from '../../data/facts';
import { pastStatesNow } from '../../data/past';
import { readPeople } from '../../data/people';
import { statesOf } from '../../data/personstates';
import { readQueues } from '../../data/queuesettings';
import { holds } from '../../core/people/rights';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf, spansOf } from './asking';
import { isKind, type Kind, KINDS, mayRead } from './each';
import { factDays } from './factdays';
import { type FigureWords, measuresOf, wordsOf } from './figures';
import { namesOf, type ThingKey } from './names';
import { type MarkedDays, marksBetween } from './markeddays';
import { type HourStaff, hourKey, staffByHour } from './staffing';
import { turnsByPerson } from './turnsin';

/** A sentence on what changed: with what the figure and the thing are called, and under which kind it has its page. */
export type ToldChange = Change & {
  readonly figure: FigureWords;
  readonly name: string;
  readonly kind: Kind | null;
};
export type ToldStanding = Standing & {
  readonly name: string;
  /** Of somebody who carries a language in a queue: what these are called. */
  readonly queueName: string | null;
  readonly languageName: string | null;
  /** Of hours of a queue: people on duty then, and how many what came needed, over all queues. */
  readonly staff: HourStaff | null;
};
export type ChangesView = {
  readonly changes: readonly ToldChange[];
  readonly standing: readonly ToldStanding[];
  /** Days that were compared, of those asked about; those that are not over, or have no like, are not in it. */
  readonly compared: number;
  readonly days: number;
  /** Whether what is asked about can be compared at all: its weekdays stand in both ranges. */
  readonly alike: boolean;
  /** Marks that touch the days of either range: those days are left out. */
  readonly marked: readonly (MarkedDays & { /** Of which queues, by name. */ readonly queues: readonly string[] })[];
  /** Queues that a mark could be of. */
  readonly queues: readonly { readonly id: string; readonly name: string }[];
  readonly mayMark: boolean;
};

/** Days before both ranges by which the noise of a day is known. */
const EARLIER = 56;
const LATELY = 21;
/** A longer range knows its noise by itself. */
const LONG = 62;

/**
 * What changed in a range against another, and what stands out in it: only what would surprise somebody who knows how
 * much such days vary anyhow. Days that are not over are not in it.
 */
export function viewChanges(host: Host, actor: Actor, input: unknown): ChangesView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const kind = isKind(asked.kind) ? KINDS[asked.kind] : null;
  const narrowing = { ...asked.now.narrowing, ...(kind && asked.id ? { [kind.key]: [asked.id] } : {}) };
  const first = asked.now.from < asked.then.from ? asked.now.from : asked.then.from;
  const marks = marksBetween(
    host,
    plusDays(first, -EARLIER),
    asked.now.to > asked.then.to ? asked.now.to : asked.then.to,
    // What touched some queues does not make the days of others unlike.
  ).filter((mark) => mark.queueIds.length === 0 || (narrowing.queue?.some((q) => mark.queueIds.includes(q)) ?? true));
  const { days, over, lately, spans } = comparedDays(host, asked, marks);
  const nameOf = namesOf(host, actor);
  const may = (of: ThingKey) => mayRead(host, actor, of);
  const changes = changesBetween(days, narrowing, (of, id) => of === 'all' || (of !== kind?.key && may(of)(id)));
  const standing = kind
    ? []
    : standingOut(over, lately, narrowing, goalOfQueue(host), workloadsOf(host, asked, over, lately)).filter((s) =>
        s.kind === 'alone' || s.kind === 'offers' || s.kind === 'busy' ? may('person')(s.id) : true,
      );
  const staff = standing.some((s) => s.kind === 'peak' && s.hours !== null) ? staffByHour(host, over, asked.now) : null;
  return {
    changes: changes.flatMap((change) => {
      const [measure] = measuresOf([change.measure]);
      if (!measure) return [];
      const of = change.of === 'all' ? null : change.of;
      return [
        {
          ...change,
          figure: wordsOf(measure),
          name: of ? nameOf(of, change.id) : '',
          kind: (Object.keys(KINDS) as Kind[]).find((k) => KINDS[k].key === of) ?? null,
        },
      ];
    }),
    standing: standing.map((s) => ({
      ...s,
      name: nameOf(STANDS_ON[s.kind], s.id),
      queueName: s.kind === 'alone' ? nameOf('queue', s.queueId) : null,
      languageName: s.kind === 'alone' ? nameOf('language', s.language) : null,
      staff: s.kind === 'peak' ? staffIn(staff, s) : null,
    })),
    compared: days.now.length,
    days: spans,
    marked: marks
      .filter((m) => touches(m, asked.now) || touches(m, asked.then))
      .map((mark) => ({ ...mark, queues: mark.queueIds.map((q) => nameOf('queue', q)) })),
    queues: readQueues(host.db)
      .filter((q) => may('queue')(q.id))
      .map(({ id, name }) => ({ id, name })),
    mayMark: actor.teams === 'all' && holds(actor, 'queues.change'),
    alike: days.now.some((day) => days.then.some((d) => d.weekday === day.weekday)),
  };
}
/** People in the hours of a peak, the mean of them. */
function staffIn(
  staff: ReadonlyMap<string, HourStaff> | null,
  { weekday, hours }: Extract<Standing, { kind: 'peak' | 'gap' }>,
): HourStaff | null {
  if (!staff || !hours || weekday === null) return null;
  const found = Array.from({ length: hours.to - hours.from }, (_, i) => staff.get(hourKey(weekday, hours.from + i)));
  const mean = (of: keyof HourStaff) => found.reduce((n, one) => n + (one?.[of] ?? 0), 0) / found.length;
  return { onDuty: mean('onDuty'), needed: mean('needed') };
}
const STANDS_ON = {
  peak: 'queue',
  gap: 'language',
  alone: 'person',
  offers: 'person',
  busy: 'person',
  line: 'line',
} as const satisfies Record<Standing['kind'], ThingKey>;

const touches = (mark: MarkedDays, range: { readonly from: string; readonly to: string }): boolean =>
  mark.from <= range.to && mark.to >= range.from;

function comparedDays(
  host: Host,
  asked: Asked,
  marks: readonly MarkedDays[],
): {
  readonly days: ComparedDays;
  /** All days of the range that are over, whether or not there are others to compare them with. */
  readonly over: readonly FactDay[];
  /** The three weeks before the range. */
  readonly lately: readonly FactDay[];
  readonly spans: number;
} {
  const [now, then] = [spansOf(asked.now), spansOf(asked.then)];
  const [at, began] = [host.times.floor(), firstContactAt(host.db) ?? Infinity];
  const isOver = (span: DaySpan | undefined) => span !== undefined && span.to <= at && span.to > began;
  // Days that were not like others are held against none, and say nothing of how others vary.
  const unlike = new Set(
    marks.flatMap((mark) => daysFrom(mark.from, mark.to).map((date) => daySpan(date, asked.zone).from)),
  );
  const there = (span: DaySpan | undefined) => isOver(span) && span !== undefined && !unlike.has(span.from);
  const pairs = now.flatMap((span, i) => {
    const before = then[i];
    return before && there(span) && there(before) ? [{ span, before }] : [];
  });
  const first = asked.now.from < asked.then.from ? asked.now.from : asked.then.from;
  const earlier =
    daysBetween(asked.now.from, asked.now.to) > LONG
      ? []
      : daysFrom(plusDays(first, -EARLIER), plusDays(first, -1))
          .map((date) => daySpan(date, asked.zone))
          .filter(there);
  const read = (spans: readonly DaySpan[]): FactDay[] => factDays(host, spans);
  // A day of which the log has nothing at all, where its like has something, is not one on which nobody came: it lies before
  // the log, or between what was brought in.
  const kept = (day: FactDay | undefined) => day !== undefined && day.part('contacts').rows > 0;
  const [nows, thens] = [read(pairs.map((p) => p.span)), read(pairs.map((p) => p.before))];
  const both = nows.map((day, i) => kept(day) === kept(thens[i]));
  return {
    over: read(now.filter(isOver)),
    lately: read(
      daysFrom(plusDays(asked.now.from, -LATELY), plusDays(asked.now.from, -1))
        .map((date) => daySpan(date, asked.zone))
        .filter(there),
    ),
    days: {
      now: nows.filter((_, i) => both[i]),
      then: thens.filter((_, i) => both[i]),
      earlier: read(earlier).filter(kept),
    },
    spans: now.length,
  };
}

/** A day on which somebody was there for less than this says nothing of how busy they are. */
const THERE_SECONDS = 3 * 3600;
/** How busy everybody was, day by day. What is narrowed otherwise than by people and teams does not make anybody less busy. */
function workloadsOf(host: Host, asked: Asked, over: readonly FactDay[], lately: readonly FactDay[]): Workload[] {
  if (over.length > LONG || asked.now.narrowing.clock) return [];
  const { person, team } = asked.now.narrowing;
  const people = readPeople(host.db);
  const name = `busy ${pastStatesNow(host.db)}`;
  const ofDays = (days: readonly FactDay[]): Busy[] =>
    days.map((day) => day.remembered(name, () => busyOn(host, people, day)));
  const [now, before] = [ofDays(over), ofDays(lately)];
  return people
    .filter((p) => (person?.includes(p.id) ?? true) && (team?.includes(p.teamId) ?? true))
    .map(({ id, teamId }) => ({
      id,
      teamId,
      days: now.flatMap((busy) => busy.get(id) ?? []),
      before: before.flatMap((busy) => busy.get(id) ?? []),
    }));
}
/** The share of a day in which people had something open, of those who were there long enough. */
type Busy = ReadonlyMap<string, number>;
function busyOn(host: Host, people: readonly { readonly id: string }[], day: FactDay): Busy {
  const turns = turnsByPerson([day], new Set(people.map((p) => p.id)));
  return new Map(
    people.flatMap(({ id }) => {
      const { from, to } = day;
      const used = secondsUsed(usesOf(statesOf(host.db, id, from, to), turns.get(id) ?? noTurns(), from, to));
      const there = (used.get('calls') ?? 0) + (used.get('texts') ?? 0) + (used.get('ready') ?? 0);
      const busy = occupancy(used);
      return busy === null || there < THERE_SECONDS ? [] : [[id, busy] as const];
    }),
  );
}

/** The share that a queue is meant to reach over its channels; null where it has no goal. */
function goalOfQueue(host: Host): (queueId: string) => number | null {
  const goals = new Map(
    readQueues(host.db).map((q) => {
      const percents = q.channels.map((channel) => goalOf(q, channel).percent);
      return [q.id, percents.length === 0 ? null : Math.min(...percents) / 100] as const;
    }),
  );
  return (queueId) => goals.get(queueId) ?? null;
}
