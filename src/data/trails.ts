import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Trail } from '../core/routing/trail';
import { type Db, insert, row, rows } from './database';

/**
 * How trails are kept: people by small numbers, those who were not chosen as steps from one number to the next, the whole
 * deflated with a dictionary. A dictionary is never changed or dropped: another one takes another first byte. It holds
 * words of the format only.
 */
const DICTIONARIES: Readonly<Record<number, Buffer>> = {
  1: Buffer.from(
    ',"groupId":null,"limits":{"lacking":{"skill_":[{"refused":[{"held":[{"left-unasked":[{"took-another":[' +
      '{"offer-pending":[{"unreachable":[{"channel-off":[{"not-yet":[{"limit":[{"away":[{"later-in-order":[{"load":[' +
      '{"channel-most":[{"skill":[{"not-in-duty":[{"off-duty":[1,1,1,2,1,1,3,1,2,1],"chosen":null,"rank":null,"decidedBy":' +
      'null,"levelSum":null"kind":"end"{"kind":"stage","at":179{"kind":"entry","at":179{"kind":"offer","at":179,' +
      '"settingsVersion":1,"waitedSeconds":0,"stage":1,"asked":1,"able":1,"chosen":1,"rank":1,"decidedBy":"longest-idle"' +
      ',"decidedBy":"highest-level","decidedBy":"only-one","levelSum":2,"others":{"not-in-duty":[1,1,2,1,1],"off-duty":[',
  ),
};
const CURRENT = 1;
/** A small window: a trail is short, and a large one would cost more to begin than it saves. */
const HOW = { level: 6, windowBits: 12, memLevel: 5 } as const;

const numbers = new WeakMap<Db, Map<string, number>>();

/** Numbers that were made in a change that was undone are not there any more: to be called then. */
export const forgetTrailPeople = (db: Db): void => void numbers.delete(db);

/** A person's number in trails; made when they first occur in one. Call inside a transaction to make one. */
function numberOf(db: Db, personId: string): number {
  let known = numbers.get(db);
  if (!known) numbers.set(db, (known = new Map()));
  const there = known.get(personId);
  if (there !== undefined) return there;
  const found = row<{ no: number }>(db, 'SELECT no FROM trail_people WHERE person_id = ?', personId);
  const no = found?.no ?? insert(db, 'INSERT INTO trail_people (person_id) VALUES (?)', personId);
  known.set(personId, no);
  return no;
}

const personOf = (db: Db, no: number): string =>
  row<{ id: string }>(db, 'SELECT person_id AS id FROM trail_people WHERE no = ?', no)?.id ?? `person ${no}`;

/** Rising numbers as steps from each to the next. */
function steps(rising: readonly number[]): number[] {
  return rising.map((n, i) => n - (rising[i - 1] ?? 0));
}
function fromSteps(taken: readonly number[]): number[] {
  let at = 0;
  return taken.map((step) => (at += step));
}
/** People by what is said of each, as people to say it of. */
function grouped(db: Db, said: Readonly<Record<string, string>> | undefined): Record<string, number[]> {
  const by: Record<string, number[]> = {};
  for (const [personId, what] of Object.entries(said ?? {})) (by[what] ??= []).push(numberOf(db, personId));
  return Object.fromEntries(Object.entries(by).map(([what, people]) => [what, steps(people.sort((a, b) => a - b))]));
}
function ungrouped(db: Db, by: Readonly<Record<string, readonly number[]>> | undefined): Record<string, string> {
  return Object.fromEntries(
    Object.entries(by ?? {}).flatMap(([what, people]) => fromSteps(people).map((no) => [personOf(db, no), what])),
  );
}

/** People's ids in an order of their own become rising numbers; the order within a reason says nothing. */
export function packTrail(db: Db, trail: Trail): Buffer {
  const { others, lacking, limits, later, chosen, ...rest } = trail;
  const kept = {
    ...rest,
    chosen: chosen === null ? null : numberOf(db, chosen),
    others: Object.fromEntries(
      Object.entries(others).map(([why, people]) => [
        why,
        steps(people.map((id) => numberOf(db, id)).sort((a, b) => a - b)),
      ]),
    ),
    ...(Object.keys(lacking).length > 0 ? { lacking: grouped(db, lacking) } : {}),
    ...(limits ? { limits: grouped(db, limits) } : {}),
    ...(later ? { later: grouped(db, later) } : {}),
  };
  return Buffer.concat([
    Buffer.of(CURRENT),
    deflateRawSync(JSON.stringify(kept), { ...HOW, dictionary: DICTIONARIES[CURRENT] }),
  ]);
}

/** A trail as it was kept; as JSON until step 10. Throws where its dictionary is not known. */
export function unpackTrail(db: Db, kept: Buffer | string): Trail {
  if (typeof kept === 'string') return JSON.parse(kept) as Trail;
  const dictionary = DICTIONARIES[kept[0] ?? 0];
  if (!dictionary) throw new RangeError(`a trail was kept with dictionary ${kept[0]}, newer than this code knows`);
  const { chosen, others, lacking, limits, later, ...rest } = JSON.parse(
    inflateRawSync(kept.subarray(1), { dictionary }).toString('utf8'),
  ) as Omit<Trail, 'chosen' | 'others' | 'lacking' | 'limits' | 'later'> & {
    readonly chosen: number | null;
    readonly others: Readonly<Record<string, readonly number[]>>;
    readonly lacking?: Readonly<Record<string, readonly number[]>>;
    readonly limits?: Readonly<Record<string, readonly number[]>>;
    readonly later?: Readonly<Record<string, readonly number[]>>;
  };
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
  insert(db, 'INSERT INTO decisions (visit_id, trail) VALUES (?, ?)', visitId, packTrail(db, trail));

export const decisionsOf = (db: Db, visitId: string): Trail[] =>
  rows<{ trail: Buffer | string }>(db, 'SELECT trail FROM decisions WHERE visit_id = ? ORDER BY id', visitId).map((d) =>
    unpackTrail(db, d.trail),
  );
