import { array, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { stillCounts, type Level, type OwnLevel } from '../../core/people/levels';
import { ownLevelsOf, readPerson, readSkills, writeOwnLevel, type Person } from '../../data/people';
import { need, needSight, needTeam, type Actor } from '../ground/actor';
import { announce, noteChange, type Kept } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import type { LiveFloor } from '../contacts/livefloor';
import { todayOf } from './peoplebook';
import { exactly, id, text } from '../ground/schemas';
import { parse } from '../ground/validate';

export const ownLevelValue = mixed<Level | 'never' | 0>()
  .oneOf([0, 1, 2, 3, 4, 5, 'never'], 'A level is 1 to 5, never, or 0 to clear')
  .required('The level is missing');
const dayOrNull = string()
  .matches(/^\d{4}-\d{2}-\d{2}$/, 'A day is written like 2026-12-31')
  .nullable();
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

/** People's own levels: set, barred and cleared, and put back as they were. */
export function createLevels(host: Host, floor: LiveFloor) {
  /** Sets own levels without announcing it; gives what was there before, by person and skill. */
  function writeLevels(
    tx: Tx,
    actor: Actor,
    changes: readonly {
      personId: string;
      skillId: string;
      level: Level | 'never' | 0;
      until?: string | null | undefined;
      note?: string | undefined;
    }[],
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
        const person = needSight(actor, readPerson(tx.db, change.personId));
        needTeam(actor, person.teamId);
        people.set(person.id, (entry = { person, own: ownLevelsOf(tx.db, person.id), was: {}, now: {} }));
      }
      if (!skills.has(change.skillId))
        throw new LaneError('not-valid', 'There is no such skill.', [{ where: 'skillId', what: 'is not known' }]);
      const was = entry.own.get(change.skillId) ?? null;
      // A level typed over an ended one starts without the old end; otherwise end and note stay unless they are given.
      const keep = was !== null && stillCounts(was.until, todayOf(host, entry.person, tx.floorAt));
      const now: OwnLevel | null =
        change.level === 0
          ? null
          : {
              level: change.level,
              until: change.until === undefined ? (keep ? was.until : null) : change.until,
              note: change.note ?? was?.note ?? '',
            };
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

  const kept: Record<string, Kept> = {
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
        const person = needSight(actor, readPerson(tx.db, personId));
        needTeam(actor, person.teamId);
        for (const [skillId, own] of Object.entries(value as Record<string, OwnLevel | null>))
          writeOwnLevel(tx.db, personId, skillId, own);
        floor.refreshPeople(tx, [personId]);
      },
    },
  };
  return {
    kept,
    writeLevels,

    /** Sets own skill levels: 0 clears, `never` bars. Gives what was there before, for undo. */
    setLevels(
      actor: Actor,
      input: unknown,
    ): {
      before: { personId: string; skillId: string; level: Level | 'never' | 0; until: string | null; note: string }[];
    } {
      need(actor, 'people.change');
      const { changes } = parse(levelSchema, input);
      return host.transact((tx) => {
        const { before, personIds } = writeLevels(tx, actor, changes, personsIn(changes) > 1 ? tx.ids('batch') : null);
        announce(tx, 'levels', personIds[0] ?? '');
        floor.refreshPeople(tx, personIds);
        return { before };
      });
    },
  };
}
export type LevelsService = ReturnType<typeof createLevels>;
