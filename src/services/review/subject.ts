import { LaneError } from '../../core/errors';
import { KINDS_APART, countedFor } from '../../core/measures/definitions';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { readPeople } from '../../data/people';
import { readTeams } from '../../data/teams';
import { askedOf, type NarrowedBy } from './asking';
import { columnsOf, type EachRow, eachRows, type Kind, KINDS, kindOf, mayRead } from './each';
import {
  type BusyHour,
  busyHours,
  daysOf,
  eachOf,
  type Figure,
  type FigureWords,
  figuresThrough,
  type Line,
  measuresOf,
} from './figures';
import { goalsOf, type ShownGoal } from './figuregoals';
import { isThere, namesOf, type ThingKey } from './names';
import { type AskedView, askedView } from './askedview';

/** What one thing did beside others of its kind: its own value and each of theirs. */
export type Beside = {
  readonly measure: string;
  readonly peers: readonly { readonly name: string; readonly value: number }[];
  readonly mean: number | null;
};
/** What it was made of, by another key: how many of what, and the share of all. */
export type Split = {
  readonly by: NarrowedBy;
  readonly rows: readonly {
    readonly id: string;
    readonly name: string;
    readonly count: number;
    readonly share: number;
  }[];
};
export type SubjectView = AskedView & {
  readonly kind: Kind;
  readonly id: string;
  readonly name: string;
  /** A person's team. */
  readonly team: string | null;
  readonly figures: readonly Figure[];
  readonly line: Line;
  readonly beside: readonly Beside[];
  /** Whom it is compared with, in words. */
  readonly peers: string;
  readonly splits: readonly Split[];
  readonly busy: readonly BusyHour[];
  /** What they are to reach, where they are a person or a team; and whether the reader may change it, and coaches them. */
  readonly goals: readonly ShownGoal[];
  readonly maySetGoals: boolean;
  readonly mayCoach: boolean;
  /** What it has inside, one by one: a bot its lines and what was wanted of it, a queue the stages of its wait. */
  readonly inside: readonly {
    readonly kind: Kind;
    readonly columns: readonly FigureWords[];
    readonly rows: readonly EachRow[];
  }[];
};

/** How one person, team, queue, … did in a range, against another range and beside others of its kind. */
export function viewSubject(host: Host, actor: Actor, input: unknown): SubjectView {
  mustHold(actor, 'review.view');
  const all = askedOf(host, actor, input);
  const kind = kindOf(all.kind);
  const { key, figures: ids, splits } = KINDS[kind];
  const id = all.id ?? '';
  if (!mayRead(host, actor, key)(id))
    throw new LaneError('not-found', 'There is nothing by that name that you may see.');
  const asked = {
    ...all,
    now: { ...all.now, narrowing: { ...all.now.narrowing, [key]: [id] } },
    then: { ...all.then, narrowing: { ...all.then.narrowing, [key]: [id] } },
  };
  const days = daysOf(host, asked);
  const nameOf = namesOf(host, actor);
  const { figures, line } = figuresThrough(measuresOf(ids), days, asked);
  // What is gone has its page for as long as something counts of it.
  if (!isThere(host, actor, key, id) && figures.every((f) => f.count === 0 && !f.before))
    throw new LaneError('not-found', 'There is nothing by that name that you may see.');
  const person = kind === 'people' ? readPeople(host.db).find((p) => p.id === id) : undefined;
  return {
    ...askedView(host, actor, all),
    kind,
    id,
    name: nameOf(key, id),
    team: person ? (readTeams(host.db).find((t) => t.id === person.teamId)?.name ?? null) : null,
    figures: figures.filter((f) => !KINDS_APART.includes(f.id) || f.count > 0),
    line,
    ...besidePeers(host, actor, all, days, kind, id),
    splits: splits.map((by) => split(host, actor, asked, days, by, KINDS[kind].key, nameOf)),
    busy: busyHours(days.now, asked.now),
    ...withGoals(host, actor, kind, id),
    inside: insideOf(host, actor, asked, days, kind, nameOf(key, id)),
  };
}

function withGoals(host: Host, actor: Actor, kind: Kind, id: string) {
  const { goals, maySet } = goalsOf(host, actor, kind, id);
  return { goals, maySetGoals: maySet, mayCoach: kind === 'people' && maySet };
}

const INSIDE: Partial<Record<Kind, readonly Kind[]>> = { bots: ['lines', 'intents'], queues: ['stages'] };
/** What a thing has inside, in order: on its own page its name need not be said again. */
const insideOf = (
  host: Host,
  actor: Actor,
  asked: ReturnType<typeof askedOf>,
  days: Days,
  kind: Kind,
  name: string,
): SubjectView['inside'] =>
  (INSIDE[kind] ?? []).map((inside) => {
    const rows = eachRows(host, actor, asked, days, inside).map((row) =>
      row.name.startsWith(`${name} `) ? { ...row, name: row.name.slice(name.length + 1) } : row,
    );
    const numberOf = (row: EachRow) => Number(row.id.slice(row.id.lastIndexOf(' ') + 1));
    return {
      kind: inside,
      columns: columnsOf(inside),
      rows: inside === 'stages' ? rows.sort((a, b) => numberOf(a) - numberOf(b)) : rows,
    };
  });

type Days = ReturnType<typeof daysOf>;
/** Fewer than this many say nothing about a peer's usual figure. */
const ENOUGH = 10;

function besidePeers(
  host: Host,
  actor: Actor,
  all: ReturnType<typeof askedOf>,
  days: Days,
  kind: Kind,
  id: string,
): Pick<SubjectView, 'beside' | 'peers'> {
  const { key, name } = KINDS[kind];
  const { [key]: _own, ...others } = all.now.narrowing;
  const rows = eachRows(
    host,
    actor,
    { ...all, now: { ...all.now, narrowing: key === 'queue' ? all.now.narrowing : others } },
    days,
    kind,
  );
  const mates = kind === 'people' ? teamMates(host, id) : null;
  const peers = rows.filter((row) => row.id !== id && (mates?.has(row.id) ?? true));
  return {
    peers: mates ? 'their team' : `other ${name.toLowerCase()}`,
    beside: measuresOf(KINDS[kind].figures).map((m) => {
      const values = peers.flatMap((row: EachRow) => {
        const value = row.values[m.id];
        return value !== null && value !== undefined && (row.counts[m.id] ?? 0) >= ENOUGH
          ? [{ name: row.name, value }]
          : [];
      });
      return {
        measure: m.id,
        peers: values,
        mean: values.length === 0 ? null : values.reduce((n, v) => n + v.value, 0) / values.length,
      };
    }),
  };
}
function teamMates(host: Host, personId: string): ReadonlySet<string> {
  const people = readPeople(host.db);
  const teamId = people.find((p) => p.id === personId)?.teamId;
  return new Set(people.filter((p) => p.teamId === teamId).map((p) => p.id));
}

/** What is counted of people and outcomes are legs, of queues, channels and the like visits or contacts. */
const COUNTED = {
  person: 'handled',
  team: 'handled',
  outcome: 'handled',
  door: 'started',
  bot: 'started',
  channel: 'started',
  language: 'started',
  queue: 'offered',
  skill: 'offered',
} as const satisfies Record<NarrowedBy, string>;

/** Of these it is always the same that is counted: people's work by its end, and what only rows of one part have. */
const COUNTED_OF: Partial<Record<ThingKey, string>> = {
  person: 'handled',
  team: 'handled',
  outcome: 'handled',
  line: 'came-to-line',
  intent: 'started',
  stage: 'offered',
};

function split(
  host: Host,
  actor: Actor,
  asked: ReturnType<typeof askedOf>,
  days: Days,
  by: NarrowedBy,
  of: ThingKey,
  nameOf: ReturnType<typeof namesOf>,
): Split {
  const may = mayRead(host, actor, by);
  const id = COUNTED_OF[of] ?? COUNTED[by];
  const [measure] = measuresOf([id]);
  if (!measure) return { by, rows: [] };
  const rows = [...eachOf(days.now, asked.now, by, countedFor([measure]))]
    .map(([one, t]) => ({ id: one, name: nameOf(by, one), count: measure.count(t) }))
    .filter((row) => row.count > 0 && may(row.id))
    .sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1));
  const total = rows.reduce((n, row) => n + row.count, 0);
  return { by, rows: rows.map((row) => ({ ...row, share: row.count / total })) };
}
