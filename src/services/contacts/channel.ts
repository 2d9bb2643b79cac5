import { timingSafeEqual } from 'node:crypto';
import { boolean, object, string } from 'yup';
import { imagePath } from '../../core/bots/conversation';
import type { Channel } from '../../core/channels';
import { musicFor, musicOnHold } from '../../core/contact/waiting';
import { LaneError } from '../../core/errors';
import { spokenParts } from '../../core/sound/recorded';
import { type Contact, earlierToken, openContactsOf, readContact } from '../../data/contacts';
import { readDoor, readDoors } from '../../data/doors';
import { customerAt } from '../../data/customers';
import { type Leg, legsOf } from '../../data/legs';
import { type MessageOption, messagesOf, transcriptEnd } from '../../data/messages';
import { readPerson } from '../../data/people';
import { readQueue } from '../../data/queuesettings';
import { readVisit } from '../../data/visits';
import { musicPath, recordedWords, soundPath } from '../bots/recordings';
import { doorOpenNow } from '../doors/opennow';
import { bind } from '../ground/bind';
import { once } from '../ground/once';
import { exactly, id, languageTag, requiredText, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import { hashToken, type Seal } from '../ground/tokens';
import type { Callbacks } from './callbacks';
import type { Contacts } from './contacts';
import { type ContactDeps, waitingVisitOf } from './contactnow';
import { contactState, type ContactState } from './contactstate';
import { opened } from './privatevalues';
import { mustOpen, type Speaker } from './speaker';

/** The interface that channels use: what a customer's side can do. Documented in docs/api.md and docs/openapi.json. */

const startSchema = exactly(
  object({
    door: id('The door'),
    from: requiredText(120, 'The address of the customer (from)'),
    name: text(80, 'The name').optional(),
    language: languageTag.optional(),
    proven: boolean().optional(),
    page: exactly(
      object({
        address: requiredText(2000, 'The address of the page').test(
          'page',
          'The address of the page must begin with http:// or https://',
          (address) => /^https?:\/\//i.test(address) && URL.canParse(address),
        ),
        place: text(100, 'The place').optional(),
      }),
    )
      .optional()
      .default(undefined),
  }),
);
const saySchema = exactly(
  object({
    text: string().max(4000, 'text may have at most 4000 characters').optional(),
    key: string()
      .matches(/^[0-9*#]$/, 'key must be one of 0–9, * and #')
      .optional(),
  }),
)
  .test('one', 'Send either text or key', (v) => (v.text === undefined) !== (v.key === undefined))
  .test('some', 'text is empty', (v) => v.text === undefined || v.text.trim() !== '');

const answerSchema = exactly(object({ answer: boolean().required('answer must be true or false') }));

export type PublicDoor = {
  readonly id: string;
  readonly name: string;
  readonly channel: Channel;
  readonly address: string;
  readonly languages: readonly string[];
  readonly open: boolean;
};
export type CustomerMessage = {
  readonly seq: number;
  readonly from: 'customer' | 'bot' | 'person';
  readonly name: string | null;
  readonly text: string;
  readonly options: readonly MessageOption[];
  readonly at: string;
  /** How it is spoken, where wording says more than its words; whether speaking may cut it short. */ readonly ssml:
    string | null;
  readonly mayInterrupt: boolean;
  /** On a call: the words part by part, each with its recording where there is one; null where nothing is recorded. */
  readonly spoken: readonly { readonly text: string; readonly recording: string | null }[] | null;
  /** A picture shown below the words. */ readonly image: { readonly url: string; readonly alt: string } | null;
};
export type CustomerSide = {
  readonly contact: string;
  readonly channel: Channel;
  readonly state: ContactState;
  readonly language: string;
  readonly seq: number;
  readonly messages: readonly CustomerMessage[];
  /** Whether there is more after `seq`. */ readonly more: boolean;
  /** Whether the person holds the call: nobody hears the customer. */
  readonly held: boolean;
  /** The loop that plays while a caller waits or is held; a call back to the customer that rings, or that was promised. */
  readonly music: string | null;
  readonly call: 'promised' | 'ringing' | 'answered' | 'message-left' | null;
  /** The number that rings or is talked on, as it is read back. */ readonly callNumber: string | null;
};

/** What starting a contact gives. */
export type Started = { readonly contact: string; readonly token: string } & Omit<CustomerSide, 'contact'>;

/** The most messages given at once; the rest is read by `after`. */
const PAGE = 200;
/** The most messages that one conversation may have, and the most that one customer may have going on. */
export const MOST_MESSAGES = 2000;
export const MOST_OPEN = 20;

/** What the functions of this file are given first. */
export type ChannelDeps = Pick<ContactDeps, 'host' | 'here'> & {
  readonly contacts: Contacts;
  readonly callbacks: Callbacks;
  readonly seal: Seal;
  /** Throws where whoever comes is blocked. */
  readonly turnAway: (customerId: string) => void;
  readonly limitNew: (speaker: Speaker) => Promise<void>;
};

/** A page's address without what stands after `#`, and without a name and password. */
function plainAddress(address: string): string {
  const url = new URL(address);
  [url.hash, url.username, url.password] = ['', '', ''];
  return url.href;
}

/** What only a contact's customer's side holds. It is not kept: it is made again whenever it is asked for. */
const tokenOf = ({ seal }: ChannelDeps, contactId: string): string => seal(`contact ${contactId}`);
const isSame = (a: string, b: string): boolean => timingSafeEqual(Buffer.from(hashToken(a)), Buffer.from(hashToken(b)));

function isToken(deps: ChannelDeps, contactId: string, token: string): boolean {
  if (isSame(token, tokenOf(deps, contactId))) return true;
  const earlier = earlierToken(deps.host.db, contactId);
  return earlier !== null && isSame(hashToken(token), earlier);
}

function mine(deps: ChannelDeps, contactId: string, token: string | null): Contact {
  const contact = readContact(deps.host.db, contactId);
  if (!contact) throw new LaneError('not-found', 'There is no contact with this id.');
  if (token === null || !isToken(deps, contactId, token))
    throw new LaneError('bad-token', 'The token does not belong to this contact.');
  return contact;
}

function callOf(deps: ChannelDeps, contactId: string): CustomerSide['call'] {
  const { callbacks } = deps;
  const now = callbacks.callingNow(contactId);
  return now
    ? now.state === 'dialling'
      ? 'ringing'
      : 'answered'
    : callbacks.isPromised(contactId)
      ? 'promised'
      : waitingVisitOf(deps, contactId)?.kind === 'message'
        ? 'message-left'
        : null;
}

function spokenOf({ host }: ChannelDeps, contact: Contact, text: string): CustomerMessage['spoken'] {
  const parts = spokenParts(text, contact.language, recordedWords(host));
  if (parts.every((p) => p.recorded === null)) return null;
  return parts.map((p) => ({ text: p.text, recording: p.recorded && soundPath(p.recorded.id) }));
}

const holdMusic = ({ host: { db } }: ChannelDeps, { visitId }: Leg): string =>
  musicOnHold(readQueue(db, readVisit(db, visitId)?.queueId ?? '') ?? null);

function side(deps: ChannelDeps, contact: Contact, afterSeq: number): CustomerSide {
  const found = messagesOf(deps.host.db, contact.id, afterSeq, PAGE + 1);
  const messages = found.slice(0, PAGE);
  const heldBy = legsOf(deps.host.db, contact.id).find((leg) => leg.endedAt === null && leg.line === 'held');
  return {
    contact: contact.id,
    channel: contact.channel,
    state: contactState(deps.host.db, contact),
    language: contact.language,
    seq: messages.at(-1)?.seq ?? afterSeq,
    more: found.length > PAGE,
    held: heldBy !== undefined,
    music: musicPath(deps.host, heldBy ? holdMusic(deps, heldBy) : musicFor(waitingVisitOf(deps, contact.id))),
    call: callOf(deps, contact.id),
    callNumber: deps.callbacks.callingNow(contact.id)?.number ?? null,
    messages: messages.map((m) => ({
      seq: m.seq,
      from: m.sender,
      name: m.personId === null ? null : (readPerson(deps.host.db, m.personId)?.shownName ?? null),
      text: opened(deps.host.db, contact.id, m.text),
      options: m.options,
      at: new Date(m.floorAt).toISOString(),
      ssml: m.ssml === null ? null : opened(deps.host.db, contact.id, m.ssml),
      mayInterrupt: m.mayInterrupt,
      image: m.image && { url: imagePath(m.image.id), alt: m.image.alt },
      spoken: contact.channel === 'voice' && m.sender === 'bot' ? spokenOf(deps, contact, m.text) : null,
    })),
  };
}

export function doorsForChannels({ host }: ChannelDeps): PublicDoor[] {
  return readDoors(host.db).map((door) => ({
    id: door.id,
    name: door.name,
    channel: door.channel,
    address: door.address,
    languages: door.languages,
    open: doorOpenNow(host, door).open,
  }));
}

/**
 * Starts a contact; the answer carries the token for all that follows. A server that has a key of the door vouches for the
 * address unless it says that it is not proven; for a browser nobody does.
 */
export function startContact(deps: ChannelDeps, speaker: Speaker, input: unknown, key: string | null): Started {
  const asked = parse(startSchema, input);
  if (speaker.kind === 'browser' && asked.proven === true)
    throw new LaneError('key-needed', 'Only a server that has a key of the door can say that an address is proven.');
  const vouched = speaker.kind !== 'browser' && asked.proven !== false;
  const at = readDoor(deps.host.db, asked.door);
  const coming = at && customerAt(deps.host.db, at.channel, asked.from, vouched);
  if (coming) deps.turnAway(coming.id);
  const { contactId } = once(deps.host, key, `start by ${speaker.name}`, asked, (tx) => {
    const door = readDoor(tx.db, asked.door);
    if (!door)
      throw new LaneError('not-found', `There is no door with the id ${asked.door}.`, [
        { where: 'door', what: 'is not known' },
      ]);
    mustOpen(speaker, door);
    const known = customerAt(tx.db, door.channel, asked.from, vouched);
    if (known && openContactsOf(tx.db, known.id) >= MOST_OPEN)
      throw new LaneError('slow-down', `There are ${MOST_OPEN} contacts going on from this address. End one first.`);
    return deps.contacts.arrive(tx, door, {
      address: asked.from,
      vouched,
      name: asked.name ?? null,
      language: asked.language ?? null,
      page: asked.page ? { address: plainAddress(asked.page.address), place: asked.page.place ?? null } : null,
    });
  });
  const token = tokenOf(deps, contactId);
  return { ...side(deps, mine(deps, contactId, token), 0), contact: contactId, token };
}

/** The same from outside: what one caller begins is counted. */
export async function beginContact(
  deps: ChannelDeps,
  speaker: Speaker,
  input: unknown,
  key: string | null,
): Promise<Started> {
  await deps.limitNew(speaker);
  return startContact(deps, speaker, input, key);
}

/** The customer says something; gives what is new with it. */
export function customerSaysBy(
  deps: ChannelDeps,
  contactId: string,
  token: string | null,
  input: unknown,
  key: string | null,
): CustomerSide {
  mine(deps, contactId, token);
  const asked = parse(saySchema, input);
  const before = once(deps.host, key, `contact ${contactId}`, asked, (tx) => {
    const { count, seq } = transcriptEnd(tx.db, contactId);
    if (count >= MOST_MESSAGES)
      throw new LaneError(
        'too-large',
        `A conversation has at most ${MOST_MESSAGES} messages. End this one and start another.`,
      );
    deps.contacts.happen(tx, mine(deps, contactId, token).id, {
      type: 'customer-says',
      input: asked.key !== undefined ? { type: 'key', key: asked.key } : { type: 'text', text: asked.text ?? '' },
    });
    return seq;
  });
  return side(deps, mine(deps, contactId, token), before);
}

/** The customer's telephone rings with a call that was promised: they answer it or turn it away. */
export function answerCall(
  deps: ChannelDeps,
  contactId: string,
  token: string | null,
  input: unknown,
  key: string | null,
): CustomerSide {
  mine(deps, contactId, token);
  const asked = parse(answerSchema, input);
  const before = once(deps.host, key, `contact ${contactId}`, asked, (tx) => {
    const { seq } = transcriptEnd(tx.db, contactId);
    deps.contacts.happen(tx, mine(deps, contactId, token).id, { type: 'customer-picks-up', answered: asked.answer });
    return seq;
  });
  return side(deps, mine(deps, contactId, token), before);
}

export function leaveContact(deps: ChannelDeps, contactId: string, token: string | null): CustomerSide {
  const before = deps.host.transact((tx) => {
    const { seq } = transcriptEnd(tx.db, contactId);
    deps.contacts.happen(tx, mine(deps, contactId, token).id, { type: 'customer-leaves' });
    return seq;
  });
  return side(deps, mine(deps, contactId, token), before);
}

export const readContactBy = (
  deps: ChannelDeps,
  contactId: string,
  token: string | null,
  afterSeq: number,
): CustomerSide => side(deps, mine(deps, contactId, token), afterSeq);

export const createChannel = (deps: ChannelDeps) =>
  bind(deps, {
    doors: doorsForChannels,
    start: startContact,
    begin: beginContact,
    say: customerSaysBy,
    answer: answerCall,
    leave: leaveContact,
    read: readContactBy,
  });
