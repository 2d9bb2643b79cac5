import { array, boolean, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { isLevel, type Levels, SKILL_KINDS, type SkillKind } from '../../core/people/levels';
import { readSkills, SKILL_SETS, writeSkill } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { recordChange, removeUndoable, sameRevision } from '../ground/change';
import { exactly, id, oneOf, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import {
  drop,
  undoableTeams,
  putSet,
  putSite,
  putTeam,
  readSet,
  readSite,
  readSkill,
  readTeam,
  refresh,
  type SetValue,
  type SiteValue,
  type TeamValue,
} from './keepteams';
import { inTeam, type TeamsDeps, viewTeams } from './teamsview';

const zone = requiredText(60, 'The zone').test('zone', 'The zone must be an IANA name, as Area/City', (value) =>
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

const removeSchema = exactly(object({ kind: oneOf(['skill-set', 'site'] as const, 'The kind'), id: id('The thing') }));

export function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

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

export function saveTeam(deps: TeamsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
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
  mustHoldEverywhere(actor, 'people.change');
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
  mustHoldEverywhere(actor, 'people.change');
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
  mustHoldEverywhere(actor, 'people.change');
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
  mustHoldEverywhere(actor, 'people.change');
  const asked = parse(removeSchema, input);
  return deps.host.transact((tx) => {
    const removed = removeUndoable(tx, actor, undoableTeams(deps), asked.kind, asked.id, () =>
      drop(tx, asked.kind, asked.id),
    );
    refresh(deps, tx);
    return removed;
  });
}

/**
 * Teams, skill sets and what else skills come from, and sites. All of it belongs to everybody, so changing it takes
 * the right for all teams.
 */
export const createTeams = (deps: TeamsDeps) => ({
  undoable: undoableTeams(deps),
  ...bind(deps, { view: viewTeams, saveTeam, saveSet, saveSite, saveSkill, remove: removeThing }),
});
