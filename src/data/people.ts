import type { Channel } from '../core/channels';
import type { DutyProfile, DutyState } from '../core/people/duty';
import type { Level, SkillKind } from '../core/people/levels';
import type { Role } from '../core/people/rights';
import { row, rows, run, type Db } from './database';

export type Team = { readonly id: string; readonly name: string; readonly zone: string };
export type Skill = { readonly id: string; readonly name: string; readonly kind: SkillKind };
/** `most` holds the person's own most-at-once per channel where it differs from the duty profile's; 0 turns a channel off. */
export type Person = {
  readonly id: string; readonly name: string; readonly shownName: string; readonly email: string; readonly teamId: string; readonly role: Role;
  readonly active: boolean; readonly simulated: boolean; readonly dutyProfileId: string; readonly most: Readonly<Partial<Record<Channel, number>>>; readonly revision: number;
  readonly duty: DutyState; readonly dutyReason: string | null; readonly dutySince: number; readonly lastContactAt: number | null;
};

type PersonRow = Omit<Person, 'active' | 'simulated' | 'most'> & { active: number; simulated: number; most: string };
const PEOPLE = `SELECT id, name, shown_name AS shownName, email, team_id AS teamId, role, active, simulated, duty_profile_id AS dutyProfileId, most, revision,
  duty, duty_reason AS dutyReason, duty_since AS dutySince, last_contact_at AS lastContactAt FROM people`;
const personFrom = (r: PersonRow): Person => ({ ...r, active: r.active === 1, simulated: r.simulated === 1, most: JSON.parse(r.most) as Person['most'] });

export const readPeople = (db: Db): Person[] => rows<PersonRow>(db, `${PEOPLE} ORDER BY name`).map(personFrom);
export const readPerson = (db: Db, id: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE id = ?`, id);
  return found && personFrom(found);
};
export const readPersonByEmail = (db: Db, email: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE email = ?`, email);
  return found && personFrom(found);
};
export type PersonSettings = Pick<Person, 'id' | 'name' | 'shownName' | 'email' | 'teamId' | 'role' | 'active' | 'simulated' | 'dutyProfileId' | 'most'>;
export const writePerson = (db: Db, p: PersonSettings): void => {
  run(db, `INSERT INTO people (id, name, shown_name, email, team_id, role, active, simulated, duty_profile_id, most, revision) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, 1)
    ON CONFLICT (id) DO UPDATE SET name = ?2, shown_name = ?3, email = ?4, team_id = ?5, role = ?6, active = ?7, duty_profile_id = ?9, most = ?10, revision = revision + 1`,
  p.id, p.name, p.shownName, p.email, p.teamId, p.role, p.active ? 1 : 0, p.simulated ? 1 : 0, p.dutyProfileId, JSON.stringify(p.most));
};

export const readTeams = (db: Db): Team[] => rows<Team>(db, 'SELECT id, name, zone FROM teams ORDER BY place, name');
export const writeTeam = (db: Db, t: Team, place: number): void => { run(db, 'INSERT INTO teams (id, name, zone, place) VALUES (?, ?, ?, ?)', t.id, t.name, t.zone, place); };
export const readSkills = (db: Db): Skill[] => rows<Skill>(db, 'SELECT id, name, kind FROM skills ORDER BY place, name');
export const writeSkill = (db: Db, s: Skill, place: number): void => { run(db, 'INSERT INTO skills (id, name, kind, place) VALUES (?, ?, ?, ?)', s.id, s.name, s.kind, place); };

/** Teams a person supervises. */
export const supervisedTeams = (db: Db, personId: string): string[] =>
  rows<{ id: string }>(db, 'SELECT team_id AS id FROM team_supervisors WHERE person_id = ?', personId).map((t) => t.id);
export const addSupervisor = (db: Db, teamId: string, personId: string): void => { run(db, 'INSERT INTO team_supervisors (team_id, person_id) VALUES (?, ?)', teamId, personId); };

export type OwnLevel = { readonly personId: string; readonly skillId: string; readonly level: Level };
export const readOwnLevels = (db: Db): OwnLevel[] => rows<OwnLevel>(db, 'SELECT person_id AS personId, skill_id AS skillId, level FROM person_skills');
export const ownLevelsOf = (db: Db, personId: string): Map<string, Level> =>
  new Map(rows<OwnLevel>(db, 'SELECT person_id AS personId, skill_id AS skillId, level FROM person_skills WHERE person_id = ?', personId).map((l) => [l.skillId, l.level]));
export const writeOwnLevel = (db: Db, personId: string, skillId: string, level: Level | null): void => {
  if (level === null) run(db, 'DELETE FROM person_skills WHERE person_id = ? AND skill_id = ?', personId, skillId);
  else run(db, 'INSERT INTO person_skills (person_id, skill_id, level) VALUES (?1, ?2, ?3) ON CONFLICT DO UPDATE SET level = ?3', personId, skillId, level);
};
export type TeamLevel = { readonly teamId: string; readonly skillId: string; readonly level: Level };
export const readTeamLevels = (db: Db): TeamLevel[] => rows<TeamLevel>(db, 'SELECT team_id AS teamId, skill_id AS skillId, level FROM team_skills');
export const teamLevelsOf = (db: Db, teamId: string): Map<string, Level> =>
  new Map(rows<TeamLevel>(db, 'SELECT team_id AS teamId, skill_id AS skillId, level FROM team_skills WHERE team_id = ?', teamId).map((l) => [l.skillId, l.level]));
export const writeTeamLevel = (db: Db, teamId: string, skillId: string, level: Level): void => { run(db, 'INSERT INTO team_skills (team_id, skill_id, level) VALUES (?, ?, ?)', teamId, skillId, level); };

export type DutyProfileRecord = DutyProfile & { readonly revision: number };
const profileFrom = (r: { id: string; name: string; body: string; revision: number }): DutyProfileRecord =>
  ({ ...(JSON.parse(r.body) as Pick<DutyProfile, 'rows' | 'load' | 'acceptSeconds'>), id: r.id, name: r.name, revision: r.revision });
export const readProfiles = (db: Db): DutyProfileRecord[] => rows<Parameters<typeof profileFrom>[0]>(db, 'SELECT id, name, body, revision FROM duty_profiles ORDER BY name').map(profileFrom);
export const readProfile = (db: Db, id: string): DutyProfileRecord | undefined => {
  const found = row<Parameters<typeof profileFrom>[0]>(db, 'SELECT id, name, body, revision FROM duty_profiles WHERE id = ?', id);
  return found && profileFrom(found);
};
export const writeProfile = (db: Db, p: DutyProfile): void => {
  const body = JSON.stringify({ rows: p.rows, load: p.load, acceptSeconds: p.acceptSeconds });
  run(db, 'INSERT INTO duty_profiles (id, name, body, revision) VALUES (?1, ?2, ?3, 1) ON CONFLICT (id) DO UPDATE SET name = ?2, body = ?3, revision = revision + 1', p.id, p.name, body);
};

export const readPasswordHash = (db: Db, personId: string): string | null => row<{ password: string | null }>(db, 'SELECT password FROM people WHERE id = ?', personId)?.password ?? null;
export const writePasswordHash = (db: Db, personId: string, hash: string): void => { run(db, 'UPDATE people SET password = ? WHERE id = ?', hash, personId); };

/** Sessions are kept by the hash of their token, so that reading the database does not sign anybody in. Real time, UTC ms. */
export const writeSession = (db: Db, tokenHash: string, personId: string, realAt: number, until: number): void => {
  run(db, 'DELETE FROM sessions WHERE until < ?', realAt);
  run(db, 'INSERT INTO sessions (token_hash, person_id, real_at, until) VALUES (?, ?, ?, ?)', tokenHash, personId, realAt, until);
};
export const sessionPerson = (db: Db, tokenHash: string, realAt: number): string | null =>
  row<{ id: string }>(db, 'SELECT person_id AS id FROM sessions WHERE token_hash = ? AND until > ?', tokenHash, realAt)?.id ?? null;
export const endSession = (db: Db, tokenHash: string): void => { run(db, 'DELETE FROM sessions WHERE token_hash = ?', tokenHash); };
export const endSessionsOf = (db: Db, personId: string): number => run(db, 'DELETE FROM sessions WHERE person_id = ?', personId);
