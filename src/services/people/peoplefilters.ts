import { mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { KEPT_FILTERS } from '../../data/duty';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';

const filterSchema = exactly(
  object({
    id: string().nullable().defined(),
    name: requiredText(60, 'The name'),
    filter: mixed<Record<string, string>>()
      .required('The filter is missing')
      .test(
        'texts',
        'A filter is texts by name',
        (f) =>
          typeof f === 'object' &&
          Object.entries(f).length < 20 &&
          Object.entries(f).every(([k, v]) => k.length < 40 && typeof v === 'string' && v.length < 200),
      ),
  }),
);
const idSchema = exactly(object({ id: id('The filter') }));

/** What the functions of this file are given first. */
export type PeopleFiltersDeps = { readonly host: Host };

/** Keeps a filter by name for the actor alone. */
export function keepFilter({ host }: PeopleFiltersDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.view');
  const f = parse(filterSchema, input);
  return host.transact((tx) => {
    const mine = KEPT_FILTERS.all(tx.db).find((k) => k.ownerId === actor.personId && k.name === f.name);
    const filterId = mine?.id ?? tx.ids('filter');
    KEPT_FILTERS.write(tx.db, filterId, f.name, { ownerId: actor.personId, filter: f.filter });
    announce(tx, 'people-filter', filterId);
    return { id: filterId };
  });
}

export function dropFilter({ host }: PeopleFiltersDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.view');
  const asked = parse(idSchema, input);
  return host.transact((tx) => {
    if (KEPT_FILTERS.one(tx.db, asked.id)?.ownerId !== actor.personId)
      throw new LaneError('not-found', 'There is no such filter.');
    KEPT_FILTERS.remove(tx.db, asked.id);
    announce(tx, 'people-filter', asked.id);
    return { id: asked.id };
  });
}

/** Filters of the people pages that somebody keeps for themselves by name. */
export const createPeopleFilters = (deps: PeopleFiltersDeps) => bind(deps, { keepFilter, dropFilter });
