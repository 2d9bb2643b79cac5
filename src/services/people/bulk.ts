import { array, boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { readProfiles } from '../../data/dutyprofiles';
import { type Person, type PersonSettings, readPerson, settingsOfPerson } from '../../data/people';
import { readRoles } from '../../data/roles';
import { ownLevelsOf, readSkills } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustSee, mustReach } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, noteChange } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type LevelsService, ownLevelValue } from './levels';
import type { People } from './people';

const bulkSchema = exactly(
  object({
    personIds: array(id('The person'))
      .min(1, 'Nobody is chosen')
      .max(5000, 'At most 5000 people at once')
      .required('The people are missing'),
    apply: boolean().required('apply is missing'),
    set: exactly(
      object({
        teamId: string().optional(),
        dutyProfileId: string().optional(),
        siteId: string().optional(),
        roleId: string().optional(),
        active: boolean().optional(),
        level: exactly(object({ skillId: id('The skill'), level: ownLevelValue }))
          .optional()
          .default(undefined),
      }),
    ),
  }),
);

export type BulkResult = {
  readonly changes: readonly { personId: string; name: string; what: string; from: string; to: string }[];
  readonly unchanged: number;
  readonly refused: readonly { name: string; why: string }[];
  readonly applied: boolean;
};

/** What the functions of this file are given first. */
export type BulkDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly people: People;
  readonly levels: LevelsService;
};

export function changeMany({ host, people, levels, floor }: BulkDeps, actor: Actor, input: unknown): BulkResult {
  mustHold(actor, 'people.change');
  const { personIds, apply, set } = parse(bulkSchema, input);
  if (Object.values(set).every((v) => v === undefined))
    throw new LaneError('not-valid', 'Choose what to set.', [{ where: 'set', what: 'is empty' }]);
  return host.transact((tx) => {
    const names = new Map(
      [...readTeams(tx.db), ...readProfiles(tx.db), ...SITES.all(tx.db), ...readRoles(tx.db), ...readSkills(tx.db)].map(
        (n) => [n.id, n.name],
      ),
    );
    const say = (v: unknown): string =>
      v === null || v === undefined
        ? '–'
        : typeof v === 'boolean'
          ? v
            ? 'on'
            : 'off'
          : (names.get(String(v)) ?? String(v));
    const changes: BulkResult['changes'][number][] = [];
    const refused: BulkResult['refused'][number][] = [];
    const todo: { person: Person; after: PersonSettings; plain: boolean; levelled: boolean }[] = [];
    for (const personId of new Set(personIds)) {
      const person = mustSee(actor, readPerson(tx.db, personId));
      mustReach(actor, person.teamId);
      const before = settingsOfPerson(person);
      const after: PersonSettings = {
        ...before,
        ...(set.teamId === undefined
          ? {}
          : { teamId: set.teamId, alsoTeamIds: before.alsoTeamIds.filter((t) => t !== set.teamId) }),
        ...(set.dutyProfileId === undefined ? {} : { dutyProfileId: set.dutyProfileId }),
        ...(set.siteId === undefined ? {} : { siteId: set.siteId === '' ? null : set.siteId }),
        ...(set.roleId === undefined ? {} : { roleId: set.roleId }),
        ...(set.active === undefined ? {} : { active: set.active }),
      };
      const mine: BulkResult['changes'][number][] = [];
      const differs = (what: string, from: unknown, to: unknown) => {
        if (from !== to) mine.push({ personId, name: person.name, what, from: say(from), to: say(to) });
      };
      differs('team', before.teamId, after.teamId);
      differs('duty profile', before.dutyProfileId, after.dutyProfileId);
      differs('site', before.siteId, after.siteId);
      differs('role', before.roleId, after.roleId);
      differs('account', before.active, after.active);
      const settled = mine.length;
      const plain = settled > 0;
      if (set.level)
        differs(
          names.get(set.level.skillId) ?? 'skill',
          ownLevelsOf(tx.db, personId).get(set.level.skillId)?.level ?? '–',
          set.level.level === 0 ? '–' : set.level.level,
        );
      try {
        if (plain) people.checkPerson(tx, actor, after, person);
        if (before.active && !after.active) people.checkSwitchOff(tx, actor, person);
      } catch (error) {
        if (!(error instanceof LaneError)) throw error;
        refused.push({ name: person.name, why: error.message });
        continue;
      }
      changes.push(...mine);
      if (mine.length > 0) todo.push({ person, after, plain, levelled: mine.length > settled });
    }
    if (apply && todo.length > 0) {
      const batch = tx.ids('batch');
      for (const { person, after, plain, levelled } of todo) {
        if (plain)
          noteChange(tx, actor, 'person', person.id, settingsOfPerson(person), people.put(tx, actor, person, after), {
            batch,
          });
        if (levelled && set.level)
          levels.writeLevels(
            tx,
            actor,
            [{ personId: person.id, skillId: set.level.skillId, level: set.level.level }],
            batch,
          );
      }
      announce(tx, 'bulk', batch);
      floor.refreshPeople(
        tx,
        todo.map((t) => t.person.id),
      );
    }
    return { changes, unchanged: new Set(personIds).size - todo.length - refused.length, refused, applied: apply };
  });
}

/** One thing set for many people: shown first, then done in one press that one undo takes back. */
export const createBulk = (deps: BulkDeps) => bind(deps, { run: changeMany });
