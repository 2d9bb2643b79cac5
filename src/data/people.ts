import type { Channel } from '../core/channels';
import type { DutyState, ForNow } from '../core/people/duty';
import { type Db, row, rows, run } from './database';
import { eachReadable, listIn, objectIn, readable } from './readable';

/**
 * `most` holds the person's own most-at-once per channel where it differs from the duty profile's; 0 turns a channel
 * off.
 */
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

const PEOPLE = `SELECT id, name, shown_name AS shownName, email, team_id AS teamId,
    also_team_ids AS alsoTeamIds, set_ids AS setIds, site_id AS siteId, role_id AS roleId,
    outbound, active, simulated,
  duty_profile_id AS dutyProfileId, now_profile_id AS nowProfileId, now_until AS nowUntil, most,
    voice_way_id AS voiceWayId, leaving, revision,
  duty, duty_reason AS dutyReason, duty_since AS dutySince, last_contact_at AS lastContactAt
    FROM people`;

function personFrom({ nowProfileId, nowUntil, ...r }: PersonRow): Person {
  return {
    ...r,
    active: r.active === 1,
    leaving: r.leaving === 1,
    simulated: r.simulated === 1,
    most: r.most === '{}' ? {} : (objectIn(r.most) as Person['most']),
    alsoTeamIds: listIn(r.alsoTeamIds) as string[],
    setIds: listIn(r.setIds) as string[],
    forNow: nowProfileId !== null && nowUntil !== null ? { profileId: nowProfileId, until: nowUntil } : null,
  };
}

export const readPeople = (db: Db): Person[] =>
  eachReadable(db, 'person', rows<PersonRow>(db, `${PEOPLE} ORDER BY name`), personFrom);

/** What the day has brought to everybody, apart from what is set about them. */
export const readDuties = (db: Db): Map<string, Pick<Person, 'duty' | 'lastContactAt'>> =>
  new Map(
    rows<{ id: string; duty: DutyState; lastContactAt: number | null }>(
      db,
      `SELECT id, CASE active WHEN 1 THEN duty ELSE 'off' END AS duty, last_contact_at AS lastContactAt FROM people`,
    ).map((p) => [p.id, p]),
  );

/** Ids of people whose account is switched on. */
export const activePeople = (db: Db): string[] =>
  rows<{ id: string }>(db, 'SELECT id FROM people WHERE active = 1').map((p) => p.id);

/** What rules of membership look at in everybody whose account is switched on, by name. */
export const readMembers = (db: Db): Pick<Person, 'id' | 'teamId' | 'alsoTeamIds' | 'roleId'>[] =>
  eachReadable(
    db,
    'person',
    rows<{ id: string; name: string; teamId: string; also: string; roleId: string }>(
      db,
      'SELECT id, name, team_id AS teamId, also_team_ids AS also, role_id AS roleId FROM people WHERE active = 1 ORDER BY name',
    ),
    ({ also, ...p }) => ({ ...p, alsoTeamIds: listIn(also) as string[] }),
  );

/** So many people by name, from the one after `after` on. */
export const readPeopleAfter = (db: Db, after: Pick<Person, 'id' | 'name'> | null, most: number): Person[] =>
  eachReadable(
    db,
    'person',
    rows<PersonRow>(
      db,
      `${PEOPLE} WHERE (name, id) > (?, ?) ORDER BY name, id LIMIT ?`,
      after?.name ?? '',
      after?.id ?? '',
      most,
    ),
    personFrom,
  );

export const readPerson = (db: Db, id: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE id = ?`, id);
  return found && readable(db, 'person', found, personFrom);
};

export const readPersonByEmail = (db: Db, email: string): Person | undefined => {
  const found = row<PersonRow>(db, `${PEOPLE} WHERE email = ?`, email);
  return found && readable(db, 'person', found, personFrom);
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
    `INSERT INTO people (id, name, shown_name, email, team_id, also_team_ids, set_ids, site_id,
        role_id, outbound, active, simulated, duty_profile_id, most, revision) VALUES (?1, ?2, ?3, ?4,
        ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, 1)
      ON CONFLICT (id) DO UPDATE SET name = ?2, shown_name = ?3, email = ?4, team_id = ?5,
        also_team_ids = ?6, set_ids = ?7, site_id = ?8, role_id = ?9, outbound = ?10, active = ?11,
        duty_profile_id = ?13, most = ?14, revision = revision + 1`,
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

/** The zone in which a person's days are counted: their site's, else their home team's. */
export const zoneOf = (
  p: Pick<Person, 'siteId' | 'teamId'>,
  sites: ReadonlyMap<string, { zone: string }>,
  teams: ReadonlyMap<string, { zone: string }>,
): string => (p.siteId === null ? undefined : sites.get(p.siteId)?.zone) ?? teams.get(p.teamId)?.zone ?? 'UTC';

/** Whether somebody is played by the simulation, or signs in for themselves. */
export function setSimulated(db: Db, personId: string, simulated: boolean): void {
  run(db, 'UPDATE people SET simulated = ? WHERE id = ?', simulated ? 1 : 0, personId);
}
