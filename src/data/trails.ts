import type { Trail } from '../core/routing/trail';
import { type Db, insert, row, rows } from './database';
import { deflated, inflated } from './deflated';
import { packedTrails } from './packed';

/**
 * How trails are kept: people by small numbers, those who were not chosen as steps from one number to the next, the whole
 * deflated.
 */
const DICTIONARY = 1;

const numbers = new WeakMap<Db, Map<string, number>>();

const people = new WeakMap<Db, Map<number, string>>();

/** Numbers that were made in a change that was undone are not there any more: to be called then. */
export function forgetTrailPeople(db: Db): void {
  numbers.delete(db);
  people.delete(db);
}

/** People's numbers in trails, each made when they first occur in one. Call inside a transaction to make some. */
function numbering(db: Db): (personId: string) => number {
  let known = numbers.get(db);
  if (!known) numbers.set(db, (known = new Map()));
  const there = known;
  return (personId) => {
    const before = there.get(personId);
    if (before !== undefined) return before;
    const found = row<{ no: number }>(db, 'SELECT no FROM trail_people WHERE person_id = ?', personId);
    const no = found?.no ?? insert(db, 'INSERT INTO trail_people (person_id) VALUES (?)', personId);
    there.set(personId, no);
    return no;
  };
}

/** A number is somebody's for good: each is looked up once. */
function personOf(db: Db, no: number): string {
  let known = people.get(db);
  if (!known) people.set(db, (known = new Map()));
  let id = known.get(no);
  if (id === undefined) {
    id = row<{ id: string }>(db, 'SELECT person_id AS id FROM trail_people WHERE no = ?', no)?.id;
    if (id === undefined) return `person ${no}`;
    known.set(no, id);
  }
  return id;
}

/** Numbers, put in order, as steps from each to the next. */
function steps(some: readonly number[]): number[] {
  const rising = [...some].sort((a, b) => a - b);
  for (let i = rising.length - 1; i > 0; i--) rising[i] = (rising[i] ?? 0) - (rising[i - 1] ?? 0);
  return rising;
}
function fromSteps(taken: readonly number[]): number[] {
  let at = 0;
  return taken.map((step) => (at += step));
}
/** People by what is said of each, as people to say it of. */
function grouped(
  numberOf: (personId: string) => number,
  said: Readonly<Record<string, string>>,
): Record<string, number[]> {
  const by: Record<string, number[]> = {};
  for (const personId in said) (by[said[personId] ?? ''] ??= []).push(numberOf(personId));
  for (const what in by) by[what] = steps(by[what] ?? []);
  return by;
}
function ungrouped(db: Db, by: Readonly<Record<string, readonly number[]>> | undefined): Record<string, string> {
  return Object.fromEntries(
    Object.entries(by ?? {}).flatMap(([what, people]) => fromSteps(people).map((no) => [personOf(db, no), what])),
  );
}

/** A trail with numbers for people, as JSON. The order of people within a reason says nothing: numbers rise. */
export function numberedTrail(db: Db, trail: Trail): string {
  const { others, lacking, limits, later, chosen, ...rest } = trail;
  const numberOf = numbering(db);
  return JSON.stringify({
    ...rest,
    chosen: chosen === null ? null : numberOf(chosen),
    others: Object.fromEntries(Object.entries(others).map(([why, people]) => [why, steps(people.map(numberOf))])),
    ...(Object.keys(lacking).length > 0 ? { lacking: grouped(numberOf, lacking) } : {}),
    ...(limits ? { limits: grouped(numberOf, limits) } : {}),
    ...(later ? { later: grouped(numberOf, later) } : {}),
  });
}

type Numbered = Omit<Trail, 'chosen' | 'others' | 'lacking' | 'limits' | 'later'> & {
  readonly chosen: number | null;
  readonly others: Readonly<Record<string, readonly number[]>>;
  readonly lacking?: Readonly<Record<string, readonly number[]>>;
  readonly limits?: Readonly<Record<string, readonly number[]>>;
  readonly later?: Readonly<Record<string, readonly number[]>>;
};

export function trailFrom(db: Db, numbered: string): Trail {
  const { chosen, others, lacking, limits, later, ...rest } = JSON.parse(numbered) as Numbered;
  return {
    ...rest,
    chosen: chosen === null ? null : personOf(db, chosen),
    others: Object.fromEntries(
      Object.entries(others).map(([why, people]) => [why, fromSteps(people).map((no) => personOf(db, no))]),
    ),
    lacking: ungrouped(db, lacking),
    ...(limits ? { limits: ungrouped(db, limits) as NonNullable<Trail['limits']> } : {}),
    ...(later ? { later: ungrouped(db, later) as NonNullable<Trail['later']> } : {}),
  };
}

export const writeDecision = (db: Db, visitId: string, trail: Trail): number =>
  insert(
    db,
    'INSERT INTO decisions (visit_id, trail) VALUES (?, ?)',
    visitId,
    deflated(numberedTrail(db, trail), DICTIONARY),
  );

/** A trail as it stands in its table: deflated, or with ids and all in JSON, as until step 10. */
export const storedTrail = (db: Db, kept: Buffer | string): Trail =>
  typeof kept === 'string' ? (JSON.parse(kept) as Trail) : trailFrom(db, inflated(kept));

/** Why a visit went where it went, decision by decision; also when its contact has been packed. */
export function decisionsOf(db: Db, visitId: string): Trail[] {
  const kept = rows<{ trail: Buffer | string }>(
    db,
    'SELECT trail FROM decisions WHERE visit_id = ? ORDER BY id',
    visitId,
  );
  return kept.length > 0
    ? kept.map((d) => storedTrail(db, d.trail))
    : packedTrails(db, visitId).map((numbered) => trailFrom(db, numbered));
}
