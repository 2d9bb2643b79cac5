import type { Levels } from '../../core/people/levels';
import type { Db } from '../../data/database';
import { type Person, readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readOwnLevels, readSkills, readTeamLevels, type Skill, SKILL_SETS } from '../../data/skills';
import { readTeams, SITES, supervisorsOf } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { Host } from '../ground/host';

export type TeamDetail = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly levels: Levels;
  readonly setIds: readonly string[];
  readonly supervisorIds: readonly string[];
  readonly members: number;
  readonly revision: number;
};

export type SetDetail = {
  readonly id: string;
  readonly name: string;
  readonly levels: Levels;
  readonly teamIds: readonly string[];
  readonly personIds: readonly string[];
  readonly revision: number;
};

export type SiteDetail = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly address: string;
  readonly people: number;
  readonly revision: number;
};

export type SkillDetail = Skill & {
  readonly usedBy: readonly string[];
  readonly ends: readonly { personId: string; name: string; until: string }[];
};

export type TeamsView = {
  readonly teams: readonly TeamDetail[];
  readonly sets: readonly SetDetail[];
  readonly sites: readonly SiteDetail[];
  readonly skills: readonly SkillDetail[];
  readonly people: readonly { id: string; name: string; teamId: string }[];
  /** The workspace's own. */ readonly zone: string;
  /** Zones to choose from: the server's, since browsers name some differently. */ readonly zones: readonly string[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type TeamsDeps = { readonly host: Host; readonly floor: LiveFloor };

export const levelsOfTeam = (db: Db, teamId: string): Levels =>
  Object.fromEntries(
    readTeamLevels(db)
      .filter((l) => l.teamId === teamId)
      .map((l) => [l.skillId, l.level]),
  );

export const inTeam = (teamId: string) => (p: Person) => p.teamId === teamId || p.alsoTeamIds.includes(teamId);

export function viewTeams({ host }: TeamsDeps, actor: Actor): TeamsView {
  mustHold(actor, 'people.view');
  const { db } = host;
  const people = readPeople(db).filter((p) => sees(actor, p));
  const queues = readQueues(db);
  const own = readOwnLevels(db);
  const seesTeam = (t: { id: string }) => actor.teams === 'all' || actor.teams.includes(t.id);
  return {
    teams: readTeams(db)
      .filter(seesTeam)
      .map((t) => ({
        id: t.id,
        name: t.name,
        zone: t.zone,
        setIds: t.setIds,
        revision: t.revision,
        levels: levelsOfTeam(db, t.id),
        supervisorIds: supervisorsOf(db, t.id),
        members: people.filter(inTeam(t.id)).length,
      })),
    sets: SKILL_SETS.all(db).map((s) => ({
      id: s.id,
      name: s.name,
      levels: s.levels,
      revision: s.revision,
      teamIds: readTeams(db)
        .filter((t) => t.setIds.includes(s.id) && seesTeam(t))
        .map((t) => t.id),
      personIds: people.filter((p) => p.setIds.includes(s.id)).map((p) => p.id),
    })),
    sites: SITES.all(db).map((s) => ({
      id: s.id,
      name: s.name,
      zone: s.zone,
      address: s.address,
      revision: s.revision,
      people: people.filter((p) => p.siteId === s.id).length,
    })),
    skills: readSkills(db).map((s) => ({
      ...s,
      usedBy: queues.filter((q) => q.needs.some((n) => n.skillId === s.id)).map((q) => q.name),
      ends: people
        .flatMap((p) => {
          const until = own.get(p.id)?.get(s.id)?.until;
          return until ? [{ personId: p.id, name: p.name, until }] : [];
        })
        .sort((a, b) => (a.until < b.until ? -1 : 1)),
    })),
    people: people.filter((p) => p.active).map((p) => ({ id: p.id, name: p.name, teamId: p.teamId })),
    zone: readWorkspace(host.db)?.zone ?? 'UTC',
    zones: Intl.supportedValuesOf('timeZone'),
    mayChange: actor.rights.includes('people.change') && actor.teams === 'all',
  };
}
