import { endOfDay, localDate } from '../../core/hours/weekly';
import { type OwnRow, profileIdAt, withOwnRows } from '../../core/people/duty';
import { effectiveLevels, type Gift, giftsTo, type OwnLevel } from '../../core/people/levels';
import { type DutyProfileRecord, PERSON_ROWS, readProfiles } from '../../data/dutyprofiles';
import { type Person, zoneOf } from '../../data/people';
import { ownLevelsOf, readGivers } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import type { Host } from '../ground/host';

/** What many looks at people share, kept until settings change. */
const givers = (host: Host) => host.remembered('givers', readGivers);
const sites = (host: Host) => host.remembered('sites', (db) => new Map(SITES.all(db).map((s) => [s.id, s])));
const teams = (host: Host) => host.remembered('teams', (db) => new Map(readTeams(db).map((t) => [t.id, t])));
const profiles = (host: Host) =>
  host.remembered('duty-profiles', (db) => new Map(readProfiles(db).map((p) => [p.id, p])));

export const dutyProfileOf = (host: Host, id: string): DutyProfileRecord | undefined => profiles(host).get(id);
export const zoneOfPerson = (host: Host, person: Pick<Person, 'siteId' | 'teamId'>): string =>
  zoneOf(person, sites(host), teams(host));
export const teamIdsOf = (person: Pick<Person, 'teamId' | 'alsoTeamIds'>): string[] => [
  person.teamId,
  ...person.alsoTeamIds.filter((id) => id !== person.teamId),
];
export const giftsOf = (host: Host, person: Person): Map<string, Gift[]> =>
  giftsTo({ teamIds: teamIdsOf(person), setIds: person.setIds }, givers(host));
export const todayOf = (host: Host, person: Pick<Person, 'siteId' | 'teamId'>, at: number): string =>
  localDate(at, zoneOfPerson(host, person));

/** A person's effective levels at an instant of the floor. */
export const levelsNow = (
  host: Host,
  person: Person,
  at: number,
  own: ReadonlyMap<string, OwnLevel> = ownLevelsOf(host.db, person.id),
) => effectiveLevels(own, giftsOf(host, person), todayOf(host, person, at));

/**
 * The next instant at which time alone changes what somebody can take: another profile for now ends, or a skill's
 * last day does.
 */
export function nextChangeOf(
  host: Host,
  person: Person,
  at: number,
  own: ReadonlyMap<string, OwnLevel>,
): number | null {
  const zone = zoneOfPerson(host, person);
  const ends = [...own.values()].flatMap((own) => (own.until === null ? [] : [endOfDay(own.until, zone)]));
  const next = [...ends, ...(person.forNow ? [person.forNow.until] : [])].filter((end) => end > at);
  return next.length > 0 ? Math.min(...next) : null;
}

const ownRows = (host: Host): ReadonlyMap<string, readonly OwnRow[]> =>
  host.remembered('own-rows', (db) => new Map(PERSON_ROWS.all(db).map((p) => [p.id, p.rows])));
export const ownRowsOf = (host: Host, personId: string): readonly OwnRow[] => ownRows(host).get(personId) ?? [];

/** The duty profile that counts for somebody now, with the rows of their own. */
export function profileNow(host: Host, person: Person, at: number): DutyProfileRecord | undefined {
  const profile = dutyProfileOf(host, profileIdAt(person, at));
  const own = ownRowsOf(host, person.id);
  return profile && own.length > 0 ? { ...profile, rows: withOwnRows(profile.rows, own) } : profile;
}
