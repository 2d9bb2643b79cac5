import { array, mixed, object } from 'yup';
import { LaneError } from '../../core/errors';
import { type Level, type OwnLevel, stillCounts } from '../../core/people/levels';
import { type Person, readPerson } from '../../data/people';
import { ownLevelsOf, readSkills, writeOwnLevel } from '../../data/skills';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustSee, mustReach } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, type Undoable, noteChange } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { day, exactly, id, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import { todayOf } from './peoplebook';

export const ownLevelValue = mixed<Level | 'never' | 0>()
  .oneOf([0, 1, 2, 3, 4, 5, 'never'], 'A level is 1 to 5, never, or 0 to clear')
  .required('The level is missing');
const dayOrNull = day.nullable();
const levelSchema = exactly(
  object({
    changes: array(
      exactly(
        object({
          personId: id('The person'),
          skillId: id('The skill'),
          level: ownLevelValue,
          until: dayOrNull.optional(),
          note: text(200, 'The note').optional(),
        }),
      ),
    )
      .min(1, 'Nothing to change')
      .max(5000, 'At most 5000 levels at once')
      .required('The changes are missing'),
  }),
);

const personsIn = (changes: readonly { personId: string }[]): number => new Set(changes.map((c) => c.personId)).size;

/** What the functions of this file are given first. */
export type LevelsDeps = { readonly host: Host; readonly floor: LiveFloor };

type LevelChange = {
  readonly skillId: string;
  readonly level: Level | 'never' | 0;
  readonly until?: string | null | undefined;
  readonly note?: string | undefined;
};

/**
 * What a change leaves of an own level at an instant of the floor. A level typed over an ended one starts without the old
 * end; otherwise end and note stay unless they are given.
 */
export function levelAfter(
  host: Host,
  person: Pick<Person, 'siteId' | 'teamId'>,
  was: OwnLevel | null,
  change: LevelChange,
  floorAt: number,
): OwnLevel | null {
  if (change.level === 0) return null;
  const keep = was !== null && stillCounts(was.until, todayOf(host, person, floorAt));
  return {
    level: change.level,
    until: change.until === undefined ? (keep ? was.until : null) : change.until,
    note: change.note ?? was?.note ?? '',
  };
}

/** Sets own levels without announcing it; gives what was there before, by person and skill. */
export function writeLevels(
  { host }: LevelsDeps,
  tx: Tx,
  actor: Actor,
  changes: readonly (LevelChange & { readonly personId: string })[],
  batch: string | null,
) {
  const skills = host.remembered('skill-ids', (db) => new Set(readSkills(db).map((s) => s.id)));
  const before: {
    personId: string;
    skillId: string;
    level: Level | 'never' | 0;
    until: string | null;
    note: string;
  }[] = [];
  const people = new Map<
    string,
    {
      person: Person;
      own: Map<string, OwnLevel>;
      was: Record<string, OwnLevel | null>;
      now: Record<string, OwnLevel | null>;
    }
  >();
  for (const change of changes) {
    let entry = people.get(change.personId);
    if (!entry) {
      const person = mustSee(actor, readPerson(tx.db, change.personId));
      mustReach(actor, person.teamId);
      people.set(person.id, (entry = { person, own: ownLevelsOf(tx.db, person.id), was: {}, now: {} }));
    }
    if (!skills.has(change.skillId))
      throw new LaneError('not-valid', 'There is no such skill.', [{ where: 'skillId', what: 'is not known' }]);
    const was = entry.own.get(change.skillId) ?? null;
    const now = levelAfter(host, entry.person, was, change, tx.floorAt);
    writeOwnLevel(tx.db, entry.person.id, change.skillId, now);
    if (!(change.skillId in entry.was)) entry.was[change.skillId] = was;
    entry.now[change.skillId] = now;
    before.push({
      personId: entry.person.id,
      skillId: change.skillId,
      level: was?.level ?? 0,
      until: was?.until ?? null,
      note: was?.note ?? '',
    });
  }
  for (const { person, was, now } of people.values())
    noteChange(tx, actor, 'levels', person.id, was, now, { label: person.name, batch });
  return { before: before.reverse(), personIds: [...people.keys()] };
}

export const undoableLevels = ({ floor }: LevelsDeps): Record<string, Undoable> => ({
  levels: {
    name: 'skill levels',
    path: (personId) => `/people?person=${personId}`,
    read: (db, personId, like) => {
      const own = ownLevelsOf(db, personId);
      return Object.fromEntries(
        Object.keys((like ?? {}) as object).map((skillId) => [skillId, own.get(skillId) ?? null]),
      );
    },
    restore: (tx, actor, personId, value) => {
      const person = mustSee(actor, readPerson(tx.db, personId));
      mustReach(actor, person.teamId);
      for (const [skillId, own] of Object.entries(value as Record<string, OwnLevel | null>))
        writeOwnLevel(tx.db, personId, skillId, own);
      floor.refreshPeople(tx, [personId]);
    },
  },
});

/** Sets own skill levels: 0 clears, `never` bars. Gives what was there before, for undo. */
export function setLevels(
  deps: LevelsDeps,
  actor: Actor,
  input: unknown,
): {
  before: { personId: string; skillId: string; level: Level | 'never' | 0; until: string | null; note: string }[];
} {
  mustHold(actor, 'people.change');
  const { changes } = parse(levelSchema, input);
  return deps.host.transact((tx) => {
    const { before, personIds } = writeLevels(
      deps,
      tx,
      actor,
      changes,
      personsIn(changes) > 1 ? tx.ids('batch') : null,
    );
    announce(tx, 'levels', personIds[0] ?? '');
    deps.floor.refreshPeople(tx, personIds);
    return { before };
  });
}

/** People's own levels: set, barred and cleared, and put back as they were. */
export const createLevels = (deps: LevelsDeps) => ({
  undoable: undoableLevels(deps),
  ...bind(deps, { writeLevels, setLevels }),
});

export type LevelsService = ReturnType<typeof createLevels>;
