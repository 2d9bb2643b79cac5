import { holds } from '../../core/people/rights';
import { readPeople } from '../../data/people';
import { type Actor, actorOf, sees } from '../ground/actor';
import type { Host } from '../ground/host';

/** Whoever may open Review, and whom the actor may name: each is mailed what they may see. */
export const readersOf = (host: Pick<Host, 'db'>, actor: Actor): { readonly id: string; readonly name: string }[] =>
  readPeople(host.db)
    .filter((p) => p.active && sees(actor, p))
    .flatMap((p) => {
      const reader = actorOf(host.db, p.id);
      return reader && holds(reader, 'review.view') ? [{ id: p.id, name: p.name }] : [];
    });
