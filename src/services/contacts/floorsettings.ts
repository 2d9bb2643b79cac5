import type { WeekPattern } from '../../core/hours/weekly';
import type { OwnLevel } from '../../core/people/levels';
import { withOverrides } from '../../core/people/load';
import { type Candidate, isMember } from '../../core/people/membership';
import {
  type FloorPerson,
  type FloorQueue,
  type GroupFacts,
  limitsOrNull,
  type PartnerFacts,
  type PersonFacts,
} from '../../core/routing/floor';
import { GROUPS, PARTNERS, PERSON_LIMITS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { type Person, readMembers } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { settingsVersion } from '../../data/workspace';
import type { Host } from '../ground/host';
import { levelsNow, profileNow, teamIdsOf, zoneOfPerson } from '../people/peoplebook';

/**
 * What settings say about the floor, in the router's words. Nothing here is kept; the router is told again when
 * settings change.
 */

const NOTHING = {
  voice: { cost: 100, most: 0 },
  chat: { cost: 25, most: 0 },
  messaging: { cost: 20, most: 0 },
  sms: { cost: 10, most: 0 },
};

export function personFacts(host: Host, person: Person, own: ReadonlyMap<string, OwnLevel>): PersonFacts {
  const at = host.times.floor();
  const profile = profileNow(host, person, at);
  const limits = host
    .remembered('person-limits', (db) => new Map(PERSON_LIMITS.all(db).map((l) => [l.id, l.limits])))
    .get(person.id);
  return {
    id: person.id,
    profile: profile ?? { rows: [] },
    load: withOverrides(profile?.load ?? NOTHING, person.most),
    levels: new Map([...levelsNow(host, person, at, own)].map(([skill, effective]) => [skill, effective.level])),
    limited: limits ? limitsOrNull(limits, zoneOfPerson(host, person)) : null,
  };
}

const hoursById = (host: Host): ReadonlyMap<string, WeekPattern> =>
  host.remembered('hours-by-id', (db) => new Map(readAllHours(db).map((h) => [h.id, h])));
const hoursOf = (host: Host, id: string | null): WeekPattern | null =>
  id === null ? null : (hoursById(host).get(id) ?? null);

/** Groups with their members as the rules give them now. */
export function groupFacts(host: Host, people: ReadonlyMap<string, FloorPerson>): GroupFacts[] {
  const candidates = readMembers(host.db).map((p) => ({
    id: p.id,
    teamIds: teamIdsOf(p),
    roleId: p.roleId,
    levels: people.get(p.id)?.levels ?? new Map<string, number>(),
  }));
  return GROUPS.all(host.db).map((g) => ({
    id: g.id,
    zone: g.zone,
    hours: hoursOf(host, g.hoursId),
    limits: g.limits,
    instead: g.instead,
    members: new Map(candidates.filter((c) => isMember(g, c)).map((c) => [c.id, g.weights[c.id] ?? 1])),
  }));
}

type Known = ReadonlyMap<string, { readonly members: ReadonlyMap<string, number> }>;

/** Where somebody comes into a group, leaves it or counts otherwise; `person` undefined is gone. */
export function memberChanges(
  host: Host,
  groups: Known,
  all: readonly { readonly id: string; readonly person: Person | undefined; readonly levels: Candidate['levels'] }[],
) {
  const rules = GROUPS.all(host.db);
  return all.flatMap(({ id, person, levels }) => {
    const candidate = person?.active && { id, teamIds: teamIdsOf(person), roleId: person.roleId, levels };
    return rules.flatMap((rule) => {
      const weight = candidate && isMember(rule, candidate) ? (rule.weights[id] ?? 1) : null;
      const before = groups.get(rule.id)?.members.get(id) ?? null;
      return weight === before ? [] : [{ groupId: rule.id, personId: id, weight }];
    });
  });
}

export const partnerFacts = (host: Host): PartnerFacts[] =>
  PARTNERS.all(host.db).map((p) => ({
    id: p.id,
    zone: p.zone,
    hours: hoursOf(host, p.hoursId),
    limits: p.limits,
    way: p.way,
    ringSeconds: p.ringSeconds,
    countsFromSeconds: p.countsFromSeconds,
    numbers: p.numbers.map((n) => ({
      id: n.id,
      address: n.address,
      zone: p.zone,
      hours: hoursOf(host, n.hoursId),
      limits: n.limits,
      perQueue: new Map(Object.entries(n.perQueue)),
    })),
  }));

/**
 * Queues as new visits find them. A queue that has not changed keeps the same settings object, so that its visits
 * stay together.
 */
export function queueFacts(host: Host, known: ReadonlyMap<string, FloorQueue>): FloorQueue[] {
  const version = settingsVersion(host.db);
  return readQueues(host.db).map(({ revision, place: _place, ...settings }) => {
    const there = known.get(settings.id);
    const same = there !== undefined && revisions.get(there.settings) === revision;
    if (!same) revisions.set(settings, revision);
    return { settings: same ? there.settings : settings, version, hours: hoursOf(host, settings.hoursId) };
  });
}
const revisions = new WeakMap<object, number>();
