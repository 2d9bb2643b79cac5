import { array, boolean, object, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { nextTime } from '../../core/hours/weekly';
import type { DutyState, ForNow } from '../../core/people/duty';
import { type Level, levelSentence, type OwnLevel, stillCounts } from '../../core/people/levels';
import { usedLoad } from '../../core/people/load';
import { type Condition, isReady } from '../../core/people/readiness';
import { mayGive, outranks, OWNER, type Role } from '../../core/people/rights';
import { heldBy } from '../../core/routing/floor';
import { openLegsOf } from '../../data/contacts';
import { AWAY_REASONS, KEPT_FILTERS } from '../../data/duty';
import { lastInvitation } from '../../data/invitations';
import {
  type DutyProfileRecord,
  endSessionsOf,
  ownLevelsOf,
  type Person,
  type PersonSettings,
  readOwnLevels,
  readPeople,
  readPerson,
  readPersonByEmail,
  readProfile,
  readProfiles,
  readSkills,
  readTeams,
  removePerson,
  setActive,
  setLeaving,
  settingsOfPerson,
  SITES,
  type Skill,
  SKILL_SETS,
  supervisedTeams,
  type Team,
  writeForNow,
  writePerson,
} from '../../data/people';
import { readRole, readRoles } from '../../data/roles';
import { readQueues } from '../../data/settings';
import type { Conversations } from '../contacts/conversations';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mayChangeTeam, need, needRank, needSight, needTeam, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Kept, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Demand, SkillNeed } from './demand';
import { giftsOf, levelsNow, todayOf, zoneOfPerson } from './peoplebook';
import { meantToWork, type ReadinessService } from './readiness';

const mostSchema = exactly(
  object(Object.fromEntries(CHANNELS.map((c) => [c, whole(0, 20, `How many at once by ${c}`).optional()]))),
);
const ids = (label: string) =>
  array(id(label)).max(50, `At most 50 of ${label.toLowerCase()}`).required(`${label} are missing`);
const personSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(80, 'The name'),
    shownName: requiredText(40, 'The name shown to customers'),
    email: requiredText(200, 'The e-mail address').email('The e-mail address is not one'),
    teamId: id('The team'),
    alsoTeamIds: ids('Further teams'),
    setIds: ids('Skill sets'),
    siteId: string().nullable().defined(),
    roleId: id('The role'),
    outbound: text(60, 'The outbound identity').defined(),
    dutyProfileId: id('The duty profile'),
    most: mostSchema,
  }),
);
const nowSchema = exactly(
  object({
    personId: id('The person'),
    profileId: string().nullable().defined(),
    until: string()
      .matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written like 14:00')
      .nullable()
      .optional(),
  }),
);
const switchSchema = exactly(
  object({
    personId: id('The person'),
    active: boolean().required('active is missing'),
    open: oneOf(['finish', 'return', 'end'] as const, 'What happens to open contacts').optional(),
  }),
);
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
  /** Whether everybody is in it, so that counts may be set against what the whole company needed. */ readonly everybody: boolean;
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
  readonly conversations: Conversations;
  readonly readiness: ReadinessService;
  readonly demand: Demand;
};

function mustExist(found: boolean, what: string, where: string) {
  if (!found) throw new LaneError('not-valid', `There is no such ${what}.`, [{ where, what: 'is not known' }]);
}

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

/** Checks that what a person is set to exists, that the actor may set it, and that the address is free. */
export function checkPerson(tx: Tx, actor: Actor, after: PersonSettings, before: Person | undefined): void {
  for (const teamId of new Set([after.teamId, before?.teamId ?? after.teamId])) needTeam(actor, teamId);
  if (before && (after.email !== before.email || after.roleId !== before.roleId || after.active !== before.active))
    needRank(tx.db, actor, before);
  const teams = new Set(readTeams(tx.db).map((t) => t.id));
  for (const t of [after.teamId, ...after.alsoTeamIds]) mustExist(teams.has(t), 'team', 'teamId');
  for (const s of after.setIds) mustExist(SKILL_SETS.one(tx.db, s) !== undefined, 'skill set', 'setIds');
  mustExist(after.siteId === null || SITES.one(tx.db, after.siteId) !== undefined, 'site', 'siteId');
  mustExist(readProfile(tx.db, after.dutyProfileId) !== undefined, 'duty profile', 'dutyProfileId');
  if (after.roleId !== (before?.roleId ?? 'agent')) mayBecome(tx, actor, after.roleId, before);
  const other = readPersonByEmail(tx.db, after.email);
  if (other && other.id !== after.id)
    throw new LaneError(
      'not-valid',
      sees(actor, other) ? `${other.name} already has this address.` : 'Somebody already has this address.',
      [{ where: 'email', what: 'is taken' }],
    );
}

function mayBecome(tx: Tx, actor: Actor, roleId: string, before: Person | undefined): void {
  const role: Role | undefined = readRole(tx.db, roleId);
  if (!role) throw new LaneError('not-valid', 'There is no such role.', [{ where: 'roleId', what: 'is not known' }]);
  if (before?.roleId === OWNER)
    throw new LaneError('not-allowed', 'The owner keeps that role until ownership is handed on.');
  need(actor, 'roles.change');
  if (!mayGive(actor, role))
    throw new LaneError('not-allowed', `You may not make somebody ${role.name}: it holds more than you do.`);
}

/** Throws unless the actor may switch this account off. */
export function checkSwitchOff(tx: Tx, actor: Actor, person: Person): void {
  if (person.roleId === OWNER)
    throw new LaneError('not-valid', 'The owner cannot be switched off. Hand ownership on first.', [
      { where: 'active', what: 'the owner stays switched on' },
    ]);
  needRank(tx.db, actor, person);
  if (person.id === actor.personId)
    throw new LaneError('not-valid', 'You cannot switch yourself off.', [
      { where: 'active', what: 'is your own account' },
    ]);
}

/** Keeps settings; gives them as they are kept: an account that is switched off with contacts open stays on until the last of them. */
export function putPerson(
  deps: PeopleDeps,
  tx: Tx,
  actor: Actor,
  before: Person | undefined,
  after: PersonSettings,
): PersonSettings {
  if (before?.active && !after.active) switchOff(deps, tx, actor, before, 'finish');
  const kept = before && readPerson(tx.db, before.id)?.leaving ? { ...after, active: true } : after;
  writePerson(tx.db, kept);
  return kept;
}

function switchOff(
  { floor, conversations }: PeopleDeps,
  tx: Tx,
  actor: Actor,
  person: Person,
  open: 'finish' | 'return' | 'end',
): void {
  checkSwitchOff(tx, actor, person);
  const busy = openLegsOf(tx.db, person.id).length > 0;
  if (busy && open === 'finish') {
    setLeaving(tx.db, person.id);
    floor.setDuty(tx, person.id, 'away-when-empty', null);
    return;
  }
  // Off first, so that what goes back to the queue is not offered to the same person.
  floor.setDuty(tx, person.id, 'off', null);
  if (busy) conversations.letGo(tx, person.id, open === 'return' ? 'return' : 'end');
  setActive(tx.db, person.id, false);
  endSessionsOf(tx.db, person.id);
}

export const keptPeople = (deps: PeopleDeps): Record<string, Kept> => ({
  person: {
    name: 'person',
    path: (personId) => `/people?person=${personId}`,
    read: (db, personId) => {
      const p = readPerson(db, personId);
      return p ? settingsOfPerson(p) : null;
    },
    restore: (tx, actor, personId, value) => {
      const before = readPerson(tx.db, personId);
      if (value === null) {
        if (!before) return;
        needTeam(actor, before.teamId);
        if (before.lastContactAt !== null)
          throw new LaneError(
            'not-now',
            `${before.name} has had contacts, so they are kept; switch the account off instead.`,
          );
        removePerson(tx.db, personId);
      } else {
        const after = value as PersonSettings;
        checkPerson(tx, actor, after, before);
        putPerson(deps, tx, actor, before, after);
      }
      deps.floor.refreshPeople(tx, [personId]);
    },
  },
  'for-now': {
    name: 'duty profile for now',
    path: (personId) => `/people?person=${personId}`,
    read: (db, personId) => readPerson(db, personId)?.forNow ?? null,
    restore: (tx, actor, personId, value) => {
      const person = needSight(actor, readPerson(tx.db, personId));
      needTeam(actor, person.teamId);
      const forNow = value as ForNow | null;
      writeForNow(tx.db, personId, forNow && forNow.until > tx.floorAt ? forNow : null);
      deps.floor.refreshPeople(tx, [personId]);
    },
  },
});

export function viewPeople({ host, readiness, demand }: PeopleDeps, actor: Actor): PeopleView {
  need(actor, 'people.view');
  const at = host.clocks.floor();
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
  need(actor, 'people.view');
  return readPeople(deps.host.db)
    .filter((p) => sees(actor, p))
    .map((p) => standing(deps, p));
}

/** One person in full: readiness, where each level comes from, and the invitation. */
export function viewPerson({ host, readiness }: PeopleDeps, actor: Actor, personId: string): PersonView {
  need(actor, 'people.view');
  const p = needSight(actor, readPerson(host.db, personId));
  const at = host.clocks.floor();
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

/** Adds (`id` null) or changes a person. */
export function savePerson({ host, floor }: PeopleDeps, actor: Actor, input: unknown): { id: string } {
  need(actor, 'people.change');
  const p = parse(personSchema, input);
  return host.transact((tx) => {
    const before = p.id === null ? undefined : needSight(actor, readPerson(tx.db, p.id));
    const { revision, ...asked } = p;
    const after: PersonSettings = {
      ...asked,
      id: p.id ?? tx.ids('person'),
      email: p.email.toLowerCase(),
      alsoTeamIds: p.alsoTeamIds.filter((t) => t !== p.teamId),
      active: before?.active ?? true,
    };
    checkPerson(tx, actor, after, before);
    sameRevision(before, revision, p.name);
    writePerson(tx.db, after);
    recordChange(tx, actor, 'person', after.id, before && settingsOfPerson(before), after);
    floor.refreshPeople(tx, [after.id]);
    return { id: after.id };
  });
}

/** Puts somebody on another duty profile for now, until the floor's clock shows a time; null ends it. */
export function setForNow({ host, floor }: PeopleDeps, actor: Actor, input: unknown): { until: number | null } {
  need(actor, 'people.change');
  const asked = parse(nowSchema, input);
  return host.transact((tx) => {
    const person = needSight(actor, readPerson(tx.db, asked.personId));
    needTeam(actor, person.teamId);
    if (asked.profileId !== null)
      mustExist(readProfile(tx.db, asked.profileId) !== undefined, 'duty profile', 'profileId');
    if (asked.profileId !== null && !asked.until)
      throw new LaneError('not-valid', 'Say until when.', [{ where: 'until', what: 'is missing' }]);
    const forNow: ForNow | null =
      asked.profileId === null
        ? null
        : {
            profileId: asked.profileId,
            until: nextTime(tx.floorAt, zoneOfPerson(host, person), asked.until ?? ''),
          };
    writeForNow(tx.db, person.id, forNow);
    recordChange(tx, actor, 'for-now', person.id, person.forNow, forNow, { label: person.name });
    floor.refreshPeople(tx, [person.id]);
    return { until: forNow?.until ?? null };
  });
}

/** Switches an account on or off; with contacts open, `open` says what happens to them. */
export function switchPerson(deps: PeopleDeps, actor: Actor, input: unknown): { id: string } {
  need(actor, 'people.change');
  const asked = parse(switchSchema, input);
  return deps.host.transact((tx) => {
    const before = needSight(actor, readPerson(tx.db, asked.personId));
    needTeam(actor, before.teamId);
    if (!asked.active && openLegsOf(tx.db, before.id).length > 0 && !asked.open)
      throw new LaneError('not-valid', `${before.name} has contacts open. Choose what happens to them.`, [
        { where: 'open', what: 'is missing' },
      ]);
    if (asked.active) setActive(tx.db, before.id, true);
    else switchOff(deps, tx, actor, before, asked.open ?? 'end');
    const after = readPerson(tx.db, before.id) ?? before;
    recordChange(tx, actor, 'person', before.id, settingsOfPerson(before), settingsOfPerson(after));
    deps.floor.refreshPeople(tx, [before.id]);
    return { id: before.id };
  });
}

export const createPeople = (deps: PeopleDeps) => ({
  kept: keptPeople(deps),
  checkPerson,
  checkSwitchOff,
  ...bind(deps, {
    put: putPerson,
    view: viewPeople,
    standings: viewStandings,
    person: viewPerson,
    save: savePerson,
    setForNow,
    switchPerson,
  }),
});

export type People = ReturnType<typeof createPeople>;
