import { holds } from '../../core/people/rights';
import { readBots } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { type Actor, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';

/** Something that can be gone to by name. */
export type Place = {
  readonly kind: 'Person' | 'Queue' | 'Bot' | 'Door';
  readonly name: string;
  readonly path: string;
};

/** What the functions of this file are given first. */
export type SearchDeps = { readonly host: Host };

export function places({ host }: SearchDeps, actor: Actor): Place[] {
  const settings = holds(actor, 'settings.view');
  return [
    ...(!settings
      ? []
      : readQueues(host.db).map((q): Place => ({ kind: 'Queue', name: q.name, path: `/queues?queue=${q.id}` }))),
    ...(!settings ? [] : readBots(host.db).map((b): Place => ({ kind: 'Bot', name: b.name, path: `/bots/${b.id}` }))),
    ...(!settings
      ? []
      : readDoors(host.db).map((d): Place => ({ kind: 'Door', name: d.name, path: `/doors?door=${d.id}` }))),
    ...(!holds(actor, 'people.view')
      ? []
      : readPeople(host.db)
          .filter((p) => sees(actor, p))
          .map((p): Place => ({ kind: 'Person', name: p.name, path: `/people?person=${p.id}` }))),
  ];
}

/** All things with names that the actor may see; the list is small enough to be searched where it is shown. */
export const createSearch = (deps: SearchDeps) => bind(deps, { places });
