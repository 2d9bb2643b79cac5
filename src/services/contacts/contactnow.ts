import type { Request } from '../../core/bots/conversation';
import type { ContactNow, ContactWorld } from '../../core/contact/contact';
import { callWindows } from '../../core/callbacks/windows';
import type { Channel } from '../../core/channels';
import { localTime } from '../../core/hours/weekly';
import { expectedWait } from '../../core/routing/expectedwait';
import type { Speech } from '../../core/messages/ssml';
import type { WaitingVisit } from '../../core/routing/floor';
import { saidSeconds } from '../../core/sound/recorded';
import type { QueueSettings } from '../../core/routing/queue';
import { before } from '../../core/routing/roster';
import { readAsking } from '../../data/askings';
import { mendedAs, readBot } from '../../data/bots';
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
import { readWorkspace, type Workspace } from '../../data/workspace';
import type { Programs } from '../bots/programs';
import { recordedWords } from '../bots/recordings';
import type { Host } from '../ground/host';
import type { BotAnswers } from './botanswers';
import type { InFrontNow } from './infront';
import { isField, isPrivate, readPlace } from './botplace';
import { isNumberCode, isProvenNumber } from './givennumbers';
import { botAskedFor } from './doorbots';
import { opened } from './privatevalues';
import type { RouterHere } from './routerhere';

/** What a contact and its world are read from. */
export type ContactDeps = {
  readonly host: Host;
  readonly here: RouterHere;
  readonly programs: Programs;
  readonly answers: BotAnswers;
  readonly inFront: InFrontNow;
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
  leftFor: ContactNow['leftFor'];
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
    this.leftFor = row.leftFor === null ? null : (JSON.parse(row.leftFor) as ContactNow['leftFor']);
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

/** What a contact's step may look at beside the contact, read as far as the step looks. */
export class StoredWorld implements ContactWorld {
  readonly now: number;
  readonly #deps: ContactDeps;
  readonly #contact: Contact;
  readonly #workspace: Workspace | undefined;

  constructor(deps: ContactDeps, contact: Contact) {
    this.#deps = deps;
    this.#contact = contact;
    this.now = deps.host.times.floor();
    this.#workspace = deps.host.remembered('workspace', readWorkspace);
  }
  get #db() {
    return this.#deps.host.db;
  }
  get #id() {
    return this.#contact.id;
  }

  get zone() {
    return this.#workspace?.zone ?? 'UTC';
  }
  get local() {
    return localTime(this.now, this.zone);
  }
  get languages() {
    return this.#workspace?.languages ?? ['en'];
  }
  get country() {
    return this.#workspace?.country ?? '';
  }
  newId(prefix: string) {
    return this.#deps.host.ids(prefix);
  }
  queues() {
    return this.#deps.host.remembered('queues', readQueues);
  }
  queueOfVisit(visitId: string) {
    const queueId = readVisit(this.#db, visitId)?.queueId;
    return this.queues().find((q) => q.id === queueId) ?? null;
  }
  pastVisit(visitId: string) {
    return readVisit(this.#db, visitId) ?? null;
  }
  ahead(visit: WaitingVisit) {
    const { router } = this.#deps.here;
    const others = [...router.floor.waiting.values()].filter(
      (v) => v.queue.id === visit.queue.id && v.channel === visit.channel && v.kind !== 'message',
    );
    const place = 1 + others.filter((v) => v !== visit && before(v, visit) < 0).length;
    return { place, seconds: expectedWait(router, visit, place, this.now) };
  }
  bot(id: string, version: number) {
    return this.#deps.programs.of(id, version);
  }
  mended(botId: string, version: number) {
    return this.#deps.host.remembered(`mended ${botId} ${version}`, (db) => mendedAs(db, botId, version));
  }
  liveVersion(botId: string) {
    return readBot(this.#db, botId)?.liveVersion ?? null;
  }
  saying(words: Speech, language: string) {
    return saidSeconds(words, language, recordedWords(this.#deps.host));
  }
  isOnDuty = (personId: string) => {
    const person = this.#deps.here.router.floor.people.get(personId);
    return person?.duty === 'ready' && person.reachable;
  };
  botAskedFor(doorId: string, text: string | null) {
    const { customerId, language } = this.#contact;
    return botAskedFor(this.#deps, doorId, text, {
      address: readCustomer(this.#db, customerId)?.address ?? '',
      language,
    });
  }
  answer(request: Request) {
    return this.#deps.answers.answer(this.#contact, request);
  }
  valuesKnown() {
    return Object.fromEntries(valuesOf(this.#db, this.#id).map((v) => [v.name, opened(this.#db, this.#id, v.value)]));
  }
  isField(name: string) {
    return isField(this.#deps.host, name);
  }
  isPrivate(name: string) {
    return isPrivate(this.#deps.host, name);
  }
  isProven(number: string) {
    return isProvenNumber(this.#db, this.#id, number);
  }
  isCode(number: string, code: string) {
    return isNumberCode(this.#db, this.#id, number, code, this.#deps.host.times.real());
  }
  callWindows({ hoursId: own }: Pick<QueueSettings, 'hoursId'>, count: number) {
    const hoursId = own ?? readDoor(this.#db, this.#contact.doorId)?.hoursId ?? null;
    return callWindows(readAllHours(this.#db).find((h) => h.id === hoursId) ?? null, this.now, count);
  }
  doorAddress() {
    return readDoor(this.#db, this.#contact.doorId)?.address ?? '';
  }
  shownName(personId: string) {
    return readPerson(this.#db, personId)?.shownName ?? '';
  }
  signs() {
    return messageTimes(this.#db, this.#id);
  }
  inFront({ id, personId }: { readonly id: string; readonly personId: string }) {
    return this.#deps.inFront.secondsOf(personId, id);
  }
  report(error: unknown) {
    this.#deps.host.fault(error);
  }
}
