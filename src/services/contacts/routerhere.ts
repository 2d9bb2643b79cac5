import { profileIdAt } from '../../core/people/duty';
import { learnedSince } from '../../core/routing/memory';
import { decide } from '../../core/routing/pass';
import { createRouter, type Router } from '../../core/routing/router';
import { lastCustomerWord } from '../../data/messages';
import { readPerson } from '../../data/people';
import { writeRouterMemory } from '../../data/routermemory';
import { clearTimer, setTimer } from '../../data/timers';
import { readWorkspace } from '../../data/workspace';
import type { Host, Tx } from '../ground/host';
import { dutyProfileOf } from '../people/peoplebook';
import { loadFloor } from './floorload';

/** How somebody is asked, which the router itself does not look at. */
export type Manners = {
  readonly acceptSeconds: number;
  readonly autoAccept: boolean;
  readonly restSeconds: number | null;
};
type TextLeg = {
  readonly id: string;
  readonly personId: string;
  readonly contactId: string;
  readonly acceptedAt: number;
};

/**
 * The one router of this process. Nothing here is truth: it is made from the tables by `load`, and made anew when a
 * change that it took part in is undone.
 */
export type RouterHere = ReturnType<typeof createRouterHere>;

export function createRouterHere(host: Host) {
  let router = newRouter();

  function newRouter(): Router {
    return createRouter({
      newId: (prefix) => host.ids(prefix),
      zone: readWorkspace(host.db)?.zone ?? 'UTC',
      trails: true,
      decide,
    });
  }
  function mannersOf(personId: string): Manners {
    const person = host.remembered(`person ${personId}`, (db) => readPerson(db, personId));
    return (
      (person && dutyProfileOf(host, profileIdAt(person, host.times.floor()))) ?? {
        acceptSeconds: 20,
        autoAccept: false,
        restSeconds: null,
      }
    );
  }
  /** When a text conversation begins to rest (floor ms): so long after the customer's last word, or after it began. */
  function restsAt(leg: TextLeg): number {
    const { restSeconds } = mannersOf(leg.personId);
    return restSeconds === null
      ? Infinity
      : Math.max(leg.acceptedAt, lastCustomerWord(host.db, leg.contactId) ?? 0) + restSeconds * 1000;
  }
  function make(known: Router | null): void {
    const before = router;
    router = newRouter();
    loadFloor(
      host,
      router,
      (leg) => restsAt(leg) <= host.times.floor(),
      (id) => before.floor.people.get(id)?.reachable ?? true,
      known,
    );
  }
  const load = () => make(null);
  const reload = () => make(router);
  load();

  return {
    get router(): Router {
      return router;
    },
    load,
    /** Made anew from the tables but for what settings say, which the change that was undone had not touched. */
    reload,
    mannersOf,
    /** Keeps what the router has learnt since it was last asked. */
    remember(tx: Tx): void {
      for (const { key, body } of learnedSince(router)) writeRouterMemory(tx.db, key, body);
    },
    /** Sets the instant at which a text conversation begins to rest. */
    watchRest(tx: Tx, leg: TextLeg): void {
      const at = restsAt(leg);
      if (at === Infinity) clearTimer(tx.db, 'leg-rests', leg.id);
      else setTimer(tx.db, 'leg-rests', leg.id, 'floor', Math.max(at, tx.floorAt + 1));
    },
  };
}
