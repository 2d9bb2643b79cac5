import type { Channel } from '../../core/channels';
import type { DutyState, ForNow, OwnRow } from '../../core/people/duty';
import { type Level, levelSentence, type OwnLevel, stillCounts } from '../../core/people/levels';
import { usedLoad } from '../../core/people/load';
import { type Condition, isReady } from '../../core/people/readiness';
import { mayGive, outranks } from '../../core/people/rights';
import { heldBy } from '../../core/routing/floor';
import { AWAY_REASONS, KEPT_FILTERS } from '../../data/duty';
import { type DutyProfileRecord, readProfiles } from '../../data/dutyprofiles';
import { lastInvitation } from '../../data/invitations';
import { openLegsOf } from '../../data/legs';
import { type Person, type PersonSettings, readPeople, readPerson, settingsOfPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readRoles } from '../../data/roles';
import { ownLevelsOf, readOwnLevels, readSkills, type Skill, SKILL_SETS } from '../../data/skills';
import { readTeams, SITES, supervisedTeams, type Team } from '../../data/teams';
import type { Contacts } from '../contacts/contacts';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mayChangeTeam, mustHold, mustSee, sees } from '../ground/actor';
import type { Host } from '../ground/host';
import type { Demand, SkillNeed } from './demand';
import { giftsOf, levelsNow, ownRowsOf, todayOf, zoneOfPerson } from './peoplebook';
import { meantToWork, type ReadinessService } from './readiness';

/** One level as the matrix shows it. `level` 0 is none: never, or ended. `giver` names where it comes from. */
export type Cell = {
  readonly level: Level | 0;
  readonly from: 'own' | 'team' | 'set' | 'never' | 'ended';
  readonly giver?: string;
  readonly until?: string;
};

export type PersonLine = PersonSettings &
  Pick<Person, 'revision' | 'leaving' | 'voiceWayId'> & {
    readonly forNow: ForNow | null;
    /** Rows of their own, which stand in place of their profile's. */
    readonly ownRows: readonly OwnRow[];
    readonly mayChange: boolean;
    /** Holds more than the reader: address, role and account are not theirs to change. */ readonly above: boolean;
    readonly roleName: string;
    readonly meant: boolean;
    /** The first thing that keeps contacts away, or null when ready. */
    readonly stop: string | null;
    readonly cells: Readonly<Record<string, Cell>>;
  };

/** What the day brings: state, open contacts and load. */
export type StandingLine = {
  readonly id: string;
  readonly duty: DutyState;
  readonly reason: string | null;
  readonly reachable: boolean;
  readonly open: readonly Channel[];
  readonly held: readonly { channel: Channel; cost: number; resting: boolean }[];
  readonly used: number;
};

export type KeptFilter = {
  readonly id: string;
  readonly name: string;
  readonly filter: Readonly<Record<string, string>>;
};

export type PeopleView = {
  readonly people: readonly PersonLine[];
  readonly teams: readonly (Team & { mayChange: boolean })[];
  readonly sites: readonly { id: string; name: string; zone: string }[];
  readonly skills: readonly Skill[];
  readonly sets: readonly { id: string; name: string }[];
  readonly profiles: readonly DutyProfileRecord[];
  readonly roles: readonly { id: string; name: string; mayGive: boolean }[];
  readonly queues: readonly {
    id: string;
    name: string;
    channels: readonly Channel[];
    needs: readonly { skillId: string; atLeast: Level }[];
  }[];
  readonly needs: Readonly<Record<string, SkillNeed>>;
  readonly filters: readonly KeptFilter[];
  /** Whether everybody is in it, so that counts may be set against what the whole company needed. */
  readonly everybody: boolean;
  readonly mayAdd: boolean;
  readonly mayChangeAll: boolean;
  readonly maySeeHistory: boolean;
  readonly awayReasons: readonly string[];
};

export type PersonView = {
  readonly id: string;
  readonly conditions: readonly Condition[];
  readonly ready: boolean;
  readonly openContacts: number;
  readonly levels: readonly { skillId: string; name: string; sentence: string; own: OwnLevel | null; counts: number }[];
  readonly zone: string;
  readonly invitation: { sentAt: number; until: number; endedHow: string | null } | null;
  readonly supervises: readonly string[];
};

/** What the functions of this file are given first. */
export type PeopleDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly contacts: Contacts;
  readonly readiness: ReadinessService;
  readonly demand: Demand;
};

function standing({ floor }: PeopleDeps, p: Person): StandingLine {
  const there = floor.router.floor.people.get(p.id);
  const held = there ? heldBy(there) : [];
  return {
    id: p.id,
    duty: p.duty,
    reason: p.dutyReason,
    reachable: there?.reachable ?? true,
    open: there ? [...there.open.values()].map((h) => h.channel) : [],
    held: held.map((h) => ({ channel: h.channel, cost: h.cost, resting: h.resting ?? false })),
    used: usedLoad(held),
  };
}

const mayChange = (actor: Actor, person: Pick<Person, 'teamId'>): boolean => mayChangeTeam(actor, person.teamId);

export function viewPeople({ host, readiness, demand }: PeopleDeps, actor: Actor): PeopleView {
  mustHold(actor, 'people.view');
  const at = host.times.floor();
  const own = readOwnLevels(host.db);
  const answer = readiness.answers();
  const teams = readTeams(host.db);
  const sets = SKILL_SETS.all(host.db);
  const names = new Map([...teams, ...sets].map((g) => [g.id, g.name]));
  const roles = readRoles(host.db);
  const roleNames = new Map(roles.map((r) => [r.id, r.name]));
  const above = new Set(roles.filter((r) => outranks(r, actor)).map((r) => r.id));
  const people = readPeople(host.db)
    .filter((p) => sees(actor, p))
    .map((p): PersonLine => {
      const mine = own.get(p.id) ?? new Map<string, OwnLevel>();
      const cells: Record<string, Cell> = {};
      for (const [skillId, level] of levelsNow(host, p, at, mine)) {
        cells[skillId] =
          level.from === 'own'
            ? { level: level.level, from: 'own', ...(level.until === null ? {} : { until: level.until }) }
            : { level: level.level, from: level.from, giver: names.get(level.id) ?? '' };
      }
      const today = todayOf(host, p, at);
      for (const [skillId, level] of mine) {
        const counts = stillCounts(level.until, today);
        if (counts && level.level === 'never')
          cells[skillId] = { level: 0, from: 'never', ...(level.until === null ? {} : { until: level.until }) };
        else if (!counts && !cells[skillId])
          cells[skillId] = { level: 0, from: 'ended', ...(level.until === null ? {} : { until: level.until }) };
      }
      return {
        ...settingsOfPerson(p),
        revision: p.revision,
        leaving: p.leaving,
        voiceWayId: p.voiceWayId,
        forNow: p.forNow,
        ownRows: ownRowsOf(host, p.id),
        mayChange: mayChange(actor, p),
        above: p.id !== actor.personId && above.has(p.roleId),
        roleName: roleNames.get(p.roleId) ?? 'no role',
        meant: meantToWork(p),
        stop: answer(p).find((c) => c.state === 'stops')?.says ?? null,
        cells,
      };
    });
  return {
    people,
    teams: teams
      .filter(
        (t) =>
          actor.teams === 'all' ||
          actor.teams.includes(t.id) ||
          people.some((p) => p.teamId === t.id || p.alsoTeamIds.includes(t.id)),
      )
      .map((t) => ({ ...t, mayChange: mayChangeTeam(actor, t.id) })),
    sites: SITES.all(host.db).map((s) => ({ id: s.id, name: s.name, zone: s.zone })),
    skills: readSkills(host.db),
    sets: sets.map((s) => ({ id: s.id, name: s.name })),
    profiles: readProfiles(host.db),
    roles: roles.map((r) => ({
      id: r.id,
      name: r.name,
      mayGive: r.id === 'agent' || (actor.rights.includes('roles.change') && mayGive(actor, r)),
    })),
    queues: readQueues(host.db).map((q) => ({ id: q.id, name: q.name, channels: q.channels, needs: q.needs })),
    needs: demand.skillNeeds(),
    filters: KEPT_FILTERS.all(host.db)
      .filter((f) => f.ownerId === actor.personId)
      .map((f) => ({ id: f.id, name: f.name, filter: f.filter })),
    everybody: actor.teams === 'all',
    mayAdd: actor.rights.includes('people.change'),
    mayChangeAll: actor.rights.includes('people.change') && actor.teams === 'all',
    maySeeHistory: actor.rights.includes('history.view'),
    awayReasons: AWAY_REASONS.all(host.db).map((r) => r.name),
  };
}

/** What the day brings to everybody the actor may see. */
export function viewStandings(deps: PeopleDeps, actor: Actor): StandingLine[] {
  mustHold(actor, 'people.view');
  return readPeople(deps.host.db)
    .filter((p) => sees(actor, p))
    .map((p) => standing(deps, p));
}

/** One person in full: readiness, where each level comes from, and the invitation. */
export function viewPerson({ host, readiness }: PeopleDeps, actor: Actor, personId: string): PersonView {
  mustHold(actor, 'people.view');
  const p = mustSee(actor, readPerson(host.db, personId));
  const at = host.times.floor();
  const own = ownLevelsOf(host.db, p.id);
  const gifts = giftsOf(host, p);
  const today = todayOf(host, p, at);
  const teams = new Map(readTeams(host.db).map((t) => [t.id, t.name]));
  const sets = new Map(SKILL_SETS.all(host.db).map((s) => [s.id, s.name]));
  const names = { team: (t: string) => teams.get(t) ?? t, set: (s: string) => sets.get(s) ?? s };
  const counts = levelsNow(host, p, at, own);
  const conditions = readiness.answers()(p);
  const last = lastInvitation(host.db, p.id);
  return {
    id: p.id,
    conditions,
    ready: isReady(conditions),
    openContacts: openLegsOf(host.db, p.id).length,
    zone: zoneOfPerson(host, p),
    supervises: supervisedTeams(host.db, p.id).map((t) => teams.get(t) ?? t),
    levels: readSkills(host.db)
      .filter((s) => own.has(s.id) || gifts.has(s.id))
      .map((s) => ({
        skillId: s.id,
        name: s.name,
        own: own.get(s.id) ?? null,
        counts: counts.get(s.id)?.level ?? 0,
        sentence: levelSentence(own.get(s.id), gifts.get(s.id) ?? [], today, names),
      })),
    invitation: last ? { sentAt: last.sentAt, until: last.until, endedHow: last.endedHow } : null,
  };
}
