import { type DaySpan, type FactDay, type PartOfDay, rememberedIn } from './columns';
import { countPart, noGoal, type PartOptions } from './countingrows';
import { ofEachPart, type Part, ROLLED_BY, type RolledBy, type RolledPiece, type RollUp } from './factparts';
import { type By, groupName, groupOf } from './grouping';
import { Lengths } from './lengths';
import type { Narrowing } from './narrowing';
import { emptyTally, type Tally } from './tally';

type Path = readonly [string] | readonly [string, string];
type Nested = Record<string, number | Record<string, number>>;
/** Where the numbers of a part stand in a tally. */
const pathsOf = (part: Part): readonly Path[] =>
  Object.entries(emptyTally()[part]).flatMap(([name, value]): Path[] =>
    typeof value === 'number'
      ? [[name]]
      : value instanceof Lengths
        ? []
        : Object.keys(value as Record<string, number>).map((inner): Path => [name, inner]),
  );
const PATHS = ofEachPart(pathsOf);
const holder = (tally: Tally, part: Part, [name, inner]: Path): readonly [Record<string, number>, string] => {
  const of = tally[part] as unknown as Nested;
  return inner === undefined ? [of as Record<string, number>, name] : [of[name] as Record<string, number>, inner];
};
const numberAt = (tally: Tally, part: Part, path: Path): number => {
  const [of, name] = holder(tally, part, path);
  return of[name] as number;
};

/**
 * A day of facts from its parts. What is made of it stands in `known`; roll-ups that are `kept` need not be made.
 */
export function factDay(
  span: DaySpan,
  part: (part: Part) => PartOfDay,
  known = new Map<string, unknown>(),
  kept: <K extends RolledPiece>(key: RolledBy, piece: K) => RollUp[K] | undefined = () => undefined,
): FactDay {
  const remembered = rememberedIn(known);
  return {
    ...span,
    part,
    remembered,
    rolled: (key, piece) => kept(key, piece) ?? remembered(`rolled by ${key}`, () => rollUp({ part }, key))[piece],
  };
}

/** Counts a day by one key. */
export function rollUp(day: Pick<FactDay, 'part'>, key: RolledBy): RollUp {
  const by: readonly By[] = key === 'all' ? [] : [key];
  const counted = ofEachPart((part) => countedIn(day, part, by));
  const judges = new Map<string, number>();
  return {
    numbers: ofEachPart((part) => ({
      groups: [...counted[part].keys()],
      numbers: [...counted[part].values()].flatMap((tally) => PATHS[part].map((path) => numberAt(tally, part, path))),
    })),
    waits: [...counted.visits.values()].flatMap(({ visits }, group) =>
      visits.lengths.pairs().flatMap(([step, many]) => [group, step, many]),
    ),
    judged: {
      visits: judgedIn(day, 'visits', by, [...counted.visits.keys()], judges),
      legs: judgedIn(day, 'legs', by, [...counted.legs.keys()], judges),
      judges: [...judges.keys()].map((name) => {
        const [queueId = '', channel = ''] = groupOf(name);
        return [queueId, channel] as const;
      }),
    },
  };
}

/** What is held against a goal; `judges` are the queues and channels whose goals these are, by the place they have been given. */
function judgedIn(
  day: Pick<FactDay, 'part'>,
  part: 'visits' | 'legs',
  by: readonly By[],
  groups: readonly string[],
  judges: Map<string, number>,
): number[] {
  const places = new Map(groups.map((name, place) => [name, place]));
  return [...countedIn(day, part, [...by, 'queue', 'channel'])].flatMap(([name, { visits, legs }]) => {
    const values = groupOf(name);
    const many = part === 'visits' ? visits.rated : legs.possible;
    const place = places.get(groupName(values.slice(0, by.length)));
    if (many === 0 || place === undefined) return [];
    const judge = groupName(values.slice(by.length));
    if (!judges.has(judge)) judges.set(judge, judges.size);
    return [place, judges.get(judge) ?? 0, many];
  });
}
function countedIn(day: Pick<FactDay, 'part'>, part: Part, by: readonly By[]): ReadonlyMap<string, Tally> {
  const tallies = new Map<string, Tally>();
  countPart(part, day.part(part), {}, (group) => talliedIn(tallies, groupName(group)), { by });
  return tallies;
}
/** The tally of that name, which is there from now on. */
export function talliedIn(tallies: Map<string, Tally>, name: string): Tally {
  let found = tallies.get(name);
  if (!found) tallies.set(name, (found = emptyTally()));
  return found;
}

/** By which roll-up something that is asked can be answered, and of which group alone, where it is of one. */
export type Rolled = { readonly key: RolledBy; readonly only: string | null };
const isRolled = (key: string): key is RolledBy => (ROLLED_BY as readonly string[]).includes(key);
/** Null where rows must be gone through: what is narrowed by more than one value of one key. */
export function rolledFor({ until: _until, clock, ...keys }: Narrowing, by: readonly By[]): Rolled | null {
  // A day is counted by itself, so that its date and weekday tell nothing apart.
  const apart = by.filter((key) => key !== 'day' && key !== 'weekday');
  const narrowed = Object.entries(keys).filter(([, values]) => values !== undefined);
  if (clock || narrowed.length + apart.length > 1) return null;
  const [[key = apart[0] ?? 'all', values] = []] = narrowed;
  if (!isRolled(key)) return null;
  if (values === undefined) return { key, only: null };
  return values.length === 1 && values[0] !== undefined ? { key, only: values[0] } : null;
}

/** Adds what a day’s roll-up says of some parts; `cell` gives the tally of a group by its name. */
export function addRolled(
  day: FactDay,
  { key, only }: Rolled,
  { by, parts, lengths, goals }: Required<PartOptions> & { readonly parts: readonly Part[] },
  cell: (name: string) => Tally,
): void {
  const counted = day.rolled(key, 'numbers');
  for (const part of parts) {
    const { groups, numbers } = counted[part];
    const paths = PATHS[part];
    const tallies = groups.map((value, place) => {
      if (only !== null && value !== only) return null;
      const group = by.map((one) =>
        one === 'day' ? String(day.from) : one === 'weekday' ? String(day.weekday) : value,
      );
      const tally = cell(groupName(group));
      paths.forEach((path, i) => {
        const n = numbers[place * paths.length + i] as number;
        if (n === 0) return;
        const [of, name] = holder(tally, part, path);
        of[name] = (of[name] as number) + n;
      });
      return tally;
    });
    if (part === 'visits' && lengths.includes('waited')) {
      const waits = day.rolled(key, 'waits');
      for (let i = 0; i < waits.length; i += 3)
        tallies[waits[i] as number]?.visits.lengths.addAt(waits[i + 1] as number, waits[i + 2] as number);
    }
    if (goals !== noGoal && (part === 'visits' || part === 'legs')) {
      const judged = day.rolled(key, 'judged');
      const percents = judged.judges.map(([queueId, channel]) => goals(queueId, channel));
      const counts = judged[part];
      for (let i = 0; i < counts.length; i += 3) {
        const tally = tallies[counts[i] as number];
        if (tally) tally[part].wanted += (percents[counts[i + 1] as number] as number) * (counts[i + 2] as number);
      }
    }
  }
}
