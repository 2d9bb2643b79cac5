import { TZDate } from '@date-fns/tz';
import { object, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { writeTable } from '../../core/formats/csv';
import { localDate } from '../../core/hours/weekly';
import { MEASURES, perPerson, type PersonFigures } from '../../core/measures/definitions';
import type { ContactFact, Facts, LegFact, VisitFact } from '../../core/measures/facts';
import { goalStanding, type GoalStanding, wantedShare } from '../../core/measures/servicelevel';
import { goalOf, type QueueSettings } from '../../core/routing/queue';
import { holds } from '../../core/people/rights';
import { type ContactLine, contactLines, type FactFilter, firstContactAt, readFacts } from '../../data/facts';
import type { Db } from '../../data/database';
import { readQueues } from '../../data/queuesettings';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';

const DAY_MS = 86_400_000;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const day = string().matches(DAY, 'A day must be written like 2026-11-09');
const askSchema = exactly(
  object({
    from: day.optional(),
    to: day.optional(),
    queue: string().optional(),
    channel: string()
      .oneOf([...CHANNELS, ''], `The channel must be one of ${CHANNELS.join(', ')}`)
      .optional(),
    measure: string().optional(),
    person: string().optional(),
  }),
);

export type Figure = {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly formula: string;
  readonly countsBy: string;
  readonly moreIsBetter: boolean | null;
  readonly value: number | null;
  readonly before: number | null;
};
export type ReviewView = {
  /** The floor's present day. */
  readonly today: string;
  readonly from: string;
  readonly to: string;
  readonly queueId: string;
  readonly channel: string;
  readonly zone: string;
  readonly since: string | null;
  readonly figures: readonly Figure[];
  readonly people: readonly (PersonFigures & {
    name: string;
    handledBefore: number;
    /** How their share in goal stands to the goals of what they took. */ standing: GoalStanding | null;
  })[];
  readonly queues: readonly { id: string; name: string }[];
  readonly perQueue: readonly {
    id: string;
    name: string;
    offered: number;
    inGoal: number | null;
    /** The share to be reached over its channels, and how it stands to that. */ wanted: number | null;
    standing: GoalStanding | null;
    gaveUp: number | null;
  }[];
  readonly busy: readonly { day: number; hour: number; count: number }[];
  readonly mayExport: boolean;
};
export type BehindView = {
  readonly title: string;
  readonly formula: string;
  readonly value: number | null;
  readonly unit: string;
  readonly total: number;
  readonly lines: readonly (Omit<ContactLine, 'queues' | 'people'> & { queues: string; people: string })[];
};

/** Local day (`YYYY-MM-DD`) → its first instant; days that do not exist throw `not-valid`. */
function startOf(dayText: string, zone: string, plusDays = 0): number {
  const [year = 0, month = 1, date = 1] = dayText.split('-').map(Number);
  const at = new TZDate(year, month - 1, date + plusDays, 0, 0, 0, zone).getTime();
  if (Number.isNaN(at) || new Date(Date.UTC(year, month - 1, date)).getUTCDate() !== date)
    throw new LaneError('not-valid', `${dayText} is not a day.`, [{ where: 'from', what: 'is not a day' }]);
  return at;
}

/** What the functions of this file are given first. */
export type ReviewDeps = { readonly host: Host };

function range({ host }: ReviewDeps, input: unknown) {
  const asked = parse(askSchema, input);
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const today = localDate(host.times.floor(), zone);
  const to = asked.to ?? today;
  const from = asked.from ?? localDate(startOf(to, zone, -6), zone);
  const start = startOf(from, zone);
  const end = startOf(to, zone, 1);
  if (end <= start)
    throw new LaneError('not-valid', 'The range ends before it begins.', [{ where: 'to', what: 'is before from' }]);
  if (end - start > 400 * 86_400_000)
    throw new LaneError('not-valid', 'A range may cover at most 400 days.', [
      { where: 'from', what: 'is too long ago' },
    ]);
  const filter: FactFilter = {
    from: start,
    to: end,
    queueId: asked.queue || null,
    channel: (asked.channel || null) as Channel | null,
  };
  return { asked, zone, today, from, to, filter };
}

/** Read day by day, so that no reading stands open for long: that would keep the write-ahead log from being emptied. */
function factsByDay(db: Db, filter: FactFilter): Facts {
  const all = { visits: [] as VisitFact[], legs: [] as LegFact[], contacts: [] as ContactFact[] };
  for (let from = filter.from; from < filter.to; from += DAY_MS) {
    const { visits, legs, contacts } = readFacts(db, { ...filter, from, to: Math.min(filter.to, from + DAY_MS) });
    for (const v of visits) all.visits.push(v);
    for (const l of legs) all.legs.push(l);
    for (const c of contacts) all.contacts.push(c);
  }
  return all;
}

/** Somebody with some teams only counts their people and the queues these serve. */
function factsFor({ host }: ReviewDeps, actor: Actor, filter: FactFilter): Facts {
  const facts = factsByDay(host.db, filter);
  const { queues, people } = sightOf(host, actor);
  if (queues === null || people === null) return facts;
  const visits = facts.visits.filter((v) => queues.has(v.queueId));
  const theirs = new Set(visits.map((v) => v.contactId));
  return {
    visits,
    legs: facts.legs.filter((l) => people.has(l.personId)),
    contacts: facts.contacts.filter((c) => theirs.has(c.id)),
  };
}

/**
 * The range of the same length before. While the range is not over, it stops at the same moment, so that the two
 * compare.
 */
const before = ({ host }: ReviewDeps, f: FactFilter): FactFilter => ({
  ...f,
  from: f.from - (f.to - f.from),
  to: Math.min(f.to, Math.max(f.from, host.times.floor())) - (f.to - f.from),
});

const figures = (now: Facts, then: Facts): Figure[] =>
  MEASURES.map((m) => ({
    id: m.id,
    name: m.name,
    unit: m.unit,
    formula: m.formula,
    countsBy: m.countsBy,
    moreIsBetter: m.moreIsBetter,
    value: m.value(now),
    before: m.value(then),
  }));

/** The zone in which days begin and times are shown. */
export const zone = ({ host }: ReviewDeps): string => readWorkspace(host.db)?.zone ?? 'UTC';

/** The workspace's languages, the first of them the one to fall back to. */
export const languages = ({ host }: ReviewDeps): readonly string[] => readWorkspace(host.db)?.languages ?? ['en'];

/** The share to be reached over what came by queue and channel, by the goals that are set now. */
const wantedOver = (
  queues: ReadonlyMap<string, QueueSettings>,
  taken: readonly { readonly queueId: string; readonly channel: Channel }[],
): number | null =>
  wantedShare(
    taken.flatMap(({ queueId, channel }) => {
      const queue = queues.get(queueId);
      return queue ? [{ all: 1, goal: goalOf(queue, channel) }] : [];
    }),
  );
const standingOf = (share: number | null, wanted: number | null): GoalStanding | null =>
  share === null || wanted === null ? null : goalStanding(share, wanted);

export function viewReview(deps: ReviewDeps, actor: Actor, input: unknown): ReviewView {
  mustHold(actor, 'review.view');
  const { zone, today, from, to, filter } = range(deps, input);
  const facts = factsFor(deps, actor, filter);
  const then = factsFor(deps, actor, before(deps, filter));
  const names = sightOf(deps.host, actor).names;
  const handledBefore = new Map(perPerson(then).map((p) => [p.personId, p.handled]));
  const scope = sightOf(deps.host, actor);
  const queues = readQueues(deps.host.db).filter((q) => scope.queues?.has(q.id) ?? true);
  const settings = new Map(readQueues(deps.host.db).map((q) => [q.id, q]));
  const legsOfPerson = new Map<string, LegFact[]>();
  for (const leg of facts.legs) {
    const legs = legsOfPerson.get(leg.personId);
    if (legs) legs.push(leg);
    else legsOfPerson.set(leg.personId, [leg]);
  }
  const level = MEASURES.find((m) => m.id === 'service-level');
  const gave = MEASURES.find((m) => m.id === 'gave-up');
  const byQueue = new Map(
    queues.map((q) => [q.id, { ...facts, visits: facts.visits.filter((v) => v.queueId === q.id) }]),
  );
  const busy = new Map<string, { day: number; hour: number; count: number }>();
  for (const c of facts.contacts) {
    const at = new TZDate(c.startedAt, zone);
    const cell = { day: at.getDay() === 0 ? 7 : at.getDay(), hour: at.getHours(), count: 1 };
    const key = `${cell.day}|${cell.hour}`;
    busy.set(key, { ...cell, count: (busy.get(key)?.count ?? 0) + 1 });
  }
  const first = firstContactAt(deps.host.db);
  return {
    today,
    from,
    to,
    zone,
    queueId: filter.queueId ?? '',
    channel: filter.channel ?? '',
    since: first === null ? null : localDate(first, zone),
    figures: figures(facts, then),
    people: perPerson(facts).map((p) => ({
      ...p,
      contactIds: [],
      name: names.get(p.personId) ?? 'Somebody',
      handledBefore: handledBefore.get(p.personId) ?? 0,
      standing: standingOf(p.inGoal, wantedOver(settings, legsOfPerson.get(p.personId) ?? [])),
    })),
    queues: queues.map((q) => ({ id: q.id, name: q.name })),
    perQueue: queues.flatMap((q) => {
      const f = byQueue.get(q.id);
      if (!f || f.visits.length === 0) return [];
      const inGoal = level?.value(f) ?? null;
      const wanted = wantedOver(settings, f.visits);
      return [
        {
          id: q.id,
          name: q.name,
          offered: f.visits.length,
          inGoal,
          wanted,
          standing: standingOf(inGoal, wanted),
          gaveUp: gave?.value(f) ?? null,
        },
      ];
    }),
    busy: [...busy.values()],
    mayExport: holds(actor, 'review.export'),
  };
}

/** The contacts that a figure, or a person's row, is made of: the first 200, and how many in all. */
export function behindFigure(deps: ReviewDeps, actor: Actor, input: unknown): BehindView {
  mustHold(actor, 'review.view');
  const { asked, filter } = range(deps, input);
  const facts = factsFor(deps, actor, filter);
  const names = sightOf(deps.host, actor).names;
  const queues = new Map(readQueues(deps.host.db).map((q) => [q.id, q.name]));
  const measure = MEASURES.find((m) => m.id === asked.measure);
  const person = asked.person ? perPerson(facts).find((p) => p.personId === asked.person) : undefined;
  if (!measure && !person) throw new LaneError('not-found', 'There is no such figure in this range.');
  const ids = person ? person.contactIds : (measure?.contacts(facts) ?? []);
  const named = (list: string | null, by: ReadonlyMap<string, string>) =>
    list
      ? list
          .split(',')
          .map((x) => by.get(x) ?? x)
          .join(', ')
      : '';
  return {
    title: person ? (names.get(person.personId) ?? '') : (measure?.name ?? ''),
    total: ids.length,
    formula: person ? 'Legs of this person that ended in the range.' : (measure?.formula ?? ''),
    value: person ? person.handled : (measure?.value(facts) ?? null),
    unit: person ? 'count' : (measure?.unit ?? 'count'),
    lines: contactLines(deps.host.db, ids.slice(0, 200)).map((l) => ({
      ...l,
      queues: named(l.queues, queues),
      people: named(l.people, names),
    })),
  };
}

/** Figures and people of the range as CSV (RFC 4180); cells that a spreadsheet would run are neutralised. */
export function reviewCsv(deps: ReviewDeps, actor: Actor, input: unknown): { name: string; text: string } {
  mustHold(actor, 'review.export');
  const { from, to, filter } = range(deps, input);
  const facts = factsFor(deps, actor, filter);
  const names = sightOf(deps.host, actor).names;
  const round = (n: number | null) => (n === null ? '' : Math.round(n * 1000) / 1000);
  const lines = [
    ...MEASURES.map((m) => ['figure', m.name, m.unit, round(m.value(facts)), '', '', '', '']),
    ...perPerson(facts).map((p) => [
      'person',
      names.get(p.personId) ?? '',
      'handled',
      p.handled,
      round(p.handleSeconds),
      round(p.firstReplySeconds),
      round(p.inGoal),
      p.passedOn,
    ]),
  ];
  return {
    name: `review-${from}-to-${to}.csv`,
    text: writeTable(
      ['kind', 'name', 'unit', 'value', 'handle_seconds', 'first_reply_seconds', 'in_goal', 'passed_on'],
      lines,
    ),
  };
}

export const createReview = (deps: ReviewDeps) =>
  bind(deps, { zone, languages, view: viewReview, behind: behindFigure, csv: reviewCsv });
