import { LaneError } from '../../core/errors';
import type { Db } from '../../data/database';
import { type Person, readPeople, writePersonSets } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import type { Level, OwnLevel } from '../../core/people/levels';
import {
  readOwnLevels,
  readSkills,
  readTeamLevels,
  removeSkill,
  SKILL_SETS,
  writeOwnLevel,
  writeSkill,
  writeTeamLevels,
} from '../../data/skills';
import { readTeams, removeTeam, SITES, supervisorsOf, writeSupervisors, writeTeam } from '../../data/teams';
import { mustHoldEverywhere } from '../ground/actor';
import type { Undoable } from '../ground/change';
import type { Tx } from '../ground/host';
import { inTeam, levelsOfTeam, type TeamsDeps } from './teamsview';

export type TeamValue = NonNullable<ReturnType<typeof readTeam>>;
export type SetValue = NonNullable<ReturnType<typeof readSet>>;
export type SiteValue = NonNullable<ReturnType<typeof readSite>>;

export function readTeam(db: Db, teamId: string) {
  const t = readTeams(db).find((x) => x.id === teamId);
  return t
    ? {
        id: t.id,
        name: t.name,
        zone: t.zone,
        setIds: t.setIds,
        levels: levelsOfTeam(db, t.id),
        supervisorIds: supervisorsOf(db, t.id),
      }
    : null;
}

export function readSkill(db: Db, skillId: string) {
  const s = readSkills(db).find((x) => x.id === skillId);
  return s ? { id: s.id, name: s.name, kind: s.kind } : null;
}

/** Who has a skill, by themselves, by their team or by a set: what is lost with it, and comes back with it. */
export function levelsOfSkill(db: Db, skillId: string): SkillLevels {
  return {
    people: [...readOwnLevels(db)].flatMap(([personId, own]) => {
      const level = own.get(skillId);
      return level ? [{ personId, ...level }] : [];
    }),
    teams: Object.fromEntries(
      readTeamLevels(db).flatMap((t) => (t.skillId === skillId ? [[t.teamId, t.level] as const] : [])),
    ),
    sets: Object.fromEntries(
      SKILL_SETS.all(db).flatMap((s) => {
        const level = s.levels[skillId];
        return level === undefined ? [] : [[s.id, level] as const];
      }),
    ),
  };
}
type SkillLevels = {
  readonly people: readonly (OwnLevel & { readonly personId: string })[];
  readonly teams: Readonly<Record<string, Level>>;
  readonly sets: Readonly<Record<string, Level>>;
};
export type SkillValue = NonNullable<ReturnType<typeof readSkill>> & Partial<SkillLevels>;

/** A skill as a change has it: one that took it away or brought it back goes by everybody's levels as well. */
function skillLike(db: Db, skillId: string, like: unknown): SkillValue | null {
  const skill = readSkill(db, skillId);
  return skill && typeof like === 'object' && like !== null && 'people' in like
    ? { ...skill, ...levelsOfSkill(db, skillId) }
    : skill;
}

/** Puts a skill there, with the levels that it was removed with, for whoever is still there. */
export function putSkill(tx: Tx, { people = [], teams = {}, sets = {}, ...skill }: SkillValue): void {
  writeSkill(tx.db, skill, readSkills(tx.db).length);
  const there = new Set(readPeople(tx.db).map((p) => p.id));
  for (const { personId, ...own } of people) if (there.has(personId)) writeOwnLevel(tx.db, personId, skill.id, own);
  for (const team of readTeams(tx.db)) {
    const level = teams[team.id];
    if (level !== undefined) writeTeamLevels(tx.db, team.id, { ...levelsOfTeam(tx.db, team.id), [skill.id]: level });
  }
  for (const set of SKILL_SETS.all(tx.db)) {
    const level = sets[set.id];
    if (level !== undefined)
      SKILL_SETS.write(tx.db, set.id, set.name, { levels: { ...set.levels, [skill.id]: level } });
  }
}

export function readSet(db: Db, setId: string) {
  const s = SKILL_SETS.one(db, setId);
  return s
    ? {
        id: s.id,
        name: s.name,
        levels: s.levels,
        teamIds: readTeams(db)
          .filter((t) => t.setIds.includes(setId))
          .map((t) => t.id),
        personIds: readPeople(db)
          .filter((p) => p.setIds.includes(setId))
          .map((p) => p.id),
      }
    : null;
}

export function readSite(db: Db, siteId: string) {
  const s = SITES.one(db, siteId);
  return s ? { id: s.id, name: s.name, zone: s.zone, address: s.address } : null;
}

/** Levels may have changed for anybody: everybody's are read anew. */
export const refresh = ({ floor }: TeamsDeps, tx: Tx, who: (p: Person) => boolean = () => true) =>
  floor.refreshPeople(
    tx,
    readPeople(tx.db)
      .filter(who)
      .map((p) => p.id),
  );

function known(list: readonly string[], there: readonly { id: string }[], what: string, where: string): void {
  const ids = new Set(there.map((t) => t.id));
  if (!list.every((one) => ids.has(one)))
    throw new LaneError('not-valid', `One ${what} does not exist.`, [{ where, what: 'is not known' }]);
}

export function putTeam(tx: Tx, t: TeamValue): void {
  known(Object.keys(t.levels), readSkills(tx.db), 'skill', 'levels');
  known(t.setIds, SKILL_SETS.all(tx.db), 'skill set', 'setIds');
  known(t.supervisorIds, readPeople(tx.db), 'person', 'supervisorIds');
  writeTeam(tx.db, t, readTeams(tx.db).length);
  writeTeamLevels(tx.db, t.id, t.levels);
  writeSupervisors(tx.db, t.id, t.supervisorIds);
}

/** A set says itself whom it is given to; teams and people keep it. */
export function putSet(tx: Tx, s: SetValue): void {
  known(Object.keys(s.levels), readSkills(tx.db), 'skill', 'levels');
  known(s.teamIds, readTeams(tx.db), 'team', 'teamIds');
  known(s.personIds, readPeople(tx.db), 'person', 'personIds');
  SKILL_SETS.write(tx.db, s.id, s.name, { levels: s.levels });
  for (const t of readTeams(tx.db))
    if (t.setIds.includes(s.id) !== s.teamIds.includes(t.id))
      writeTeam(
        tx.db,
        { ...t, setIds: s.teamIds.includes(t.id) ? [...t.setIds, s.id] : t.setIds.filter((x) => x !== s.id) },
        0,
      );
  for (const p of readPeople(tx.db))
    if (p.setIds.includes(s.id) !== s.personIds.includes(p.id))
      writePersonSets(
        tx.db,
        p.id,
        s.personIds.includes(p.id) ? [...p.setIds, s.id] : p.setIds.filter((x) => x !== s.id),
      );
}

/** Takes a skill away with every level in it. */
export function dropSkill(db: Db, skillId: string): void {
  for (const s of SKILL_SETS.all(db))
    if (s.levels[skillId] !== undefined)
      SKILL_SETS.write(db, s.id, s.name, {
        levels: Object.fromEntries(Object.entries(s.levels).filter(([id]) => id !== skillId)),
      });
  removeSkill(db, skillId);
}

export function drop(tx: Tx, kind: 'team' | 'skill' | 'skill-set' | 'site', thingId: string): void {
  const refuse = (why: string) => {
    throw new LaneError('not-now', why);
  };
  if (kind === 'team') {
    const members = readPeople(tx.db).filter(inTeam(thingId)).length;
    if (members > 0) refuse(`${members} people are in this team. Give them another team first.`);
    removeTeam(tx.db, thingId);
  } else if (kind === 'skill') {
    const users = readQueues(tx.db)
      .filter((q) => q.needs.some((n) => n.skillId === thingId))
      .map((q) => q.name);
    if (users.length > 0) refuse(`${users.join(', ')} ${users.length === 1 ? 'needs' : 'need'} this skill.`);
    dropSkill(tx.db, thingId);
  } else if (kind === 'skill-set') {
    const set = readSet(tx.db, thingId);
    if (set) putSet(tx, { ...set, teamIds: [], personIds: [] });
    SKILL_SETS.remove(tx.db, thingId);
  } else {
    const there = readPeople(tx.db).filter((p) => p.siteId === thingId).length;
    if (there > 0) refuse(`${there} people work at this site.`);
    SITES.remove(tx.db, thingId);
  }
}

export const putSite = (tx: Tx, s: SiteValue) => SITES.write(tx.db, s.id, s.name, { zone: s.zone, address: s.address });
const path = (kind: string) => (thingId: string) => `/people/teams?${kind}=${thingId}`;

const keptKind = <V>(
  deps: TeamsDeps,
  name: string,
  kind: 'team' | 'skill' | 'skill-set' | 'site',
  read: (db: Db, id: string, like: unknown) => V | null,
  put: (tx: Tx, value: V) => void,
): Undoable => ({
  name,
  read,
  path: path(kind),
  restore: (tx, actor, thingId, value) => {
    mustHoldEverywhere(actor, 'people.change');
    if (value === null) drop(tx, kind, thingId);
    else put(tx, value as V);
    refresh(deps, tx);
  },
});

export const undoableTeams = (deps: TeamsDeps): Record<string, Undoable> => ({
  team: keptKind(deps, 'team', 'team', readTeam, putTeam),
  'skill-set': keptKind(deps, 'skill set', 'skill-set', readSet, putSet),
  site: keptKind(deps, 'site', 'site', readSite, putSite),
  skill: keptKind(deps, 'skill', 'skill', skillLike, putSkill),
});
