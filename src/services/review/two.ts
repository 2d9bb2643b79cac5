import { LaneError } from '../../core/errors';
import {
  type Amount,
  folded,
  NONE as NOTHING,
  type Part,
  plus,
  reasonKey,
  type Turn,
  whyTheyDiffer,
} from '../../core/differing/reason';
import { reasonWords } from '../../core/differing/words';
import { type FactDay, NONE } from '../../core/measures/columns';
import { type Narrowing, passing } from '../../core/measures/narrowing';
import { readPeople } from '../../data/people';
import { readSkills } from '../../data/skills';
import { type TurnAt, turnsOf } from '../../data/turns';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf } from './asking';
import { type AskedView, askedView } from './askedview';
import { type Kind, KINDS, kindOf, mayRead } from './each';
import { daysOf, type Figure, figuresOf, eachCompared, measuresOf } from './figures';
import { namesOf } from './names';
import { emptyTally } from '../../core/measures/tally';

/** The mean of somebody’s team, as another of their kind. */
export const TEAM = 'team';

/** A reason why the other did not have it, in words and in contacts and minutes of either. */
export type DifferenceLine = {
  readonly key: string;
  readonly words: string;
  readonly mine: Amount;
  readonly theirs: Amount;
  /** Where the setting that was the reason is changed. */
  readonly setting: { readonly href: string; readonly words: string } | null;
};
export type TwoView = AskedView & {
  readonly kind: Kind;
  readonly one: { readonly id: string; readonly name: string };
  readonly other: { readonly id: string; readonly name: string };
  /** Others of the kind that it can be put beside. */
  readonly others: readonly { readonly id: string; readonly name: string }[];
  readonly figures: readonly { readonly one: Figure; readonly other: Figure }[];
  /** Of two people: why they differ; null of other things. */
  readonly why: {
    readonly mine: Amount;
    readonly theirs: Amount;
    readonly lines: readonly DifferenceLine[];
    readonly rest: readonly DifferenceLine[];
  } | null;
  /** Why it is not said why two people differ, where it is not. */
  readonly whyNot: string | null;
};

/** Two of a kind side by side; of two people (or one and the mean of their team) also why the one had more than the other. */
export function viewTwo(host: Host, actor: Actor, input: unknown): TwoView {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const kind = kindOf(asked.kind);
  const { key, figures: ids } = KINDS[kind];
  const [id, other] = [asked.id ?? '', asked.with ?? ''];
  const may = mayRead(host, actor, key);
  const nameOf = namesOf(host, actor);
  const team = kind === 'people' && other === TEAM;
  // As long as nobody is chosen, there is one and whom it can be put beside.
  if (!may(id) || (!team && other !== '' && !may(other)) || id === other)
    throw new LaneError('not-found', 'There are no two things by these names that you may see.');
  const days = daysOf(host, asked);
  const measures = measuresOf(ids);
  const [now, then] = eachCompared(days, asked, key, measures);
  const figuresFor = (one: string): Figure[] =>
    figuresOf(measures, now.get(one) ?? emptyTally(), then.get(one) ?? emptyTally());
  const mates = team ? matesOf(host, id) : other === '' ? [] : [other];
  const ofMates = mates.map(figuresFor);
  const others = (team ? ofMates : [figuresFor(other)]).filter((figures) => figures.some((f) => f.count > 0));
  return {
    ...askedView(host, actor, asked),
    kind,
    one: { id, name: nameOf(key, id) },
    other: { id: other, name: team ? 'their team’s mean' : other === '' ? '' : nameOf(key, other) },
    others: [...now.keys()]
      .filter((one) => one !== id && may(one))
      .map((one) => ({ id: one, name: nameOf(key, one) }))
      .sort((a, b) => (a.name < b.name ? -1 : 1)),
    figures: figuresFor(id).map((one, i) => ({
      one,
      other: meanFigure(
        one,
        others.flatMap((o) => o[i] ?? []),
      ),
    })),
    ...(kind === 'people' && other !== '' ? whyOf(host, asked, days.now, id, mates) : { why: null, whyNot: null }),
  };
}

/** One figure of several as the mean of each. */
export function meanFigure(like: Figure, of: readonly Figure[]): Figure {
  const mean = (values: readonly (number | null)[]): number | null => {
    const known = values.filter((v): v is number => v !== null);
    return known.length === 0 ? null : known.reduce((n, v) => n + v, 0) / known.length;
  };
  return {
    ...like,
    value: mean(of.map((f) => f.value)),
    before: mean(of.map((f) => f.before)),
    count: mean(of.map((f) => f.count)) ?? 0,
  };
}

/** Everybody else in somebody’s team. */
export function matesOf(host: Host, id: string): string[] {
  const people = readPeople(host.db);
  const teamId = people.find((p) => p.id === id)?.teamId;
  return people.filter((p) => p.teamId === teamId && p.id !== id).map((p) => p.id);
}

/** Why somebody had more or less than others, in reasons that sum to it; or why that cannot be said. */
export function whyOf(
  host: Host,
  asked: Asked,
  days: readonly FactDay[],
  id: string,
  mates: readonly string[],
): Pick<TwoView, 'why' | 'whyNot'> {
  const both = turnsOfBoth(host, asked, days, id, mates);
  if (!both) return { why: null, whyNot: TOO_MANY };
  const { mine, others } = both;
  // Who took nothing at all was hardly there: they would pull the mean of a team to nothing.
  const compared = mates.length === 1 ? others : others.filter((o) => o.turns.length > 0);
  if (compared.length === 0) return { why: null, whyNot: 'Nobody else of the team took a contact in this range.' };
  const parts = whyTheyDiffer({ id, turns: mine }, compared);
  const { shown, rest } = folded(parts);
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const line = (part: Part): DifferenceLine => ({
    key: reasonKey(part),
    words: reasonWords(part, skills),
    mine: part.mine,
    theirs: part.theirs,
    setting: settingOf(part, compared.length === 1 ? (compared[0]?.id ?? id) : null),
  });
  return {
    why: {
      mine: parts.reduce((sum, p) => plus(sum, p.mine), NOTHING),
      theirs: parts.reduce((sum, p) => plus(sum, p.theirs), NOTHING),
      lines: shown.map(line),
      rest: rest.map(line),
    },
    whyNot: null,
  };
}

/** The decision of each turn is read: some 0.5 ms of one that has been packed. */
const MOST_TURNS = 20_000;
export const tooMany = (turns: number): boolean => turns > MOST_TURNS;
export const TOO_MANY = `Reasons are looked up for at most ${MOST_TURNS.toLocaleString('en-GB')} contacts: choose fewer days.`;

type Turns = { readonly id: string; readonly turns: readonly Turn[] };
/** The turns of one person and of each of others in a range, by which they are compared; null where they are too many. */
export function turnsOfBoth(
  host: Host,
  asked: Asked,
  days: readonly FactDay[],
  id: string,
  mates: readonly string[],
): { readonly mine: readonly Turn[]; readonly others: readonly Turns[] } | null {
  const found = [id, ...mates].map((person) => ({
    person,
    at: turnsIn(days, { ...asked.now.narrowing, person: [person] }),
  }));
  if (tooMany(found.reduce((n, { at }) => n + at.length, 0))) return null;
  const [mine, ...others] = found.map(({ person, at }) => ({ id: person, turns: turnsOf(host.db, person, at) }));
  return { mine: mine?.turns ?? [], others };
}

/** The turns that the figure “handled” counts. */
function turnsIn(days: readonly FactDay[], narrowing: Narrowing): TurnAt[] {
  return days.flatMap((day) => {
    const part = day.part('legs');
    const mask = passing(part, narrowing);
    const [no, at, handled] = [part.numbers('no'), part.numbers('at'), part.numbers('handled')];
    const found: TurnAt[] = [];
    for (let i = 0; i < part.rows; i++)
      if (handled[i] !== NONE && (mask === null || mask[i] === 1))
        found.push({ no: no[i] as number, endedAt: part.from + (at[i] as number) });
    return found;
  });
}

/** Where what stood in the way is set, of a person; null where nobody is named or nothing is set. */
function settingOf({ why }: Part, otherId: string | null): DifferenceLine['setting'] {
  switch (why) {
    case 'off-duty':
    case 'away':
      return {
        href: otherId === null ? '/people/shifts' : `/people/shifts?owner=${encodeURIComponent(otherId)}`,
        words: 'Shifts',
      };
    case 'skill':
    case 'load':
    case 'channel-off':
    case 'channel-most':
      return {
        href: otherId === null ? '/people' : `/people?person=${encodeURIComponent(otherId)}`,
        words: why === 'skill' ? 'Skills' : 'How much at once',
      };
    case 'not-in-duty':
    case 'not-yet':
      return { href: '/people/duty', words: 'Duty profiles' };
    case 'limit':
      return { href: '/queues/groups', words: 'Groups' };
    case 'later-in-order':
      return { href: '/queues', words: 'Picking order' };
    default:
      return null;
  }
}
