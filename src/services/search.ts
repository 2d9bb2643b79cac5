import { mayDo } from '../core/people/rights';
import { readBots } from '../data/bots';
import { readPeople } from '../data/people';
import { readDoors, readQueues } from '../data/settings';
import type { Actor } from './actor';
import type { Host } from './host';

/** Something that can be gone to by name. */
export type Place = { readonly kind: 'Person' | 'Queue' | 'Bot' | 'Door'; readonly name: string; readonly path: string };

/** All things with names that the actor may see; the list is small enough to be searched where it is shown. */
export const createSearch = (host: Host) => ({
  places(actor: Actor): Place[] {
    if (!mayDo(actor.role, 'settings.view')) return [];
    return [
      ...readQueues(host.db).map((q): Place => ({ kind: 'Queue', name: q.name, path: `/queues?queue=${q.id}` })),
      ...readBots(host.db).map((b): Place => ({ kind: 'Bot', name: b.name, path: `/bots/${b.id}` })),
      ...readDoors(host.db).map((d): Place => ({ kind: 'Door', name: d.name, path: `/doors?door=${d.id}` })),
      ...readPeople(host.db).map((p): Place => ({ kind: 'Person', name: p.name, path: `/people?person=${p.id}` })),
    ];
  },
});
