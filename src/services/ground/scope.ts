import { readProfiles } from '../../data/dutyprofiles';
import { readPeople } from '../../data/people';
import { type Actor, sees } from './actor';
import type { Host } from './host';

/** The people somebody may see, and the queues that these people serve; null means all. */
export type Scope = { readonly people: ReadonlySet<string> | null; readonly queues: ReadonlySet<string> | null };

/** How people outside the reader's teams are named. */
export const ELSEWHERE = 'somebody in another team';
/** People's names as somebody may read them: those outside their teams have none. */
export function namesFor(host: Host, actor: Actor): ReadonlyMap<string, string> {
  return new Map(readPeople(host.db).map((p) => [p.id, sees(actor, p) ? p.name : ELSEWHERE]));
}

/** A queue belongs to whoever's people have it in a duty profile. */
export function scopeOf(host: Host, actor: Actor): Scope {
  if (actor.teams === 'all') return { people: null, queues: null };
  const people = readPeople(host.db).filter((p) => sees(actor, p));
  const profiles = new Set(people.flatMap((p) => [p.dutyProfileId, ...(p.forNow ? [p.forNow.profileId] : [])]));
  return {
    people: new Set(people.map((p) => p.id)),
    queues: new Set(
      readProfiles(host.db)
        .filter((p) => profiles.has(p.id))
        .flatMap((p) => p.rows.map((r) => r.queueId)),
    ),
  };
}
