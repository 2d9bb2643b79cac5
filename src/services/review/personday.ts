import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { daysFrom, plusDays } from '../../core/hours/dates';
import { daySpan } from '../../core/measures/calendar';
import {
  occupancy,
  openSteps,
  secondsUsed,
  addTurn,
  noTurns,
  type OpenTurns,
  type StateSpell,
  type Step,
  type TimeUse,
  usesOf,
} from '../../core/measures/timeused';
import { DEFAULT_LOAD } from '../../core/people/load';
import { readProfile } from '../../data/dutyprofiles';
import { readOutcomes } from '../../data/outcomes';
import { readPeople } from '../../data/people';
import { readContact } from '../../data/contacts';
import { openLegs } from '../../data/legs';
import { type NotTaken, notTakenBetween, type TurnOfDay, turnsBetween } from '../../data/persondays';
import { statesOf } from '../../data/personstates';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf, spansOf } from './asking';
import { mayRead } from './each';
import { factDays } from './factdays';
import { namesOf } from './names';
import { turnsByPerson } from './turnsin';

/** What somebody's time went into over a range, beside the mean of their team. */
export type TimeUsedView = {
  /** Seconds that are in some use. */
  readonly seconds: number;
  readonly uses: readonly {
    readonly use: TimeUse;
    readonly seconds: number;
    readonly share: number;
    /** Of the team's time; null where nobody else was there. */
    readonly team: number | null;
  }[];
  readonly occupancy: number | null;
  readonly teamOccupancy: number | null;
  /** The days of the range, with what they took and did not take on each. */
  readonly days: readonly { readonly day: string; readonly taken: number; readonly notTaken: number }[];
};

/** One day of somebody's: their states, what they had open, and which offers they did not take. */
export type PersonDayView = {
  readonly day: string;
  readonly zone: string;
  /** What is drawn: from the first to the last thing that day, whole hours, floor ms. */
  readonly from: number;
  readonly to: number;
  readonly states: readonly StateSpell[];
  readonly turns: readonly (TurnOfDay & {
    readonly queue: string;
    readonly outcomeName: string | null;
    readonly load: number;
  })[];
  readonly notTaken: readonly (NotTaken & {
    readonly queue: string;
    /** What they had open then, by channel. */
    readonly open: Readonly<Partial<Record<Channel, number>>>;
  })[];
  readonly steps: readonly Step[];
  readonly most: number;
  readonly mean: number;
};

function personAsked(host: Host, actor: Actor, input: unknown): { readonly asked: Asked; readonly id: string } {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const id = asked.id ?? '';
  if (!mayRead(host, actor, 'person')(id))
    throw new LaneError('not-found', 'There is nobody by that name whom you may see.');
  return { asked, id };
}

export function viewTimeUsed(host: Host, actor: Actor, input: unknown): TimeUsedView {
  const { asked, id } = personAsked(host, actor, input);
  const { from, to } = rangeOf(host, asked);
  const people = readPeople(host.db);
  const teamId = people.find((p) => p.id === id)?.teamId;
  const mates = people.filter((p) => p.teamId === teamId && p.id !== id).map((p) => p.id);
  // What began in the range and ended on the day after is in it too, and so is what is still open.
  const spans = spansOf({ ...asked.now, to: plusDays(asked.now.to, 1) });
  const ended = turnsByPerson(factDays(host, spans), new Set([id, ...mates]));
  const going = openLegs(host.db);
  const turnsOf = (person: string): OpenTurns => {
    const turns = ended.get(person) ?? noTurns();
    for (const leg of going)
      if (leg.personId === person)
        addTurn(turns, readContact(host.db, leg.contactId)?.channel ?? 'chat', leg.acceptedAt, to);
    return turns;
  };
  const mine = turnsOf(id);
  const secondsOf = (person: string, turns: OpenTurns) =>
    secondsUsed(usesOf(statesOf(host.db, person, from, to), turns, from, to));
  const [own, team] = [secondsOf(id, mine), new Map<TimeUse, number>()];
  for (const mate of mates)
    for (const [use, s] of secondsOf(mate, turnsOf(mate))) team.set(use, (team.get(use) ?? 0) + s);
  const total = (of: ReadonlyMap<TimeUse, number>) => [...of.values()].reduce((n, s) => n + s, 0);
  const [all, teamAll] = [total(own), total(team)];
  const notTaken = notTakenBetween(host.db, id, from, to);
  return {
    seconds: all,
    uses: [...new Set([...ORDER, ...own.keys()])].flatMap((use) => {
      const seconds = own.get(use) ?? 0;
      if (seconds === 0 && !team.has(use)) return [];
      return [
        {
          use,
          seconds,
          share: all === 0 ? 0 : seconds / all,
          team: teamAll === 0 ? null : (team.get(use) ?? 0) / teamAll,
        },
      ];
    }),
    occupancy: occupancy(own),
    teamOccupancy: occupancy(team),
    days: countedByDay(asked, [[...mine.calls.from, ...mine.texts.from], notTaken.map((o) => o.madeAt)]).map(
      ([day, [taken = 0, refused = 0]]) => ({ day, taken, notTaken: refused }),
    ),
  };
}
/** How many instants of each list are on each day of what is asked: each list is gone through once, however long the range. */
function countedByDay(
  { now, zone }: Asked,
  lists: readonly (readonly number[])[],
): (readonly [day: string, counts: readonly number[]])[] {
  const days = daysFrom(now.from, now.to).map((day) => ({ day, span: daySpan(day, zone) }));
  const counts = lists.map((instants) => {
    const inOrder = [...instants].sort((a, b) => a - b);
    let next = inOrder.findIndex((at) => at >= (days[0]?.span.from ?? 0));
    return days.map(({ span }) => {
      const first = next;
      while (next >= 0 && next < inOrder.length && (inOrder[next] as number) < span.to) next++;
      return next - first;
    });
  });
  return days.map(({ day }, i) => [day, counts.map((of) => of[i] ?? 0)]);
}
const ORDER: readonly TimeUse[] = ['calls', 'texts', 'ready', 'unreachable'];

/** The range in instants, up to now. */
function rangeOf(host: Host, { now, zone }: Asked): { readonly from: number; readonly to: number } {
  const from = daySpan(now.from, zone).from;
  return { from, to: Math.max(from, Math.min(daySpan(now.to, zone).to, host.times.floor())) };
}

const HOUR_MS = 3_600_000;
export function viewPersonDay(host: Host, actor: Actor, input: unknown): PersonDayView {
  const { asked, id } = personAsked(host, actor, input);
  const day = asked.now.to;
  const span = daySpan(day, asked.zone);
  const end = Math.min(span.to, Math.max(span.from, host.times.floor()));
  const states = statesOf(host.db, id, span.from, end);
  const turns = turnsBetween(host.db, id, span.from, end);
  const notTaken = notTakenBetween(host.db, id, span.from, end);
  const open = turns.map((t) => ({ from: t.from, to: t.to ?? end, channel: t.channel }));
  const there = [
    ...states.filter((s) => s.duty !== 'off').flatMap((s) => [s.from, s.to]),
    ...open.flatMap((t) => [Math.max(t.from, span.from), Math.min(t.to, end)]),
    ...notTaken.map((o) => o.at),
  ];
  const [first, last] = [Math.min(...there), Math.max(...there)];
  const [from, to] =
    there.length === 0
      ? [span.from + 8 * HOUR_MS, span.from + 18 * HOUR_MS]
      : [
          span.from + Math.floor((first - span.from) / HOUR_MS) * HOUR_MS,
          span.from + Math.ceil((last - span.from) / HOUR_MS) * HOUR_MS,
        ];
  const nameOf = namesOf(host, actor);
  const person = readPeople(host.db).find((p) => p.id === id);
  // What a contact takes of a person was not kept then: it is drawn as it is set now.
  const load = (person && readProfile(host.db, person.dutyProfileId)?.load) ?? DEFAULT_LOAD;
  const outcomes = new Map(readOutcomes(host.db).map((o) => [o.code, o.label]));
  return {
    day,
    zone: asked.zone,
    from,
    to,
    states: states.filter((s) => s.to > from && s.from < to),
    turns: turns.map((t) => ({
      ...t,
      queue: nameOf('queue', t.queueId),
      outcomeName: t.outcome === null ? null : (outcomes.get(t.outcome) ?? t.outcome),
      load: load[t.channel].cost,
    })),
    notTaken: notTaken.map((o) => {
      const then: Partial<Record<Channel, number>> = {};
      for (const t of open) if (t.from <= o.madeAt && t.to > o.madeAt) then[t.channel] = (then[t.channel] ?? 0) + 1;
      return { ...o, queue: nameOf('queue', o.queueId), open: then };
    }),
    ...openSteps(open, from, to),
  };
}
