import { allSteps } from '../../core/bots/model';
import { leadsTo, queueWithoutSkill, stepsWithoutSkill } from '../../core/removing/without';
import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { SHIFTS } from '../../data/duty';
import { readPeople, settingsOfPerson, writePerson } from '../../data/people';
import { keepRetired } from '../../data/retired';
import { COPIED_ROLES } from '../../data/roles';
import { valueOf } from '../../data/documents';
import { readOwnLevels, readTeamLevels, SKILL_SETS } from '../../data/skills';
import { removeTeam } from '../../data/teams';
import { dropSkill, levelsOfSkill, readSkill, readTeam } from '../people/keepteams';
import { linesTouched, liveWith, queuesTouched, rulesTouched } from './referring';
import type { Removal, RemovalOf, Touching } from './removal';

const count = (n: number, one: string, many: string): string => (n === 1 ? `One ${one}` : `${n} ${many}`);

/** What needs or gives a skill, and what becomes of it when the skill goes. */
export const skillRemoval: RemovalOf = ({ floor }, db: Db, skillId): Removal | null => {
  const skill = readSkill(db, skillId);
  if (!skill) return null;
  const people = [...readOwnLevels(db).values()].filter((own) => own.has(skillId)).length;
  const teams = readTeamLevels(db).filter((t) => t.skillId === skillId).length;
  const sets = SKILL_SETS.all(db).filter((s) => s.levels[skillId] !== undefined);
  const waiting = [...floor.router.floor.waiting.values()].filter((v) =>
    v.needs.some((n) => n.skillId === skillId),
  ).length;
  const without = (steps: Parameters<typeof stepsWithoutSkill>[0]) => stepsWithoutSkill(steps, skillId);
  const value = { ...skill, ...levelsOfSkill(db, skillId) };
  const losing = (name: string, path: string): Touching => ({
    name,
    path,
    becomes: 'lose their levels in it, which come back with it',
    // The skill itself keeps them, in History as well.
    history: null,
    write: () => undefined,
  });
  return {
    name: skill.name,
    stops: [
      ...(waiting > 0 ? [`${count(waiting, 'contact waits', 'contacts wait')} for somebody who has it.`] : []),
      ...liveWith(db, without).map((name) => `${name} is live and asks for it: publish it without first.`),
    ],
    touches: [
      ...queuesTouched(db, (q) => queueWithoutSkill(q, skillId), 'neither needs nor loosens it any more'),
      ...linesTouched(db, without, 'does not ask for it any more'),
      ...rulesTouched(db, (who) => who.by === 'skill' && who.id === skillId),
      ...(people > 0 ? [losing(count(people, 'person', 'people'), '/people')] : []),
      ...(teams > 0 ? [losing(count(teams, 'team', 'teams'), '/people/teams')] : []),
      ...sets.map((s) => losing(`Whoever has ${s.name}`, '/people/teams')),
    ],
    insteads: [],
    needsInstead: false,
    value,
    drop: (tx) => dropSkill(tx.db, skillId),
    retire: (tx) => {
      keepRetired(tx.db, 'skill', skillId, skill.name, value, tx.realAt);
      dropSkill(tx.db, skillId);
    },
  };
};

/** Who belongs to a team, and what goes by it. */
export const teamRemoval: RemovalOf = (_deps, db: Db, teamId): Removal | null => {
  const team = readTeam(db, teamId);
  if (!team) return null;
  const people = readPeople(db);
  const members = people.filter((p) => p.teamId === teamId).length;
  const shift = SHIFTS.one(db, teamId);
  const asking = readBots(db).filter((b) => leadsTo(allSteps(b.draft), 'team', teamId));
  return {
    name: team.name,
    stops: [
      ...(members > 0 ? [`${count(members, 'person is', 'people are')} in it: give them another team first.`] : []),
      ...asking.map((b) => `${b.name} asks how many of it are there: change that first.`),
    ],
    touches: [
      ...people
        .filter((p) => p.alsoTeamIds.includes(teamId))
        .map((p): Touching => {
          const before = settingsOfPerson(p);
          const after = { ...before, alsoTeamIds: p.alsoTeamIds.filter((id) => id !== teamId) };
          return {
            name: p.name,
            path: `/people?person=${p.id}`,
            becomes: 'does not belong to it any more',
            history: { kind: 'person', id: p.id, before, after },
            write: (tx) => writePerson(tx.db, after),
          };
        }),
      ...rulesTouched(db, (who) => who.by === 'team' && who.id === teamId),
      ...COPIED_ROLES.all(db).flatMap((r): Touching[] => {
        if (!Array.isArray(r.teams) || !r.teams.includes(teamId)) return [];
        const after = { ...valueOf(r), teams: (r.teams as readonly string[]).filter((id) => id !== teamId) };
        return [
          {
            name: r.name,
            path: `/people/roles?role=${r.id}`,
            becomes: 'does not hold for it any more',
            history: { kind: 'role', id: r.id, before: valueOf(r), after },
            write: (tx) => COPIED_ROLES.restore(tx.db, r.id, after),
          },
        ];
      }),
      ...(shift
        ? [
            {
              name: 'Its shift',
              path: `/people/shifts?owner=${teamId}`,
              becomes: 'goes with it',
              history: {
                kind: 'shift',
                id: teamId,
                before: { weekly: shift.weekly, exceptions: shift.exceptions },
                after: null,
              },
              write: (tx) => SHIFTS.remove(tx.db, teamId),
            } satisfies Touching,
          ]
        : []),
    ],
    insteads: [],
    needsInstead: false,
    value: team,
    drop: (tx) => removeTeam(tx.db, teamId),
    retire: (tx) => {
      keepRetired(tx.db, 'team', teamId, team.name, team, tx.realAt);
      removeTeam(tx.db, teamId);
    },
  };
};
