import type { Channel } from '../core/channels';
import { DUTY_DEFAULTS, type DutyProfile, type DutyState, type ForNow } from '../core/people/duty';
import type { Givers, Level, OwnLevel, SkillKind } from '../core/people/levels';
import { row, rows, run, type Db } from './database';
import { documents } from './documents';

export type Team = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly setIds: readonly string[];
  readonly revision: number;
};
export type Skill = { readonly id: string; readonly name: string; readonly kind: SkillKind; readonly revision: number };
/** `most` holds the person's own most-at-once per channel where it differs from the duty profile's; 0 turns a channel off. */
export type Person = {
  readonly id: string;
  readonly name: string;
  readonly shownName: string;
  readonly email: string;
  readonly teamId: string;
  readonly alsoTeamIds: readonly string[];
  readonly setIds: readonly string[];
  readonly siteId: string | null;
  readonly roleId: string;
  readonly outbound: string;
  readonly active: boolean;
  readonly simulated: boolean;
  readonly dutyProfileId: string;
  readonly forNow: ForNow | null;
  readonly most: Readonly<Partial<Record<Channel, number>>>;
  readonly voiceWayId: string | null;
  readonly leaving: boolean;
  readonly revision: number;
  readonly duty: DutyState;
  readonly dutyReason: string | null;
  readonly dutySince: number;
  readonly lastContactAt: number | null;
};

type PersonRow = Omit<Person, 'active' | 'leaving' | 'simulated' | 'most' | 'alsoTeamIds' | 'setIds' | 'forNow'> & {
  active: number;
  leaving: number;
  simulated: number;
  most: string;
  alsoTeamIds: string;
  setIds: string;
  nowProfileId: string | null;
  nowUntil: number | null;
};
const PEOPLE = `SELECT id, name, shown_name AS shownName, email, team_id AS teamId, also_team_ids AS alsoTeamIds, set_ids AS setIds, site_id AS siteId, role_id AS roleId, outbound, active, simulated,
  duty_profile_id AS dutyProfileId, now_profile_id AS nowProfileId, now_until AS nowUntil, most, voice_way_id AS voiceWayId, leaving, revision,
  duty, duty_reason AS dutyReason, duty_since AS dutySince, last_contact_at AS lastContactAt FROM people`;
/** Most lists are empty; reading thousands of people should not parse them. */
const listFrom = (text: string): readonly string[] => (text === '[]' ? [] : (JSON.parse(text) as string[]));
function personFrom({ nowProfileId, nowUntil, ...r }: PersonRow): Person {
  return {
    ...r,
    active: r.active === 1,
    leaving: r.leaving === 1,
    simulated: r.simulated === 1,
    most: r.most === '{}' ? {} : (JSON.parse(r.most) as Person['most']),
    alsoTeamIds: listFrom(r.alsoTeamIds),
    setIds: listFrom(r.setIds),
    forNow: nowProfileId !== null && nowUntil !== null ? { profileId: nowProfileId, until: nowUntil } : null,
  };
}

export const readPeople = (db: Db): Person[] => rows<PersonRow>(db, `${PEOPLE} ORDER BY name`).map(personFrom);
/** Ids of people whose account is switched on. */
export const activePeople = (db: Db): string[] =>
  rows<{ id: string }>(db, 'SELECT id FROM people WHERE active = 1').map((p) => p.id);
export const readPerson = (db: Db, id: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE id = ?`, id);
  return found && personFrom(found);
};
export const readPersonByEmail = (db: Db, email: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE email = ?`, email);
  return found && personFrom(found);
};
/** What is set about a person, apart from what the day brings. */
export type PersonSettings = Pick<
  Person,
  | 'id'
  | 'name'
  | 'shownName'
  | 'email'
  | 'teamId'
  | 'alsoTeamIds'
  | 'setIds'
  | 'siteId'
  | 'roleId'
  | 'outbound'
  | 'active'
  | 'dutyProfileId'
  | 'most'
>;
export const settingsOfPerson = (p: Person): PersonSettings => ({
  id: p.id,
  name: p.name,
  shownName: p.shownName,
  email: p.email,
  teamId: p.teamId,
  alsoTeamIds: p.alsoTeamIds,
  setIds: p.setIds,
  siteId: p.siteId,
  roleId: p.roleId,
  outbound: p.outbound,
  active: p.active,
  dutyProfileId: p.dutyProfileId,
  most: p.most,
});
export const writePerson = (db: Db, p: PersonSettings & { readonly simulated?: boolean }): void => {
  run(
    db,
    `INSERT INTO people (id, name, shown_name, email, team_id, also_team_ids, set_ids, site_id, role_id, outbound, active, simulated, duty_profile_id, most, revision) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, 1)
    ON CONFLICT (id) DO UPDATE SET name = ?2, shown_name = ?3, email = ?4, team_id = ?5, also_team_ids = ?6, set_ids = ?7, site_id = ?8, role_id = ?9, outbound = ?10, active = ?11, duty_profile_id = ?13, most = ?14, revision = revision + 1`,
    p.id,
    p.name,
    p.shownName,
    p.email,
    p.teamId,
    JSON.stringify(p.alsoTeamIds),
    JSON.stringify(p.setIds),
    p.siteId,
    p.roleId,
    p.outbound,
    p.active ? 1 : 0,
    p.simulated ? 1 : 0,
    p.dutyProfileId,
    JSON.stringify(p.most),
  );
};
/** Removes somebody who never did anything; what refers to them keeps this from happening to anybody else. */
export const removePerson = (db: Db, id: string): void => {
  for (const table of ['own_levels', 'reach_ways', 'invitations', 'team_supervisors', 'sessions'])
    run(db, `DELETE FROM ${table} WHERE person_id = ?`, id);
  run(db, 'DELETE FROM people WHERE id = ?', id);
};
/** Switches somebody on or off; either way they are no longer on their way out. */
export const setActive = (db: Db, personId: string, active: boolean): void => {
  run(db, 'UPDATE people SET active = ?, leaving = 0, revision = revision + 1 WHERE id = ?', active ? 1 : 0, personId);
};
export const setLeaving = (db: Db, personId: string): void => {
  run(db, 'UPDATE people SET leaving = 1, revision = revision + 1 WHERE id = ?', personId);
};
export const writePersonSets = (db: Db, personId: string, setIds: readonly string[]): void => {
  run(db, 'UPDATE people SET set_ids = ?, revision = revision + 1 WHERE id = ?', JSON.stringify(setIds), personId);
};
export const writeForNow = (db: Db, personId: string, forNow: ForNow | null): void => {
  run(
    db,
    'UPDATE people SET now_profile_id = ?, now_until = ?, revision = revision + 1 WHERE id = ?',
    forNow?.profileId ?? null,
    forNow?.until ?? null,
    personId,
  );
};
export const writeVoiceWay = (db: Db, personId: string, wayId: string | null): void => {
  run(db, 'UPDATE people SET voice_way_id = ? WHERE id = ?', wayId, personId);
};

export const readTeams = (db: Db): Team[] =>
  rows<Omit<Team, 'setIds'> & { setIds: string }>(
    db,
    'SELECT id, name, zone, set_ids AS setIds, revision FROM teams ORDER BY place, name',
  ).map((t) => ({ ...t, setIds: JSON.parse(t.setIds) as string[] }));
export const writeTeam = (db: Db, t: Omit<Team, 'revision'>, place: number): void => {
  run(
    db,
    'INSERT INTO teams (id, name, zone, set_ids, place) VALUES (?1, ?2, ?3, ?4, ?5) ON CONFLICT (id) DO UPDATE SET name = ?2, zone = ?3, set_ids = ?4, revision = revision + 1',
    t.id,
    t.name,
    t.zone,
    JSON.stringify(t.setIds),
    place,
  );
};
export const removeTeam = (db: Db, id: string): void => {
  for (const table of ['team_skills', 'team_supervisors']) run(db, `DELETE FROM ${table} WHERE team_id = ?`, id);
  run(db, 'DELETE FROM teams WHERE id = ?', id);
};
export const readSkills = (db: Db): Skill[] =>
  rows<Skill>(db, 'SELECT id, name, kind, revision FROM skills ORDER BY place, name');
export const writeSkill = (db: Db, s: Omit<Skill, 'revision'>, place: number): void => {
  run(
    db,
    'INSERT INTO skills (id, name, kind, place) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (id) DO UPDATE SET name = ?2, kind = ?3, revision = revision + 1',
    s.id,
    s.name,
    s.kind,
    place,
  );
};
export const removeSkill = (db: Db, id: string): void => {
  run(db, 'DELETE FROM own_levels WHERE skill_id = ?', id);
  run(db, 'DELETE FROM team_skills WHERE skill_id = ?', id);
  run(db, 'DELETE FROM skills WHERE id = ?', id);
};

/** Teams a person supervises, and who supervises a team. */
export const supervisedTeams = (db: Db, personId: string): string[] =>
  rows<{ id: string }>(db, 'SELECT team_id AS id FROM team_supervisors WHERE person_id = ?', personId).map((t) => t.id);
export const supervisorsOf = (db: Db, teamId: string): string[] =>
  rows<{ id: string }>(
    db,
    'SELECT person_id AS id FROM team_supervisors WHERE team_id = ? ORDER BY person_id',
    teamId,
  ).map((p) => p.id);
export const writeSupervisors = (db: Db, teamId: string, personIds: readonly string[]): void => {
  run(db, 'DELETE FROM team_supervisors WHERE team_id = ?', teamId);
  for (const id of personIds) run(db, 'INSERT INTO team_supervisors (team_id, person_id) VALUES (?, ?)', teamId, id);
};

type OwnRow = { personId: string; skillId: string; level: number; until: string | null; note: string };
const OWN = 'SELECT person_id AS personId, skill_id AS skillId, level, until, note FROM own_levels';
const ownFrom = (r: OwnRow): OwnLevel => ({
  level: r.level === 0 ? 'never' : (r.level as Level),
  until: r.until,
  note: r.note,
});
/** Everybody's own levels: by person, by skill. */
export function readOwnLevels(db: Db): Map<string, Map<string, OwnLevel>> {
  const all = new Map<string, Map<string, OwnLevel>>();
  for (const r of rows<OwnRow>(db, OWN)) {
    const mine = all.get(r.personId) ?? new Map<string, OwnLevel>();
    all.set(r.personId, mine.set(r.skillId, ownFrom(r)));
  }
  return all;
}
export const ownLevelsOf = (db: Db, personId: string): Map<string, OwnLevel> =>
  new Map(rows<OwnRow>(db, `${OWN} WHERE person_id = ?`, personId).map((r) => [r.skillId, ownFrom(r)]));
/** Sets an own level; null clears it. */
export const writeOwnLevel = (db: Db, personId: string, skillId: string, own: OwnLevel | null): void => {
  if (own === null) run(db, 'DELETE FROM own_levels WHERE person_id = ? AND skill_id = ?', personId, skillId);
  else
    run(
      db,
      'INSERT INTO own_levels (person_id, skill_id, level, until, note) VALUES (?1, ?2, ?3, ?4, ?5) ON CONFLICT DO UPDATE SET level = ?3, until = ?4, note = ?5',
      personId,
      skillId,
      own.level === 'never' ? 0 : own.level,
      own.until,
      own.note,
    );
};

export type TeamLevel = { readonly teamId: string; readonly skillId: string; readonly level: Level };
export const readTeamLevels = (db: Db): TeamLevel[] =>
  rows<TeamLevel>(db, 'SELECT team_id AS teamId, skill_id AS skillId, level FROM team_skills');
export const writeTeamLevels = (db: Db, teamId: string, levels: Readonly<Record<string, Level>>): void => {
  run(db, 'DELETE FROM team_skills WHERE team_id = ?', teamId);
  for (const [skillId, level] of Object.entries(levels))
    run(db, 'INSERT INTO team_skills (team_id, skill_id, level) VALUES (?, ?, ?)', teamId, skillId, level);
};

/** A named bundle of skills and levels. */
export const SKILL_SETS = documents<{ readonly levels: Readonly<Record<string, Level>> }>('skill-set');
/** A place of work, with its own zone. */
export const SITES = documents<{ readonly zone: string; readonly address: string }>('site');

/** What teams and sets give, as the core reads it. */
export function readGivers(db: Db): Givers {
  const levels = new Map<string, Record<string, Level>>();
  for (const { teamId, skillId, level } of readTeamLevels(db))
    levels.set(teamId, { ...levels.get(teamId), [skillId]: level });
  return {
    teams: new Map(readTeams(db).map((t) => [t.id, { levels: levels.get(t.id) ?? {}, setIds: t.setIds }])),
    sets: new Map(SKILL_SETS.all(db).map((s) => [s.id, s.levels])),
  };
}
/** The zone in which a person's days are counted: their site's, else their home team's. */
export const zoneOf = (
  p: Pick<Person, 'siteId' | 'teamId'>,
  sites: ReadonlyMap<string, { zone: string }>,
  teams: ReadonlyMap<string, { zone: string }>,
): string => (p.siteId === null ? undefined : sites.get(p.siteId)?.zone) ?? teams.get(p.teamId)?.zone ?? 'UTC';

export type DutyProfileRecord = DutyProfile & { readonly revision: number };
const profileFrom = (r: { id: string; name: string; body: string; revision: number }): DutyProfileRecord => ({
  ...DUTY_DEFAULTS,
  ...(JSON.parse(r.body) as Omit<DutyProfile, 'id' | 'name'>),
  id: r.id,
  name: r.name,
  revision: r.revision,
});
export const readProfiles = (db: Db): DutyProfileRecord[] =>
  rows<Parameters<typeof profileFrom>[0]>(db, 'SELECT id, name, body, revision FROM duty_profiles ORDER BY name').map(
    profileFrom,
  );
export const readProfile = (db: Db, id: string): DutyProfileRecord | undefined => {
  const found = row<Parameters<typeof profileFrom>[0]>(
    db,
    'SELECT id, name, body, revision FROM duty_profiles WHERE id = ?',
    id,
  );
  return found && profileFrom(found);
};
export const writeProfile = (db: Db, { id, name, ...body }: DutyProfile): void => {
  run(
    db,
    'INSERT INTO duty_profiles (id, name, body, revision) VALUES (?1, ?2, ?3, 1) ON CONFLICT (id) DO UPDATE SET name = ?2, body = ?3, revision = revision + 1',
    id,
    name,
    JSON.stringify(body),
  );
};
export const removeProfile = (db: Db, id: string): void => {
  run(db, 'DELETE FROM duty_profiles WHERE id = ?', id);
};

export const readPasswordHash = (db: Db, personId: string): string | null =>
  row<{ password: string | null }>(db, 'SELECT password FROM people WHERE id = ?', personId)?.password ?? null;
export const writePasswordHash = (db: Db, personId: string, hash: string): void => {
  run(db, 'UPDATE people SET password = ? WHERE id = ?', hash, personId);
};

/** Sessions are kept by the hash of their token, so that reading the database does not sign anybody in. Real time, UTC ms. */
export const writeSession = (db: Db, tokenHash: string, personId: string, realAt: number, until: number): void => {
  run(db, 'DELETE FROM sessions WHERE until < ?', realAt);
  run(
    db,
    'INSERT INTO sessions (token_hash, person_id, real_at, until) VALUES (?, ?, ?, ?)',
    tokenHash,
    personId,
    realAt,
    until,
  );
};
export const sessionPerson = (db: Db, tokenHash: string, realAt: number): string | null =>
  row<{ id: string }>(db, 'SELECT person_id AS id FROM sessions WHERE token_hash = ? AND until > ?', tokenHash, realAt)
    ?.id ?? null;
export const endSession = (db: Db, tokenHash: string): void => {
  run(db, 'DELETE FROM sessions WHERE token_hash = ?', tokenHash);
};
export const endSessionsOf = (db: Db, personId: string): number =>
  run(db, 'DELETE FROM sessions WHERE person_id = ?', personId);
