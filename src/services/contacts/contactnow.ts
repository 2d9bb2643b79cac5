import type { ContactNow, ContactWorld } from '../../core/contact/contact';
import { callWindows } from '../../core/callbacks/windows';
import type { Channel } from '../../core/channels';
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
import { messageTimes } from '../../data/messages';
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
import { isNumberCode, isProvenNumber } from './givennumbers';
import { opened } from './privatevalues';
import type { RouterHere } from './routerhere';

/** What a contact and its world are read from. */
export type ContactDeps = {
  readonly host: Host;
  readonly here: RouterHere;
  readonly programs: Programs;
  readonly answers: BotAnswers;
};

/** The place in line of a contact that waits. */
export function waitingVisitOf(
  { host, here }: Pick<ContactDeps, 'host' | 'here'>,
  contactId: string,
): WaitingVisit | null {
  const open = visitsOf(host.db, contactId).find((v) => v.endedAt === null);
  return (open && here.router.floor.waiting.get(open.id)) ?? null;
}

/** What is kept of a contact's place in its bot's script cannot be read. */
export class UnreadablePlace extends Error {}

/** What has not been looked at yet. */
const UNREAD = Symbol('unread');
type Lazy<T> = T | typeof UNREAD;

/** The contact as its own step sees it, read as far as the step looks. Throws UnreadablePlace when it looks there. */
export class StoredContact implements ContactNow {
  readonly id: string;
  readonly doorId: string;
  readonly channel: Channel;
  language: string;
  bot: ContactNow['bot'];
  endedAt: number | null;
  #customer: Lazy<ContactNow['customer']> = UNREAD;
  #place: Lazy<ContactNow['place']> = UNREAD;
  #asking: Lazy<ContactNow['asking']> = UNREAD;
  #visit: Lazy<ContactNow['visit']> = UNREAD;
  #legs: Lazy<ContactNow['legs']> = UNREAD;
  #callback: Lazy<ContactNow['callback']> = UNREAD;
  readonly #deps: ContactDeps;
  readonly #customerId: string;

  constructor(deps: ContactDeps, row: Contact) {
    this.#deps = deps;
    this.#customerId = row.customerId;
    this.id = row.id;
    this.doorId = row.doorId;
    this.channel = row.channel;
    this.language = row.language;
    this.bot = row.botId !== null && row.botVersion !== null ? { id: row.botId, version: row.botVersion } : null;
    this.endedAt = row.endedAt;
  }
  get #db() {
    return this.#deps.host.db;
  }

  get customer() {
    if (this.#customer === UNREAD)
      this.#customer = readCustomer(this.#db, this.#customerId) ?? { address: '', name: null, vouched: false };
    return this.#customer;
  }
  get place() {
    if (this.#place === UNREAD)
      try {
        this.#place = readPlace(this.#deps, this.#db, this.id);
      } catch (error) {
        throw new UnreadablePlace('its place in the script could not be read', { cause: error });
      }
    return this.#place;
  }
  set place(place) {
    this.#place = place;
  }
  get asking() {
    if (this.#asking === UNREAD)
      try {
        this.#asking = readAsking(this.#db, this.id);
      } catch (error) {
        // What it was being asked cannot be read: it is asked nothing, and goes on waiting.
        this.#deps.host.fault(error);
        this.#asking = null;
      }
    return this.#asking;
  }
  set asking(asking) {
    this.#asking = asking;
  }
  get visit() {
    if (this.#visit === UNREAD) this.#visit = waitingVisitOf(this.#deps, this.id);
    return this.#visit;
  }
  set visit(visit) {
    this.#visit = visit;
  }
  get legs() {
    if (this.#legs === UNREAD) this.#legs = legsOf(this.#db, this.id).filter((l) => l.endedAt === null);
    return this.#legs;
  }
  set legs(legs) {
    this.#legs = legs;
  }
  get callback() {
    if (this.#callback === UNREAD) this.#callback = callbackOf(this.#db, this.id) ?? null;
    return this.#callback;
  }
  set callback(callback) {
    this.#callback = callback;
  }
  get outsideCallId() {
    return openPartnerCallOf(this.#db, this.id)?.id ?? null;
  }
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
    isProven: (number) => isProvenNumber(db, row.id, number),
    isCode: (number, code) => isNumberCode(db, row.id, number, code, host.times.real()),
    callWindows: ({ queue }) => {
      const hoursId = queue.hoursId ?? readDoor(db, row.doorId)?.hoursId ?? null;
      return callWindows(readAllHours(db).find((h) => h.id === hoursId) ?? null, now, 3);
    },
    doorAddress: () => readDoor(db, row.doorId)?.address ?? '',
    shownName: (personId) => readPerson(db, personId)?.shownName ?? '',
    signs: () => messageTimes(db, row.id),
    report: host.fault,
  };
}
