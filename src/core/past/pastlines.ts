import { CHANNELS, type Channel } from '../channels';
import { CONTACT_ENDS, type ContactEnd, VISIT_ENDS, type VisitEnd } from '../measures/facts';
import { DUTY_STATES, type DutyState } from '../people/duty';

/**
 * What is brought in from before, or from elsewhere, a line at a time; the published schema is
 * `docs/formats/past.schema.json`. Names are as the file has them; instants are UTC ms.
 */
export type PastVisit = {
  readonly queue: string;
  readonly placedAt: number;
  readonly enteredAt: number;
  readonly endedAt: number;
  readonly goalSeconds: number | null;
  readonly ended: VisitEnd;
};
export type PastTurn = {
  readonly person: string;
  readonly acceptedAt: number;
  readonly endedAt: number;
  /** Null: made from what was said. */
  readonly handleSeconds: number | null;
  readonly outcome: string | null;
  readonly passedOn: boolean;
  /** The place of the visit that it answered. */
  readonly visit: number;
};
export type PastMessage = {
  readonly from: 'customer' | 'bot' | 'person';
  readonly person: string | null;
  readonly at: number;
  readonly text: string;
};
export type PastContact = {
  readonly kind: 'contact';
  /** What it is called where it comes from. */
  readonly id: string;
  readonly channel: Channel;
  readonly door: string;
  readonly language: string;
  readonly bot: string | null;
  readonly customer: string;
  readonly startedAt: number;
  readonly endedAt: number;
  readonly ended: ContactEnd;
  readonly visits: readonly PastVisit[];
  readonly turns: readonly PastTurn[];
  readonly messages: readonly PastMessage[];
};
/** How somebody was from an instant on. */
export type PastState = {
  readonly kind: 'state';
  readonly person: string;
  readonly at: number;
  readonly state: DutyState;
  readonly reason: string | null;
};
export type PastLine = PastContact | PastState;

/** Why a line is not taken, in a sentence. */
export class RefusedLine extends Error {}
const refuse = (why: string): never => {
  throw new RefusedLine(why);
};

/** So much, and no more, is kept in one turn of the main thread without holding it. */
const MOST = { name: 120, id: 120, text: 10_000, words: 200_000, visits: 50, turns: 50, messages: 1000 } as const;
/** Nothing is older than this: what reads so is a mistake in the file. */
const FIRST_AT = Date.UTC(1995, 0, 1);
/** A contact's last turn is over at most so long after it. */
const WRAP_MS = 86_400_000;

type Named = Readonly<Record<string, unknown>>;
const objectIn = (value: unknown, what: string): Named =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Named)
    : refuse(`${what} is missing.`);
const listIn = (value: unknown, what: string, most: number): readonly unknown[] => {
  if (value === undefined || value === null) return [];
  if (!Array.isArray(value)) return refuse(`${what} must be a list.`);
  return value.length > most ? refuse(`${what}: at most ${most} are taken.`) : value;
};
function textIn(of: Named, name: string, most: number = MOST.name): string {
  const value = of[name];
  if (typeof value !== 'string' || value.trim() === '') return refuse(`${name} is missing.`);
  return value.length > most ? refuse(`${name} is longer than ${most} characters.`) : value.trim();
}
const textOrNull = (of: Named, name: string): string | null =>
  of[name] === undefined || of[name] === null || of[name] === '' ? null : textIn(of, name);
function oneOf<T extends string>(of: Named, name: string, values: readonly T[]): T {
  const value = of[name];
  return values.find((one) => one === value) ?? refuse(`${name} must be one of ${values.join(', ')}.`);
}
/** An instant with its zone, ISO 8601. */
const INSTANT = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:?\d{2})$/;
function instantIn(of: Named, name: string): number {
  const text = textIn(of, name, 40);
  const at = INSTANT.test(text) ? Date.parse(text.replace(' ', 'T')) : NaN;
  if (Number.isNaN(at)) return refuse(`${name} must be an instant with its zone, like 2026-01-31T09:30:00Z.`);
  return at < FIRST_AT ? refuse(`${name} is before 1995.`) : at;
}
const instantOrNull = (of: Named, name: string): number | null =>
  of[name] === undefined || of[name] === null || of[name] === '' ? null : instantIn(of, name);
function secondsIn(of: Named, name: string, most: number): number | null {
  const value = of[name];
  if (value === undefined || value === null || value === '') return null;
  const seconds = typeof value === 'string' ? Number(value) : value;
  return typeof seconds === 'number' && seconds >= 0 && seconds <= most
    ? seconds
    : refuse(`${name} must be from 0 to ${most} seconds.`);
}
const DAYS_30 = 30 * 86_400;

/**
 * A line as it was written: a contact, or (with `state`) how somebody was. `now` is the present instant, UTC ms: nothing is
 * brought in from the future. Throws RefusedLine.
 */
export function pastLine(value: unknown, now: number): PastLine {
  const of = objectIn(value, 'An object');
  return 'state' in of ? stateIn(of, now) : contactIn(of, now);
}

function stateIn(of: Named, now: number): PastState {
  const at = instantIn(of, 'at');
  if (at > now) refuse('at is in the future.');
  return {
    kind: 'state',
    person: textIn(of, 'person'),
    at,
    state: oneOf(of, 'state', DUTY_STATES),
    reason: textOrNull(of, 'reason'),
  };
}

function contactIn(of: Named, now: number): PastContact {
  const startedAt = instantIn(of, 'startedAt');
  const endedAt = instantIn(of, 'endedAt');
  if (endedAt < startedAt) refuse('endedAt is before startedAt.');
  if (endedAt > now) refuse('endedAt is in the future: only what is over is brought in.');
  if (endedAt - startedAt > DAYS_30 * 1000) refuse('It is longer than 30 days.');
  const turns = listIn(of.turns, 'turns', MOST.turns).map((turn) => turnIn(objectIn(turn, 'A turn')));
  turns.sort((a, b) => a.acceptedAt - b.acceptedAt);
  const visits = listIn(of.visits, 'visits', MOST.visits)
    .map((visit) => visitIn(objectIn(visit, 'A visit'), turns))
    .sort((a, b) => a.enteredAt - b.enteredAt);
  const contact: PastContact = {
    kind: 'contact',
    id: textIn(of, 'id', MOST.id),
    channel: oneOf<Channel>(of, 'channel', CHANNELS),
    door: textIn(of, 'door'),
    language: languageIn(of),
    bot: textOrNull(of, 'bot'),
    customer: textIn(of, 'customer'),
    startedAt,
    endedAt,
    ended: oneOf<ContactEnd>(of, 'ended', CONTACT_ENDS),
    visits,
    turns: turns.map((turn) => ({ ...turn, visit: visitOf(turn.acceptedAt, visits) })),
    messages: listIn(of.messages, 'messages', MOST.messages)
      .map((message) => messageIn(objectIn(message, 'A message')))
      .sort((a, b) => a.at - b.at),
  };
  for (const { enteredAt, endedAt: over } of visits)
    if (enteredAt < startedAt || over < enteredAt || over > endedAt)
      refuse('A visit is outside the contact, or ends before it begins.');
  for (const { acceptedAt, endedAt: over } of turns)
    if (acceptedAt < startedAt || over < acceptedAt || over > endedAt + WRAP_MS || over > now)
      refuse('A turn is outside the contact, or ends before it begins.');
  for (const { at } of contact.messages)
    if (at < startedAt || at > endedAt) refuse('A message is outside the contact.');
  if (contact.messages.reduce((n, { text }) => n + text.length, 0) > MOST.words)
    refuse(`Its messages have more than ${MOST.words} characters together.`);
  return contact;
}

function languageIn(of: Named): string {
  const text = textIn(of, 'language', 40);
  return /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(text) ? text : refuse('language must be a tag such as en or es-MX.');
}

type Accepted = Pick<PastTurn, 'acceptedAt'>;
/** When an entry ended: as it says; when somebody accepted; or after the wait. The wait is from when the customer began to. */
function visitIn(of: Named, turns: readonly Accepted[]): PastVisit {
  const enteredAt = instantIn(of, 'enteredAt');
  const ended = oneOf<VisitEnd>(of, 'ended', VISIT_ENDS);
  const waited = secondsIn(of, 'waitedSeconds', DAYS_30);
  const accepted = ended === 'accepted' ? turns.find((turn) => turn.acceptedAt >= enteredAt)?.acceptedAt : undefined;
  const endedAt =
    instantOrNull(of, 'endedAt') ??
    accepted ??
    (waited === null ? refuse('A visit must say endedAt or waitedSeconds.') : enteredAt + waited * 1000);
  return {
    queue: textIn(of, 'queue'),
    enteredAt,
    endedAt,
    placedAt: waited === null ? enteredAt : Math.min(enteredAt, Math.round(endedAt - waited * 1000)),
    goalSeconds: secondsIn(of, 'goalSeconds', DAYS_30),
    ended,
  };
}

function turnIn(of: Named): Omit<PastTurn, 'visit'> {
  return {
    person: textIn(of, 'person'),
    acceptedAt: instantIn(of, 'acceptedAt'),
    endedAt: instantIn(of, 'endedAt'),
    handleSeconds: secondsIn(of, 'handleSeconds', DAYS_30),
    outcome: textOrNull(of, 'outcome'),
    passedOn: of.passedOn === true,
  };
}
/** A turn answers the last visit entered before it. */
function visitOf(acceptedAt: number, visits: readonly PastVisit[]): number {
  const place = visits.findLastIndex((visit) => visit.enteredAt <= acceptedAt);
  return place < 0 ? refuse('A turn has no visit that it answered: whoever had it, it came through a queue.') : place;
}

function messageIn(of: Named): PastMessage {
  const from = oneOf(of, 'from', ['customer', 'bot', 'person'] as const);
  const text = of.text;
  if (typeof text !== 'string' || text.length > MOST.text)
    return refuse(`A message’s text has at most ${MOST.text} characters.`);
  return { from, person: from === 'person' ? textOrNull(of, 'person') : null, at: instantIn(of, 'at'), text };
}
