import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { plusDays, weekdayOf } from '../../core/hours/dates';
import { instantAt, localDate } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { KEPT_VIEWS } from '../../data/keptviews';
import { FIRST_VIEWS, MAIL_DAYS, MAILED_VIEWS, type MailDays, type MailedView } from '../../data/mailedviews';
import { readPerson } from '../../data/people';
import { clearTimer, setTimer } from '../../data/timers';
import { readWorkspace } from '../../data/workspace';
import { type Actor, actorOf, mustHold } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import type { Outbox } from '../ground/outbox';
import { exactly, id } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { Reading } from '../readings';
import { readersOf } from './readers';
import type { ViewText } from './viewtext';

/** When a view is mailed, by the workspace's own clock. */
const MORNING = '07:00';
const MOST_PEOPLE = 100;

export type MailedViewsDeps = {
  readonly host: Host;
  readonly reading: Reading;
  readonly outbox: Outbox;
  readonly linkTo: (path: string) => string;
};

const mailSchema = exactly(
  object({
    id: id('The view'),
    /** Null: it is mailed no longer. */
    days: string()
      .nullable()
      .defined('When it is mailed is missing')
      .test(
        'days',
        'It is mailed daily or on Mondays',
        (days) => days === null || MAIL_DAYS.some((one) => one === days),
      ),
    personIds: array(id('A person')).max(MOST_PEOPLE, `At most ${MOST_PEOPLE} people`).required('To whom is missing'),
  }),
);
const idSchema = exactly(object({ id: id('The view') }));
const firstSchema = exactly(object({ id: string().max(80).nullable().defined('The view is missing') }));

/** A view of the actor's own. */
function ownView(host: Pick<Host, 'db'>, actor: Actor, viewId: string) {
  const view = KEPT_VIEWS.one(host.db, viewId);
  if (view?.ownerId !== actor.personId) throw new LaneError('not-found', 'There is no such view of yours.');
  return view;
}

/** The next morning after an instant on which a view is mailed, and the local day it is. */
export function nextMail(at: number, days: MailDays, zone: string): { readonly day: string; readonly at: number } {
  for (let day = localDate(at, zone); ; day = plusDays(day, 1)) {
    const due = instantAt(zone, day, MORNING);
    if (due > at && (days === 'daily' || weekdayOf(day) === 1)) return { day, at: due };
  }
}

const zoneOf = ({ db }: Pick<Host, 'db'>): string => readWorkspace(db)?.zone ?? 'UTC';
const keep = (tx: Tx, viewId: string, mailed: MailedView): void => MAILED_VIEWS.write(tx.db, viewId, viewId, mailed);
const setNext = (tx: Tx, viewId: string, days: MailDays): void =>
  setTimer(tx.db, 'view-mail', viewId, 'floor', nextMail(tx.floorAt, days, zoneOf(tx)).at);

/** Has a view of one's own mailed each morning, or on Mondays, or no longer. */
export function mailView({ host }: MailedViewsDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const { id: viewId, personIds, ...asked } = parse(mailSchema, input);
  const days = asked.days as MailDays | null;
  ownView(host, actor, viewId);
  const may = new Set(readersOf(host, actor).map((p) => p.id));
  const stranger = personIds.find((personId) => !may.has(personId));
  if (stranger !== undefined)
    throw new LaneError('not-valid', 'Only people of your teams who may open Review are mailed.', [
      { where: 'personIds', what: 'may not open Review' },
    ]);
  return host.transact((tx) => {
    if (days === null || personIds.length === 0) {
      MAILED_VIEWS.remove(tx.db, viewId);
      clearTimer(tx.db, 'view-mail', viewId);
      return { id: viewId };
    }
    const before = MAILED_VIEWS.one(tx.db, viewId);
    // Whoever is added now has the next mail, not one that was due before.
    keep(tx, viewId, { days, personIds, due: null, had: before?.had ?? {} });
    setNext(tx, viewId, days);
    return { id: viewId };
  });
}

export type MailingView = {
  readonly days: MailDays | null;
  readonly personIds: readonly string[];
  readonly people: readonly { readonly id: string; readonly name: string }[];
};
/** How a view of one's own is mailed, and to whom it could be. */
export function viewMailing({ host }: MailedViewsDeps, actor: Actor, input: unknown): MailingView {
  mustHold(actor, 'review.view');
  const { id: viewId } = parse(idSchema, input);
  ownView(host, actor, viewId);
  const mailed = MAILED_VIEWS.one(host.db, viewId);
  const people = readersOf(host, actor);
  const known = new Set(people.map((p) => p.id));
  return {
    days: mailed?.days ?? null,
    personIds: (mailed?.personIds ?? []).filter((personId) => known.has(personId)),
    people,
  };
}

/** Begins Review with a kept view, one's own or everybody's, or with the last seven days again. */
export function beginWithView(host: Host, actor: Actor, input: unknown): { id: string | null } {
  mustHold(actor, 'review.view');
  const { id: viewId } = parse(firstSchema, input);
  const view = viewId === null ? undefined : KEPT_VIEWS.one(host.db, viewId);
  if (viewId !== null && !(view && (view.forAll || view.ownerId === actor.personId)))
    throw new LaneError('not-found', 'There is no such view that you may open.');
  return host.transact((tx) => {
    if (viewId === null) FIRST_VIEWS.remove(tx.db, actor.personId);
    else FIRST_VIEWS.write(tx.db, actor.personId, actor.personId, { viewId });
    return { id: viewId };
  });
}

/** The morning has come: its mail is due, and the next is set. Call inside the transaction of the timer. */
export function mailDue(deps: MailedViewsDeps, tx: Tx, viewId: string): void {
  const mailed = MAILED_VIEWS.one(tx.db, viewId);
  if (!mailed || !KEPT_VIEWS.one(tx.db, viewId)) return MAILED_VIEWS.remove(tx.db, viewId);
  keep(tx, viewId, { ...mailed, due: localDate(tx.floorAt, zoneOf(tx)) });
  setNext(tx, viewId, mailed.days);
  tx.onceKept(() => void sendMail(deps, viewId));
}

/** Mails what is due of a view to whoever has not had it yet; whom it cannot be read for is left out until the next morning. */
export async function sendMail(deps: MailedViewsDeps, viewId: string): Promise<void> {
  const { host, reading } = deps;
  const mailed = MAILED_VIEWS.one(host.db, viewId);
  const day = mailed?.due;
  if (!mailed || !day) return;
  for (const personId of mailed.personIds.filter((one) => mailed.had[one] !== day)) {
    const reader = actorOf(host.db, personId);
    const text =
      reader && holds(reader, 'review.view')
        ? await reading('view-text', reader, { id: viewId }).catch((error: unknown) => {
            if (!(error instanceof LaneError)) host.fault(error);
            return null;
          })
        : null;
    if (!host.db.open) return;
    host.transact((tx) => {
      const now = MAILED_VIEWS.one(tx.db, viewId);
      if (!now || now.had[personId] === day) return;
      keep(tx, viewId, { ...now, had: { ...now.had, [personId]: day } });
      const address = readPerson(tx.db, personId)?.email;
      if (text && address) deps.outbox.mail(tx, address, `${text.name}: ${text.range}`, bodyOf(deps, text));
    });
  }
}
const bodyOf = ({ linkTo }: MailedViewsDeps, { name, range, lines, path }: ViewText): string =>
  `${name}\n${range}\n\n${lines.join('\n')}\n\n${linkTo(path)}\n\nWhoever kept this view had it mailed to you.`;

/** After a start: what was due and has not been mailed to everybody is. */
export async function resumeMails(deps: MailedViewsDeps): Promise<void> {
  for (const mailed of MAILED_VIEWS.all(deps.host.db)) await sendMail(deps, mailed.id);
}
