import { type Person, readPeople } from '../../data/people';
import { PERSON_ROWS, readProfiles } from '../../data/dutyprofiles';
import { type Actor, sees } from './actor';
import type { Host } from './host';

/** How people outside the reader's teams are named. */
export const ELSEWHERE = 'somebody in another team';

/** What somebody may read of others. Whatever names people, or counts what they did, asks this and nothing else. */
export type Sight = {
  /** The people in their teams, and the queues that these people serve; null means all. */
  readonly people: ReadonlySet<string> | null;
  readonly queues: ReadonlySet<string> | null;
  /** Everybody's name, and the one that customers read, as this reader may read them. */
  readonly names: ReadonlyMap<string, string>;
  readonly shownNames: ReadonlyMap<string, string>;
  /** People to choose from or to name: those in the teams, and of the others only those that are `meant`, unnamed. */
  readonly choice: (meant?: (personId: string) => boolean) => { readonly id: string; readonly name: string }[];
};

/** What is made once, when it is first asked for. */
function lazily<T>(make: () => T): () => T {
  let made: { readonly it: T } | null = null;
  return () => (made ??= { it: make() }).it;
}

/** What an actor may read. Each part is made when it is asked for. */
export function sightOf(host: Pick<Host, 'db'>, actor: Actor): Sight {
  const people = lazily(() => readPeople(host.db));
  const seen = lazily(() => people().filter((p) => sees(actor, p)));
  const named = (name: (p: Person) => string) =>
    lazily(() => new Map(people().map((p) => [p.id, sees(actor, p) ? name(p) : ELSEWHERE])));
  const ids = lazily(() => new Set(seen().map((p) => p.id)));
  // A queue belongs to whoever's people have it in a duty profile, or in a row of their own.
  const queues = lazily(() => {
    const profiles = new Set(seen().flatMap((p) => [p.dutyProfileId, ...(p.forNow ? [p.forNow.profileId] : [])]));
    const own = PERSON_ROWS.all(host.db).filter((p) => ids().has(p.id));
    return new Set(
      [...readProfiles(host.db).filter((p) => profiles.has(p.id)), ...own].flatMap((p) =>
        p.rows.filter((r) => r.band > 0).map((r) => r.queueId),
      ),
    );
  });
  const [names, shownNames] = [named((p) => p.name), named((p) => p.shownName)];
  return {
    get people() {
      return actor.teams === 'all' ? null : ids();
    },
    get queues() {
      return actor.teams === 'all' ? null : queues();
    },
    get names() {
      return names();
    },
    get shownNames() {
      return shownNames();
    },
    choice: (meant = () => false) =>
      people().flatMap((p) => {
        if (!p.active) return [];
        if (sees(actor, p)) return [{ id: p.id, name: p.name }];
        return meant(p.id) ? [{ id: p.id, name: ELSEWHERE }] : [];
      }),
  };
}
