import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { readDoors } from '../../data/doors';
import { readOutcomes } from '../../data/outcomes';
import { keepPastName, pastNames } from '../../data/past';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import type { PastLine } from '../../core/past/pastlines';
import type { Tx } from '../ground/host';

/** Kinds of things that a file names. What is not here by that name is kept by name alone. */
export const NAMED_KINDS = ['queue', 'person', 'door', 'bot', 'outcome'] as const;
export type NamedKind = (typeof NAMED_KINDS)[number];

const same = (name: string): string => name.trim().toLowerCase();

/** What is here, by kind and name (people also by their address): its id. */
export function thingsHere(db: Db): { readonly [K in NamedKind]: ReadonlyMap<string, string> } {
  const byName = (all: readonly { readonly id: string; readonly name: string }[]) =>
    new Map(all.map((one) => [same(one.name), one.id]));
  const outcomes = readOutcomes(db);
  const people = readPeople(db);
  return {
    queue: byName(readQueues(db)),
    person: new Map([...people.map((p) => [same(p.email), p.id] as const), ...byName(people)]),
    door: byName(readDoors(db)),
    bot: byName(readBots(db)),
    outcome: new Map([
      ...outcomes.map((o) => [same(o.label), o.code] as const),
      ...outcomes.map((o) => [same(o.code), o.code] as const),
    ]),
  };
}

/** What a line names, by kind. */
export function namedIn(line: PastLine): { readonly kind: NamedKind; readonly name: string }[] {
  if (line.kind === 'state') return [{ kind: 'person', name: line.person }];
  const of = (kind: NamedKind, names: readonly (string | null)[]) =>
    names.flatMap((name) => (name === null ? [] : [{ kind, name }]));
  return [
    ...of('door', [line.door]),
    ...of('bot', [line.bot]),
    ...of(
      'queue',
      line.visits.map((v) => v.queue),
    ),
    ...of('person', [...line.turns.map((t) => t.person), ...line.messages.map((m) => m.person)]),
    ...of(
      'outcome',
      line.turns.map((t) => t.outcome),
    ),
  ];
}

/** Gives the id of what a file names; what is not here gets one under which its name is kept. */
export type IdOf = (tx: Tx, kind: NamedKind, name: string) => string;
export function idsFor(db: Db, importId: string): IdOf {
  const here = thingsHere(db);
  const past = new Map(pastNames(db).map((one) => [`${one.kind} ${same(one.name)}`, one]));
  const named = new Set<string>();
  return (tx, kind, name) => {
    const known = here[kind].get(same(name));
    if (known !== undefined) return known;
    const key = `${kind} ${same(name)}`;
    const before = past.get(key);
    const one = before ?? { kind, id: tx.ids('past'), name: name.trim() };
    // Each file names what it brought, so that any of them can be taken out.
    if (!named.has(key)) {
      keepPastName(tx.db, importId, one);
      past.set(key, one);
      named.add(key);
    }
    return one.id;
  };
}
