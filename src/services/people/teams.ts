import { array, boolean, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { isLevel, type Levels, SKILL_KINDS, type SkillKind } from '../../core/people/levels';
import type { Db } from '../../data/database';
import {
  type Person,
  readOwnLevels,
  readPeople,
  readSkills,
  readTeamLevels,
  readTeams,
  removeSkill,
  removeTeam,
  SITES,
  type Skill,
  SKILL_SETS,
  supervisorsOf,
  writePersonSets,
  writeSkill,
  writeSupervisors,
  writeTeam,
  writeTeamLevels,
} from '../../data/people';
import { readQueues } from '../../data/settings';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, need, needEverywhere, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Kept, recordChange, removeKept, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

const zone = requiredText(60, 'The zone').test('zone', 'The zone must be an IANA name such as Europe/Dublin', (value) =>
  isZone(value),
);
const levels = mixed<Levels>()
  .required('The levels are missing')
  .test(
    'levels',
    'Levels are whole numbers from 1 to 5 by skill',
    (value) =>
      typeof value === 'object' &&
      value !== null &&
      Object.entries(value).length <= 400 &&
      Object.values(value).every(isLevel),
  );
const base = {
  id: string().nullable().defined(),
  revision: whole(0, 1e9, 'The revision'),
  name: requiredText(60, 'The name'),
};
const idList = (label: string) =>
  array(id(label)).max(200, `At most 200 of ${label.toLowerCase()}`).required(`${label} are missing`);
const teamSchema = exactly(
  object({
    ...base,
    zone,
    levels,
    setIds: idList('Skill sets'),
    supervisorIds: idList('Supervisors'),
    allSpeak: boolean().optional(),
  }),
);
const setSchema = exactly(
  object({
    ...base,
    levels,
    teamIds: idList('Teams'),
    personIds: array(id('A person')).max(2000, 'At most 2000 people').required('The people are missing'),
  }),
);
const siteSchema = exactly(object({ ...base, zone, address: text(200, 'The address').defined() }));
const skillSchema = exactly(object({ ...base, kind: oneOf<SkillKind>(SKILL_KINDS, 'The kind') }));
const removeSchema = exactly(
  object({ kind: oneOf(['team', 'skill', 'skill-set', 'site'] as const, 'The kind'), id: id('The thing') }),
);

export function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

export type TeamDetail = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly levels: Levels;
  readonly setIds: readonly string[];
  readonly supervisorIds: readonly string[];
  readonly members: number;
  readonly revision: number;
};
export type SetDetail = {
  readonly id: string;
  readonly name: string;
  readonly levels: Levels;
  readonly teamIds: readonly string[];
  readonly personIds: readonly string[];
  readonly revision: number;
};
export type SiteDetail = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly address: string;
  readonly people: number;
  readonly revision: number;
};
export type SkillDetail = Skill & {
  readonly usedBy: readonly string[];
  readonly ends: readonly { personId: string; name: string; until: string }[];
};
export type TeamsView = {
  readonly teams: readonly TeamDetail[];
  readonly sets: readonly SetDetail[];
  readonly sites: readonly SiteDetail[];
  readonly skills: readonly SkillDetail[];
  readonly people: readonly { id: string; name: string; teamId: string }[];
  /** Zones to choose from: the server's, since browsers name some differently. */ readonly zones: readonly string[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type TeamsDeps = { readonly host: Host; readonly floor: LiveFloor };

type TeamValue = NonNullable<ReturnType<typeof readTeam>>;

type SetValue = NonNullable<ReturnType<typeof readSet>>;

type SiteValue = NonNullable<ReturnType<typeof readSite>>;

const levelsOfTeam = (db: Db, teamId: string): Levels =>
  Object.fromEntries(
    readTeamLevels(db)
      .filter((l) => l.teamId === teamId)
      .map((l) => [l.skillId, l.level]),
  );

function readTeam(db: Db, teamId: string) {
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

function readSkill(db: Db, skillId: string) {
  const s = readSkills(db).find((x) => x.id === skillId);
  return s ? { id: s.id, name: s.name, kind: s.kind } : null;
}

function readSet(db: Db, setId: string) {
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

function readSite(db: Db, siteId: string) {
  const s = SITES.one(db, siteId);
  return s ? { id: s.id, name: s.name, zone: s.zone, address: s.address } : null;
}

/** Levels may have changed for anybody: everybody's are read anew. */
const refresh = ({ floor }: TeamsDeps, tx: Tx, who: (p: Person) => boolean = () => true) =>
  floor.refreshPeople(
    tx,
    readPeople(tx.db)
      .filter(who)
      .map((p) => p.id),
  );

const inTeam = (teamId: string) => (p: Person) => p.teamId === teamId || p.alsoTeamIds.includes(teamId);

function free(
  taken: readonly { id: string; name: string }[],
  mine: { id: string | null; name: string },
  what: string,
): void {
  if (taken.some((t) => t.id !== mine.id && t.name.toLowerCase() === mine.name.toLowerCase()))
    throw new LaneError('not-valid', `There is already a ${what} called ${mine.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
}

function known(list: readonly string[], there: readonly { id: string }[], what: string, where: string): void {
  const ids = new Set(there.map((t) => t.id));
  if (!list.every((one) => ids.has(one)))
    throw new LaneError('not-valid', `One ${what} does not exist.`, [{ where, what: 'is not known' }]);
}

function putTeam(tx: Tx, t: TeamValue): void {
  known(Object.keys(t.levels), readSkills(tx.db), 'skill', 'levels');
  known(t.setIds, SKILL_SETS.all(tx.db), 'skill set', 'setIds');
  known(t.supervisorIds, readPeople(tx.db), 'person', 'supervisorIds');
  writeTeam(tx.db, t, readTeams(tx.db).length);
  writeTeamLevels(tx.db, t.id, t.levels);
  writeSupervisors(tx.db, t.id, t.supervisorIds);
}

/** A set says itself whom it is given to; teams and people keep it. */
function putSet(tx: Tx, s: SetValue): void {
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

function drop(tx: Tx, kind: 'team' | 'skill' | 'skill-set' | 'site', thingId: string): void {
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
    for (const s of SKILL_SETS.all(tx.db))
      if (s.levels[thingId] !== undefined)
        SKILL_SETS.write(tx.db, s.id, s.name, {
          levels: Object.fromEntries(Object.entries(s.levels).filter(([k]) => k !== thingId)),
        });
    removeSkill(tx.db, thingId);
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

const putSite = (tx: Tx, s: SiteValue) => SITES.write(tx.db, s.id, s.name, { zone: s.zone, address: s.address });

const path = (kind: string) => (thingId: string) => `/people/teams?${kind}=${thingId}`;

const keptKind = <V>(
  deps: TeamsDeps,
  name: string,
  kind: 'team' | 'skill' | 'skill-set' | 'site',
  read: (db: Db, id: string) => V | null,
  put: (tx: Tx, value: V) => void,
): Kept => ({
  name,
  read,
  path: path(kind),
  restore: (tx, actor, thingId, value) => {
    needEverywhere(actor, 'people.change');
    if (value === null) drop(tx, kind, thingId);
    else put(tx, value as V);
    refresh(deps, tx);
  },
});

export const keptTeams = (deps: TeamsDeps): Record<string, Kept> => ({
  team: keptKind(deps, 'team', 'team', readTeam, putTeam),
  'skill-set': keptKind(deps, 'skill set', 'skill-set', readSet, putSet),
  site: keptKind(deps, 'site', 'site', readSite, putSite),
  skill: keptKind(deps, 'skill', 'skill', readSkill, (tx, s) => writeSkill(tx.db, s, readSkills(tx.db).length)),
});

export function viewTeams({ host }: TeamsDeps, actor: Actor): TeamsView {
  need(actor, 'people.view');
  const { db } = host;
  const people = readPeople(db).filter((p) => sees(actor, p));
  const queues = readQueues(db);
  const own = readOwnLevels(db);
  const seesTeam = (t: { id: string }) => actor.teams === 'all' || actor.teams.includes(t.id);
  return {
    teams: readTeams(db)
      .filter(seesTeam)
      .map((t) => ({
        id: t.id,
        name: t.name,
        zone: t.zone,
        setIds: t.setIds,
        revision: t.revision,
        levels: levelsOfTeam(db, t.id),
        supervisorIds: supervisorsOf(db, t.id),
        members: people.filter(inTeam(t.id)).length,
      })),
    sets: SKILL_SETS.all(db).map((s) => ({
      id: s.id,
      name: s.name,
      levels: s.levels,
      revision: s.revision,
      teamIds: readTeams(db)
        .filter((t) => t.setIds.includes(s.id) && seesTeam(t))
        .map((t) => t.id),
      personIds: people.filter((p) => p.setIds.includes(s.id)).map((p) => p.id),
    })),
    sites: SITES.all(db).map((s) => ({
      id: s.id,
      name: s.name,
      zone: s.zone,
      address: s.address,
      revision: s.revision,
      people: people.filter((p) => p.siteId === s.id).length,
    })),
    skills: readSkills(db).map((s) => ({
      ...s,
      usedBy: queues.filter((q) => q.needs.some((n) => n.skillId === s.id)).map((q) => q.name),
      ends: people
        .flatMap((p) => {
          const until = own.get(p.id)?.get(s.id)?.until;
          return until ? [{ personId: p.id, name: p.name, until }] : [];
        })
        .sort((a, b) => (a.until < b.until ? -1 : 1)),
    })),
    people: people.filter((p) => p.active).map((p) => ({ id: p.id, name: p.name, teamId: p.teamId })),
    zones: Intl.supportedValuesOf('timeZone'),
    mayChange: actor.rights.includes('people.change') && actor.teams === 'all',
  };
}

export function saveTeam(deps: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'people.change');
  const { revision, allSpeak, ...t } = parse(teamSchema, input);
  return deps.host.transact((tx) => {
    const there = readTeams(tx.db).find((x) => x.id === t.id);
    const before = t.id === null ? null : readTeam(tx.db, t.id);
    if (t.id !== null && !before) throw new LaneError('not-found', 'This team is not there any more.');
    free(readTeams(tx.db), t, 'team');
    sameRevision(there, revision, t.name);
    const languages = readSkills(tx.db).filter(
      (s) => s.kind === 'language' && t.levels[s.id] !== undefined && before?.levels[s.id] === undefined,
    );
    if (languages.length > 0 && !allSpeak)
      throw new LaneError(
        'not-valid',
        `Giving the team ${languages.map((l) => l.name).join(' and ')} says that everybody in it speaks it equally well. Confirm that.`,
        [{ where: 'allSpeak', what: 'must be confirmed' }],
      );
    const after: TeamValue = { ...t, id: t.id ?? tx.ids('team') };
    putTeam(tx, after);
    recordChange(tx, actor, 'team', after.id, before, after);
    refresh(deps, tx, inTeam(after.id));
    return { id: after.id };
  });
}

export function saveSet(deps: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'people.change');
  const { revision, ...s } = parse(setSchema, input);
  return deps.host.transact((tx) => {
    const before = s.id === null ? null : readSet(tx.db, s.id);
    if (s.id !== null && !before) throw new LaneError('not-found', 'This skill set is not there any more.');
    free(SKILL_SETS.all(tx.db), s, 'skill set');
    sameRevision(s.id === null ? undefined : SKILL_SETS.one(tx.db, s.id), revision, s.name);
    const after: SetValue = { ...s, id: s.id ?? tx.ids('set') };
    putSet(tx, after);
    recordChange(tx, actor, 'skill-set', after.id, before, after);
    refresh(deps, tx);
    return { id: after.id };
  });
}

export function saveSite(deps: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'people.change');
  const { revision, ...s } = parse(siteSchema, input);
  return deps.host.transact((tx) => {
    const before = s.id === null ? null : readSite(tx.db, s.id);
    if (s.id !== null && !before) throw new LaneError('not-found', 'This site is not there any more.');
    free(SITES.all(tx.db), s, 'site');
    sameRevision(s.id === null ? undefined : SITES.one(tx.db, s.id), revision, s.name);
    const after: SiteValue = { ...s, id: s.id ?? tx.ids('site') };
    putSite(tx, after);
    recordChange(tx, actor, 'site', after.id, before, after);
    refresh(deps, tx, (p) => p.siteId === after.id);
    return { id: after.id };
  });
}

export function saveSkill({ host }: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'people.change');
  const { revision, ...s } = parse(skillSchema, input);
  return host.transact((tx) => {
    const all = readSkills(tx.db);
    const before = s.id === null ? null : readSkill(tx.db, s.id);
    if (s.id !== null && !before) throw new LaneError('not-found', 'This skill is not there any more.');
    free(all, s, 'skill');
    sameRevision(
      all.find((x) => x.id === s.id),
      revision,
      s.name,
    );
    const after = { ...s, id: s.id ?? tx.ids('skill') };
    writeSkill(tx.db, after, all.length);
    recordChange(tx, actor, 'skill', after.id, before, after);
    return { id: after.id };
  });
}

/** Removes a team, skill, set or site that nothing rests on; throws `not-now` with what does. */
export function removeThing(deps: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'people.change');
  const asked = parse(removeSchema, input);
  return deps.host.transact((tx) => {
    const removed = removeKept(tx, actor, keptTeams(deps), asked.kind, asked.id, () => drop(tx, asked.kind, asked.id));
    refresh(deps, tx);
    return removed;
  });
}

/** Teams, skill sets and what else skills come from, and sites. All of it belongs to everybody, so changing it takes the right for all teams. */
export const createTeams = (deps: TeamsDeps) => ({
  kept: keptTeams(deps),
  ...bind(deps, { view: viewTeams, saveTeam, saveSet, saveSite, saveSkill, remove: removeThing }),
});
