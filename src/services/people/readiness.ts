import { CHANNELS } from '../../core/channels';
import { openAt } from '../../core/hours/weekly';
import { NO_SHIFT, type Shift } from '../../core/people/coverage';
import { withOverrides } from '../../core/people/load';
import { type Condition, type InvitationState, isReady, readiness } from '../../core/people/readiness';
import { SHIFTS } from '../../data/duty';
import { lastInvitations, withPassword } from '../../data/invitations';
import { type Person, readPeople, readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readWays } from '../../data/reach';
import { readRoles } from '../../data/roles';
import { readOwnLevels, readSkills } from '../../data/skills';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustSee, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { levelsNow, profileNow, zoneOfPerson } from './peoplebook';

export type Readiness = {
  readonly personId: string;
  readonly name: string;
  readonly ready: boolean;
  readonly conditions: readonly Condition[];
};
/** Somebody whom contacts cannot reach, and the first thing in the way. */
export type NotReady = {
  readonly personId: string;
  readonly name: string;
  readonly teamId: string;
  readonly stops: readonly Condition[];
};

const OFF = Object.fromEntries(CHANNELS.map((c) => [c, { cost: 100, most: 0 }])) as Parameters<typeof withOverrides>[0];

/** Whether somebody is meant to take contacts at all: leads who only configure are not missing anything. */
export const meantToWork = (p: Pick<Person, 'active' | 'roleId'>): boolean =>
  p.active && p.roleId !== 'owner' && p.roleId !== 'lead';

/** What the functions of this file are given first. */
export type ReadinessDeps = { readonly host: Host; readonly floor: LiveFloor };

/** Reads what everybody's answer needs once, and answers for anybody. */
export function readinessAnswers({ host, floor }: ReadinessDeps): (person: Person) => Condition[] {
  const { db } = host;
  const at = host.times.floor();
  const real = host.times.real();
  const own = readOwnLevels(db);
  const roles = new Map(readRoles(db).map((r) => [r.id, r]));
  const allWays = readWays(db);
  const ways = new Map(allWays.map((w) => [w.id, w]));
  const shifts = new Map<string, Shift>(SHIFTS.all(db).map((s) => [s.id, s]));
  const queues = readQueues(db);
  const skills = new Map(readSkills(db).map((s) => [s.id, s.name]));
  const invited = lastInvitations(db);
  const passwords = withPassword(db);
  const when = (zone: string, instant: number) =>
    new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit', timeZone: zone }).format(
      instant,
    );
  const invitation = (p: Person): InvitationState => {
    // Simulated people are the demo's own; nobody signs in as them.
    if (p.simulated || passwords.has(p.id)) return 'accepted';
    const last = invited.get(p.id);
    if (!last) return 'none';
    if (last.endedHow === 'withdrawn') return 'withdrawn';
    return last.until > real ? 'sent' : 'expired';
  };
  return (p) => {
    const profile = profileNow(host, p, at);
    const zone = zoneOfPerson(host, p);
    const shift = shifts.get(p.id) ?? shifts.get(p.teamId);
    const working = openAt({ zone, ...(shift ?? NO_SHIFT) }, at);
    const role = roles.get(p.roleId);
    const way = p.voiceWayId === null ? undefined : ways.get(p.voiceWayId);
    return readiness({
      active: p.active,
      invitation: invitation(p),
      role: { name: role?.name ?? 'that was deleted', works: role?.rights.includes('desk.work') ?? false },
      voiceWay: way ? { address: way.address, verified: way.verifiedAt !== null } : null,
      unverified: allWays
        .filter((w) => w.personId === p.id && w.verifiedAt === null && w.id !== p.voiceWayId)
        .map((w) => w.address),
      profile: { name: profile?.name ?? 'No duty profile', rows: profile?.rows ?? [] },
      load: withOverrides(profile?.load ?? OFF, p.most),
      queues,
      groups: new Set([...floor.router.floor.groups].flatMap(([id, g]) => (g.members.has(p.id) ? [id] : []))),
      levels: new Map([...levelsNow(host, p, at, own.get(p.id) ?? new Map())].map(([skill, l]) => [skill, l.level])),
      skillName: (id) => skills.get(id) ?? id,
      shift: {
        known: shift !== undefined,
        on: working.open,
        next: working.open || working.opensAt === null ? null : when(zone, working.opensAt),
      },
      duty: p.duty,
      dutyReason: p.dutyReason,
      reachable: floor.router.floor.people.get(p.id)?.reachable ?? true,
    });
  };
}

/** What stops contacts follows from settings alone, so it is kept until these change. */
const everybody = (deps: ReadinessDeps) =>
  deps.host.remembered('not-ready', (db) => {
    const answer = readinessAnswers(deps);
    return readPeople(db)
      .filter(meantToWork)
      .map((p) => ({
        personId: p.id,
        name: p.name,
        id: p.id,
        teamId: p.teamId,
        alsoTeamIds: p.alsoTeamIds,
        stops: answer(p).filter((c) => c.state === 'stops'),
      }))
      .filter((p) => p.stops.length > 0);
  });

const allNotReady = (deps: ReadinessDeps, actor: Actor): NotReady[] =>
  everybody(deps)
    .filter((p) => sees(actor, p))
    .map(({ personId, name, teamId, stops }) => ({ personId, name, teamId, stops }));

export function readinessOf(deps: ReadinessDeps, actor: Actor, personId: string): Readiness {
  mustHold(actor, 'people.view');
  const person = mustSee(actor, readPerson(deps.host.db, personId));
  const conditions = readinessAnswers(deps)(person);
  return { personId, name: person.name, ready: isReady(conditions), conditions };
}

/** Everybody meant to take contacts whom none can reach. */
export function notReady(deps: ReadinessDeps, actor: Actor): NotReady[] {
  mustHold(actor, 'people.view');
  return allNotReady(deps, actor);
}

export const countNotReady = (deps: ReadinessDeps, actor: Actor): number => allNotReady(deps, actor).length;

/** "Can this person take a contact?", answered from what is kept and what the floor knows. */
export const createReadiness = (deps: ReadinessDeps) =>
  bind(deps, { answers: readinessAnswers, of: readinessOf, notReady, countNotReady });

export type ReadinessService = ReturnType<typeof createReadiness>;
