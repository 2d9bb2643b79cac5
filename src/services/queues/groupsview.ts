import { TZDate } from '@date-fns/tz';
import type { WeeklyInterval } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { type LimitKind, type Limits, usedIn, type Uses } from '../../core/routing/limits';
import type { Onward } from '../../core/routing/onward';
import type { Db } from '../../data/database';
import {
  type GroupBody,
  GROUPS,
  type PartnerBody,
  PARTNERS,
  PERSON_LIMITS,
  takenByGroup,
  takenByPartner,
  type TakenIn,
} from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readRoles } from '../../data/roles';
import { readSkills } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { Host } from '../ground/host';

/** Use so far: contacts held now, and taken this calendar hour, day and month. */
export type UseNow = {
  readonly open: number;
  readonly hour: number;
  readonly day: number;
  readonly month: number;
  readonly reached: readonly LimitKind[];
};

export type GroupLine = GroupBody & {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly memberIds: readonly string[];
  readonly onDuty: number;
  readonly use: UseNow;
  /** Contacts taken in each hour of the week, from Monday at midnight in its zone, in the last seven days. */
  readonly took: readonly number[];
  readonly usedBy: readonly string[];
};

export type PartnerLine = Omit<PartnerBody, 'numbers'> & {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  /** Contacts that the desk as a whole has and took. */
  readonly use: UseNow;
  /** As of a group. */
  readonly took: readonly number[];
  readonly numbers: readonly (PartnerBody['numbers'][number] & { readonly use: UseNow })[];
  readonly usedBy: readonly string[];
};

type Named = { readonly id: string; readonly name: string };

export type GroupsView = {
  /** The workspace's own zone. */
  readonly zone: string;
  readonly groups: readonly GroupLine[];
  readonly partners: readonly PartnerLine[];
  readonly own: readonly { readonly personId: string; readonly name: string; readonly limits: Limits }[];
  readonly people: readonly Named[];
  readonly teams: readonly Named[];
  readonly roles: readonly Named[];
  readonly skills: readonly Named[];
  readonly hours: readonly (Named & { readonly weekly: readonly WeeklyInterval[] })[];
  readonly queues: readonly Named[];
  readonly mayChange: boolean;
};

const NO_USE: UseNow = { open: 0, hour: 0, day: 0, month: 0, reached: [] };

const useNow = (uses: Uses, reached: readonly LimitKind[], at: number): UseNow => ({
  open: uses.open,
  hour: usedIn(uses.hour, at),
  day: usedIn(uses.day, at),
  month: usedIn(uses.month, at),
  reached,
});

const WEEK_MS = 7 * 86_400_000;
/** Hours (UTC ms) with counts, by the hour of the week in a zone. */
function byHour(taken: readonly TakenIn[], zone: string): number[] {
  const week = new Array<number>(168).fill(0);
  for (const { hour, n } of taken) {
    const local = new TZDate(hour, zone);
    const at = ((local.getDay() + 6) % 7) * 24 + local.getHours();
    week[at] = (week[at] ?? 0) + n;
  }
  return week;
}

/** What the functions of this file are given first. */
export type GroupsDeps = { readonly host: Host; readonly floor: LiveFloor };

/** Queues that name a group or partner desk in their clocks or entry rules. */
export function usersOf(db: Db, kind: 'group' | 'partner', thingId: string): string[] {
  const toward = (o: Onward): boolean =>
    (o.to === 'group' && kind === 'group' && o.groupId === thingId) ||
    (o.to === 'partner' && kind === 'partner' && o.partnerId === thingId);
  return readQueues(db)
    .filter(
      (q) =>
        q.entryRules.some((r) => toward(r.then)) ||
        Object.values(q.clocks).some((stages) =>
          stages.some((s) =>
            s.acts.some(
              (a) =>
                (a.does === 'add-group' && kind === 'group' && a.groupId === thingId) ||
                (a.does === 'add-partner' && kind === 'partner' && a.partnerId === thingId) ||
                (a.does === 'move' && toward(a.onward)),
            ),
          ),
        ),
    )
    .map((q) => q.name);
}

export function viewGroups({ host, floor }: GroupsDeps, actor: Actor): GroupsView {
  mustHold(actor, 'settings.view');
  const { db } = host;
  const now = host.times.floor();
  const people = readPeople(db).filter((p) => p.active && sees(actor, p));
  const seen = new Set(people.map((p) => p.id));
  const named = <T extends Named>(list: readonly T[]): Named[] =>
    list.map(({ id: thingId, name }) => ({ id: thingId, name }));
  return {
    zone: readWorkspace(db)?.zone ?? 'UTC',
    groups: GROUPS.all(db).map((g) => {
      const live = floor.router.floor.groups.get(g.id);
      const members = [...(live?.members.keys() ?? [])];
      return {
        ...g,
        memberIds: members.filter((m) => seen.has(m)),
        onDuty: members.filter((m) => floor.router.floor.people.get(m)?.duty === 'ready').length,
        use: live ? useNow(live.uses, live.reached, now) : NO_USE,
        took: byHour(takenByGroup(db, g.id, now - WEEK_MS), g.zone),
        usedBy: usersOf(db, 'group', g.id),
      };
    }),
    partners: PARTNERS.all(db).map((p) => {
      const live = floor.router.floor.partners.get(p.id);
      return {
        ...p,
        use: live ? useNow(live.uses, live.reached, now) : NO_USE,
        took: byHour(takenByPartner(db, p.id, now - WEEK_MS), p.zone),
        numbers: p.numbers.map((n) => {
          const l = live?.numbers.find((x) => x.id === n.id);
          return { ...n, use: l ? useNow(l.uses, l.reached, now) : NO_USE };
        }),
        usedBy: usersOf(db, 'partner', p.id),
      };
    }),
    own: PERSON_LIMITS.all(db)
      .filter((l) => seen.has(l.id))
      .map((l) => ({ personId: l.id, name: people.find((p) => p.id === l.id)?.name ?? '', limits: l.limits })),
    people: named(people),
    teams: named(readTeams(db)),
    roles: named(readRoles(db)),
    skills: named(readSkills(db)),
    hours: readAllHours(db).map(({ id: hoursId, name, weekly }) => ({ id: hoursId, name, weekly })),
    queues: named(readQueues(db)),
    mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
  };
}
