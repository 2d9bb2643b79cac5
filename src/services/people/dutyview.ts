import type { Channel } from '../../core/channels';
import { profileIdAt } from '../../core/people/duty';
import type { SituationLine } from '../../core/routing/wouldtake';
import type { Db } from '../../data/database';
import { AWAY_REASONS } from '../../data/duty';
import { type DutyProfileRecord, readProfiles } from '../../data/dutyprofiles';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readTeams } from '../../data/teams';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { Host } from '../ground/host';

export type ProfileLine = DutyProfileRecord & {
  readonly people: number;
  readonly onDuty: number;
  readonly forNow: number;
  readonly names: readonly string[];
};

export type AwayReason = {
  readonly id: string;
  readonly name: string;
  readonly paid: boolean;
  readonly minutes: number | null;
};

export type DutyView = {
  readonly profiles: readonly ProfileLine[];
  readonly queues: readonly { id: string; name: string; channels: readonly Channel[] }[];
  /** Each with their home team and the profile that is their own. */
  readonly people: readonly { id: string; name: string; team: string; profileId: string }[];
  readonly waiting: readonly SituationLine[];
  readonly reasons: readonly AwayReason[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type DutyDeps = { readonly host: Host; readonly floor: LiveFloor };

export const peopleOn = ({ host }: DutyDeps, db: Db, profileId: string): string[] =>
  readPeople(db)
    .filter((p) => profileIdAt(p, host.times.floor()) === profileId)
    .map((p) => p.id);

export function viewDuty({ host, floor }: DutyDeps, actor: Actor): DutyView {
  mustHold(actor, 'people.view');
  const at = host.times.floor();
  const people = readPeople(host.db).filter((p) => p.active && sees(actor, p));
  const teams = new Map(readTeams(host.db).map((t) => [t.id, t.name]));
  const waiting = new Map<string, SituationLine>();
  for (const v of floor.router.floor.waiting.values()) {
    if (v.kind === 'message') continue;
    const key = `${v.queue.id}|${v.channel}`;
    const line = waiting.get(key);
    const waited = Math.round((at - v.enteredAt) / 1000);
    waiting.set(key, {
      queueId: v.queue.id,
      channel: v.channel,
      count: (line?.count ?? 0) + 1,
      waitedSeconds: Math.max(line?.waitedSeconds ?? 0, waited),
    });
  }
  return {
    profiles: readProfiles(host.db).map((p) => {
      const on = people.filter((x) => profileIdAt(x, at) === p.id);
      return {
        ...p,
        people: on.length,
        onDuty: on.filter((x) => x.duty === 'ready').length,
        forNow: on.filter((x) => x.dutyProfileId !== p.id).length,
        names: on.map((x) => x.name),
      };
    }),
    queues: readQueues(host.db).map((q) => ({ id: q.id, name: q.name, channels: q.channels })),
    people: people.map((p) => ({
      id: p.id,
      name: p.name,
      team: teams.get(p.teamId) ?? '',
      profileId: p.dutyProfileId,
    })),
    waiting: [...waiting.values()],
    reasons: AWAY_REASONS.all(host.db).map((r) => ({ id: r.id, name: r.name, paid: r.paid, minutes: r.minutes })),
    mayChange: actor.rights.includes('people.change') && actor.teams === 'all',
  };
}
