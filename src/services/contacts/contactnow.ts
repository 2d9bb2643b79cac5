import type { ContactNow, ContactWorld } from '../../core/contact/contact';
import { callWindows } from '../../core/callbacks/windows';
import { localTime } from '../../core/hours/weekly';
import { expectedWait } from '../../core/routing/expectedwait';
import type { WaitingVisit } from '../../core/routing/floor';
import { before } from '../../core/routing/roster';
import { readAsking } from '../../data/askings';
import { readBot } from '../../data/bots';
import { callbackOf } from '../../data/callbacks';
import type { Contact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import { readDoor } from '../../data/doors';
import { readAllHours } from '../../data/hours';
import { legsOf } from '../../data/legs';
import { messagesOf } from '../../data/messages';
import { readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { openPartnerCallOf } from '../../data/routermemory';
import { valuesOf } from '../../data/values';
import { readVisit, visitsOf } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import type { Programs } from '../bots/programs';
import type { Host } from '../ground/host';
import type { BotAnswers } from './botanswers';
import { isField, isPrivate, readPlace } from './botplace';
import { opened } from './privatevalues';
import type { RouterHere } from './routerhere';

/** What a contact and its world are read from. */
export type ContactDeps = {
  readonly host: Host;
  readonly here: RouterHere;
  readonly programs: Programs;
  readonly answers: BotAnswers;
};

/** An object whose parts are read when they are first asked for; they may be replaced. */
function lazily<T extends object>(parts: { readonly [K in keyof T]: () => T[K] }): T {
  const made = {} as T;
  for (const key of Object.keys(parts) as (keyof T)[]) {
    const settle = (value: unknown) =>
      Object.defineProperty(made, key, { value, writable: true, enumerable: true, configurable: true });
    Object.defineProperty(made, key, {
      configurable: true,
      enumerable: true,
      get: () => {
        settle(parts[key]());
        return made[key];
      },
      set: settle,
    });
  }
  return made;
}

/** The place in line of a contact that waits. */
export function waitingVisitOf(
  { host, here }: Pick<ContactDeps, 'host' | 'here'>,
  contactId: string,
): WaitingVisit | null {
  const open = visitsOf(host.db, contactId).find((v) => v.endedAt === null);
  return (open && here.router.floor.waiting.get(open.id)) ?? null;
}

/** The contact as its own step sees it, read as far as the step looks. */
export function contactNow(deps: ContactDeps, row: Contact): ContactNow {
  const { db } = deps.host;
  return lazily<ContactNow>({
    id: () => row.id,
    doorId: () => row.doorId,
    channel: () => row.channel,
    customer: () => readCustomer(db, row.customerId) ?? { address: '', name: null },
    language: () => row.language,
    bot: () => (row.botId !== null && row.botVersion !== null ? { id: row.botId, version: row.botVersion } : null),
    endedAt: () => row.endedAt,
    place: () => readPlace(deps, db, row.id),
    asking: () => readAsking(db, row.id),
    visit: () => waitingVisitOf(deps, row.id),
    legs: () => legsOf(db, row.id).filter((l) => l.endedAt === null),
    callback: () => callbackOf(db, row.id) ?? null,
    outsideCallId: () => openPartnerCallOf(db, row.id)?.id ?? null,
  });
}

export function contactWorld(deps: ContactDeps, row: Contact): ContactWorld {
  const { host, here, programs, answers } = deps;
  const { db } = host;
  const now = host.times.floor();
  const workspace = host.remembered('workspace', readWorkspace);
  const zone = workspace?.zone ?? 'UTC';
  const queues = () => host.remembered('queues', readQueues);
  return {
    now,
    get local() {
      return localTime(now, zone);
    },
    zone,
    languages: workspace?.languages ?? ['en'],
    country: workspace?.country ?? '',
    newId: (prefix) => host.ids(prefix),
    queues,
    queueOfVisit: (visitId) => {
      const queueId = readVisit(db, visitId)?.queueId;
      return queues().find((q) => q.id === queueId) ?? null;
    },
    pastVisit: (visitId) => readVisit(db, visitId) ?? null,
    ahead: (visit) => {
      const others = [...here.router.floor.waiting.values()].filter(
        (v) => v.queue.id === visit.queue.id && v.channel === visit.channel,
      );
      const place = 1 + others.filter((v) => v !== visit && before(v, visit) < 0).length;
      return { place, seconds: expectedWait(here.router, visit.queue, visit.channel, place, now) };
    },
    bot: (id, version) => programs.of(id, version),
    liveVersion: (botId) => readBot(db, botId)?.liveVersion ?? null,
    answer: (request) => answers.answer(row, request),
    valuesKnown: () => Object.fromEntries(valuesOf(db, row.id).map((v) => [v.name, opened(db, row.id, v.value)])),
    isField: (name) => isField(host, name),
    isPrivate: (name) => isPrivate(host, name),
    callWindows: ({ queue }) => {
      const hoursId = queue.hoursId ?? readDoor(db, row.doorId)?.hoursId ?? null;
      return callWindows(readAllHours(db).find((h) => h.id === hoursId) ?? null, now, 3);
    },
    doorAddress: () => readDoor(db, row.doorId)?.address ?? '',
    shownName: (personId) => readPerson(db, personId)?.shownName ?? '',
    signs: () => messagesOf(db, row.id).map((m) => m.floorAt),
    report: host.fault,
  };
}
