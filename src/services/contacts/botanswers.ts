import { stemsOf } from '../../core/articles/questions';
import { peopleAsked, type PeopleAsked, subjectThing } from '../../core/bots/conditions';
import { replyOfTable } from '../../core/bots/connectors';
import type { Reply, Request } from '../../core/bots/conversation';
import { FIGURES } from '../../core/bots/model';
import type { Value, Values } from '../../core/bots/value';
import type { Channel } from '../../core/channels';
import { type DutyState, isFree } from '../../core/people/duty';
import { wordsOf } from '../../core/phrases/tokens';
import type { Need } from '../../core/routing/needs';
import { queueFigure } from '../../core/routing/queuefigures';
import { findArticles } from '../../data/articles';
import { TABLES } from '../../data/connectors';
import { type Contact, contactsOfCustomer } from '../../data/contacts';
import { type Customer, customerAt, readCustomer } from '../../data/customers';
import type { Db } from '../../data/database';
import { readDoor } from '../../data/doors';
import { legsOf } from '../../data/legs';
import { originOf, pageOf } from '../../data/pages';
import { readPeople } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { lastDealtWith } from '../../data/routermemory';
import type { Hearing } from '../bots/understanding';
import { teamIdsOf } from '../people/peoplebook';
import { doorOpenNow, openNow } from '../doors/opennow';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import type { RouterHere } from './routerhere';

/** Articles are counted only when a fair part of the asked words stands in them. */
const LEAST_SHARE = 0.5;

/** The article of a language that answers a question best; null when nothing fits. */
export function articleFor(
  db: Db,
  query: string,
  language: string,
  seen: readonly string[],
): { readonly id: string; readonly title: string; readonly text: string } | null {
  const stems = stemsOf(query, language);
  const found = findArticles(db, stems, language.split('-')[0] ?? language, 5).filter((a) => !seen.includes(a.id));
  const share = (text: string): number => {
    const there = wordsOf(text, language);
    return stems.filter((s) => there.some((w) => w.startsWith(s))).length / stems.length;
  };
  const best = found.find((a) => share(`${a.title} ${a.text}`) >= LEAST_SHARE);
  return best ? { id: best.id, title: best.title, text: best.text } : null;
}

/** What a contact's bot is told by the workspace and the floor at once; what has to be asked outside is null. */
export type BotAnswers = ReturnType<typeof createBotAnswers>;

/** What the functions of this file are given first. */
export type BotAnswersDeps = {
  readonly host: Host;
  readonly here: Pick<RouterHere, 'router'>;
  readonly hearing: Pick<Hearing, 'now'>;
};

export function queueNamed({ host }: BotAnswersDeps, name: string): string | null {
  const wanted = name.trim().toLowerCase();
  return (
    host.remembered('queues', readQueues).find((q) => q.name.toLowerCase() === wanted || q.id === name)?.id ?? null
  );
}

/** Somebody who only says who they are is not known. */
const isKnown = (customer: Customer | undefined): boolean => customer?.vouched === true && customer.name !== null;

const dutyOf = ({ here }: BotAnswersDeps, personId: string | null): boolean =>
  personId !== null && here.router.floor.people.get(personId)?.duty === 'ready';

/** How many people are on duty or free, of a team or of all, or whether the one is who last dealt with the customer. */
function howMany(deps: BotAnswersDeps, contact: Contact, { who, place, are }: PeopleAsked): number {
  const { people } = deps.here.router.floor;
  const counts = (p: {
    readonly duty: string;
    readonly reachable: boolean;
    readonly open: { size: number };
    readonly pending: unknown;
  }) =>
    are === 'onDuty'
      ? p.duty === 'ready'
      : isFree({
          duty: p.duty as DutyState,
          reachable: p.reachable,
          openCount: p.open.size,
          asked: p.pending !== null,
        });
  if (who === 'last') {
    const last = people.get(lastDealtWith(deps.host.db, contact.customerId, 0) ?? '');
    return last && counts(last) ? 1 : 0;
  }
  const team =
    place === null
      ? null
      : deps.host.remembered(
          `people of ${place.id}`,
          (db) => new Set(readPeople(db).flatMap((p) => (teamIdsOf(p).includes(place.id) ? [p.id] : []))),
        );
  let n = 0;
  for (const [id, p] of people) if ((team === null || team.has(id)) && counts(p)) n++;
  return n;
}

function fact(deps: BotAnswersDeps, contact: Contact, subject: string, needs: readonly Need[]): Value | null {
  const now = deps.host.times.floor();
  switch (subject) {
    case 'open': {
      const door = readDoor(deps.host.db, contact.doorId);
      return door ? doorOpenNow(deps.host, door).open : null;
    }
    case 'customer.known':
      return isKnown(readCustomer(deps.host.db, contact.customerId));
    case 'customer.name':
      return readCustomer(deps.host.db, contact.customerId)?.name ?? null;
    case 'customer.earlier':
      return contactsOfCustomer(deps.host.db, contact.customerId, 1000).filter((c) => c.id !== contact.id).length;
    case 'page.address':
      return pageOf(deps.host.db, contact.id)?.address ?? null;
    case 'page.site': {
      const page = pageOf(deps.host.db, contact.id);
      return page && originOf(page);
    }
    case 'page.place':
      return pageOf(deps.host.db, contact.id)?.place ?? null;
    case 'person.minutesSinceReply': {
      const leg = contactsOfCustomer(deps.host.db, contact.customerId, 20)
        .flatMap((c) => legsOf(deps.host.db, c.id))
        .sort((a, b) => b.acceptedAt - a.acceptedAt)[0];
      return leg ? Math.floor((now - (leg.talkEndedAt ?? leg.firstReplyAt ?? leg.acceptedAt)) / 60_000) : null;
    }
  }
  const asked = peopleAsked(subject);
  if (asked && asked.place?.kind !== 'queue') return howMany(deps, contact, asked);
  const thing = subjectThing(subject);
  if (thing?.kind === 'hours') return openNow(deps.host, thing.id).open;
  const figure = thing && FIGURES.find((f) => f === thing.figure);
  if (!thing || !figure) return null;
  const { id: queueId, within } = thing;
  return queueFigure(deps.here.router, { queueId, channel: contact.channel, needs, figure, within }, now);
}

export function table({ host }: BotAnswersDeps, tableId: string, inputs: Values): Reply {
  const found = TABLES.one(host.db, tableId);
  return found ? replyOfTable(found, inputs) : { to: 'look-up', outcome: 'failed', outputs: {} };
}

export function answer(deps: BotAnswersDeps, contact: Contact, request: Request): Reply | null {
  switch (request.ask) {
    case 'facts':
      return {
        to: 'facts',
        facts: Object.fromEntries(request.subjects.map((s) => [s, fact(deps, contact, s, request.needs)])),
      };
    case 'figure': {
      const id = 'id' in request.queue ? request.queue.id : queueNamed(deps, request.queue.name);
      return {
        to: 'figure',
        figure:
          id === null
            ? null
            : queueFigure(
                deps.here.router,
                { ...request, queueId: id, channel: contact.channel },
                deps.host.times.floor(),
              ),
      };
    }
    case 'queue':
      return { to: 'queue', queueId: queueNamed(deps, request.name) };
    case 'identify': {
      const customer =
        request.address === null
          ? readCustomer(deps.host.db, contact.customerId)
          : (['voice', 'sms', 'messaging', 'chat'] as const satisfies readonly Channel[])
              .map((c) => customerAt(deps.host.db, c, request.address ?? '', true))
              .find((c) => c !== undefined);
      return customer?.name && isKnown(customer)
        ? { to: 'identify', known: true, values: { 'customer name': customer.name }, customerId: customer.id }
        : { to: 'identify', known: false, values: {} };
    }
    case 'person': {
      const { person } = request;
      const id =
        'id' in person
          ? person.id
          : 'last' in person
            ? lastDealtWith(deps.host.db, contact.customerId, 0)
            : (readPeople(deps.host.db).find(
                (p) =>
                  p.active &&
                  [p.name, p.shownName, p.id].some((n) => n.toLowerCase() === person.name.trim().toLowerCase()),
              )?.id ?? null);
      return { to: 'person', personId: id, onDuty: dutyOf(deps, id) };
    }
    case 'article':
      return { to: 'article', article: articleFor(deps.host.db, request.query, request.language, request.seen) };
    case 'meaning': {
      const meaning = deps.hearing.now(request);
      return meaning && { to: 'meaning', meaning };
    }
    case 'look-up': {
      if (request.source.from === 'connector') return null;
      return table(deps, request.source.tableId, request.inputs);
    }
    case 'do':
    case 'callback':
    case 'number':
    case 'code':
      return null;
  }
}

export const createBotAnswers = (deps: BotAnswersDeps) => bind(deps, { queueNamed, table, answer });
