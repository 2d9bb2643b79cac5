import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { daysBetween, plusDays } from '../../core/hours/dates';
import { KEPT_VIEWS } from '../../data/keptviews';
import { FIRST_VIEWS, MAILED_VIEWS } from '../../data/mailedviews';
import { clearTimer } from '../../data/timers';
import { readWorkspace } from '../../data/workspace';
import { localDate } from '../../core/hours/weekly';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { askedOf, NARROWED_BY } from './asking';

const PATH = /^\/review(\/[a-z]{1,20}(\/[^/?#\s]{1,200})?)?$/;
const keepSchema = exactly(
  object({
    name: requiredText(60, 'The name'),
    forAll: boolean().required('It must be said for whom it is kept'),
    path: string().matches(PATH, 'Only pages of Review are kept').required('The page is missing'),
    /** What is asked, as it stands in the address. */
    asked: string().max(20_000, 'That is too much to keep').defined(),
  }),
);
const dropSchema = exactly(object({ id: id('The view') }));

/** A view by name, and where it leads today. */
export type KeptView = {
  readonly id: string;
  readonly name: string;
  readonly href: string;
  readonly mine: boolean;
  readonly forAll: boolean;
  /** Whose it is, where it is somebody else's. */
  readonly owner: string | null;
  /** Whether Review begins with it. */
  readonly first: boolean;
};

/**
 * Keeps a page of Review with what it is asked. A range that ends today is kept as so many days up to the day on which it is
 * opened, any other as it is. One's own view of the same name is kept anew.
 */
export function keepView(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const { name, forAll, path, asked } = parse(keepSchema, input);
  const { now, today, address } = askedOf(host, actor, Object.fromEntries(new URLSearchParams(asked)));
  const days = now.to === today ? { last: daysBetween(now.from, now.to) + 1 } : { from: now.from, to: now.to };
  const narrowed = Object.fromEntries(
    [...NARROWED_BY, 'clock', 'hours'].flatMap((key) => (address[key] ? [[key, address[key]]] : [])),
  );
  return host.transact((tx) => {
    const mine = KEPT_VIEWS.all(tx.db).find((k) => k.ownerId === actor.personId && k.name === name);
    const viewId = mine?.id ?? tx.ids('view');
    KEPT_VIEWS.write(tx.db, viewId, name, { ownerId: actor.personId, forAll, path, address: narrowed, days });
    return { id: viewId };
  });
}

/** Of which kind a kept page is, and of which thing where it is of one; a part that cannot be read names nothing. */
export function pageOf(path: string): { readonly kind: string | null; readonly thing: string | undefined } {
  const [, , kind, thing] = path.split('/');
  try {
    return { kind: kind ?? null, thing: thing === undefined ? undefined : decodeURIComponent(thing) };
  } catch {
    return { kind: kind ?? null, thing };
  }
}

/** Forgets a view of one's own. */
export function dropView(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const asked = parse(dropSchema, input);
  return host.transact((tx) => {
    if (KEPT_VIEWS.one(tx.db, asked.id)?.ownerId !== actor.personId)
      throw new LaneError('not-found', 'There is no such view of yours.');
    KEPT_VIEWS.remove(tx.db, asked.id);
    MAILED_VIEWS.remove(tx.db, asked.id);
    clearTimer(tx.db, 'view-mail', asked.id);
    for (const one of FIRST_VIEWS.all(tx.db)) if (one.viewId === asked.id) FIRST_VIEWS.remove(tx.db, one.id);
    return { id: asked.id };
  });
}

/** One's own views and those that are kept for all (`all`: everybody's), by name; each leads to what its reader may see. */
export function keptViewsOf(host: Host, actor: Actor, today: string, all = false): KeptView[] {
  const first = FIRST_VIEWS.one(host.db, actor.personId)?.viewId;
  const { names } = sightOf(host, actor);
  return KEPT_VIEWS.all(host.db)
    .filter((view) => all || view.forAll || view.ownerId === actor.personId)
    .map(({ id: viewId, name, ownerId, forAll, path, address, days }) => {
      const range = 'last' in days ? { from: plusDays(today, 1 - days.last), to: today } : days;
      const mine = ownerId === actor.personId;
      return {
        id: viewId,
        name,
        href: `${path}?${new URLSearchParams({ ...range, ...address }).toString()}`,
        mine,
        forAll,
        owner: mine ? null : (names.get(ownerId) ?? 'somebody'),
        first: viewId === first,
      };
    })
    .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}

/** Where Review begins for somebody: the address of the view that they chose; null for the last seven days. */
export function firstView(host: Host, actor: Actor): string | null {
  mustHold(actor, 'review.view');
  const today = localDate(host.times.floor(), readWorkspace(host.db)?.zone ?? 'UTC');
  return keptViewsOf(host, actor, today).find((view) => view.first)?.href ?? null;
}
