import type { CallWindow } from '../callbacks/windows';
import { LaneError } from '../errors';
import { USUAL_CALLBACK, type CallbackSettings } from '../routing/queue';
import type { Callback, CallbackState, LegNow } from './contact';
import { end, enter, legOf, type Going } from './going';
import { ownNumber } from './numbers';
import { finishLeg, wrapUp } from './legs';

/** A call promised to a customer: its window, its attempts, and what becomes of it. */

/** How long a customer's telephone rings, seconds of the floor. */
const RING_SECONDS = 25;
/** What the system files when a call reaches nobody, and the rest of its own codes. */
export const SYSTEM_OUTCOMES = { 'no-answer': 'NOANSWER', busy: 'BUSY', wrong: 'WRONGNO' } as const;

type Over = Extract<CallbackState, 'reached' | 'expired' | 'given-up' | 'cancelled'>;
const OVER: readonly CallbackState[] = ['reached', 'expired', 'given-up', 'cancelled'] satisfies readonly Over[];
/** A promise that still stands. */
export const stands = (callback: Callback | null): callback is Callback =>
  callback !== null && !OVER.includes(callback.state);

const settingsOf = ({ world }: Going, queueId: string): CallbackSettings =>
  world.queues().find((q) => q.id === queueId)?.callback ?? USUAL_CALLBACK;

function put({ contact, acts }: Going, callback: Callback): void {
  contact.callback = callback;
  acts.push({ do: 'callback', callback });
  acts.push(
    callback.nextAt === null
      ? { do: 'forget', timer: 'callback-due', id: callback.id }
      : { do: 'remind', timer: 'callback-due', id: callback.id, at: callback.nextAt },
  );
}

function over(going: Going, callback: Callback, state: Over, outcome: string | null): void {
  put(going, {
    ...callback,
    state,
    outcome: outcome ?? callback.outcome,
    nextAt: null,
    endedAt: going.world.now,
  });
  if (state !== 'reached') end(going, 'callback');
}

/** The call stands in line for somebody to take it, at the place the customer had. */
function standInLine(going: Going, callback: Callback): void {
  put(going, { ...callback, state: 'waiting', nextAt: callback.expiresAt });
  enter(
    going,
    settingsOf(going, callback.queueId).queueId ?? callback.queueId,
    callback.placedAt,
    'a callback was promised',
    { kind: 'callback', handOver: callback.needs, priority: callback.priority },
  );
}

type Asked = Pick<Callback, 'queueId' | 'placedAt' | 'number' | 'needs' | 'priority' | 'most'> & {
  readonly window: CallWindow | null;
};
const made = (going: Going, { window, ...asked }: Asked): Callback => {
  const { contact, world } = going;
  return {
    ...asked,
    id: world.newId('callback'),
    contactId: contact.id,
    askedAt: world.now,
    fromAt: window?.from ?? world.now,
    untilAt: window?.to ?? null,
    expiresAt: Math.max(world.now + settingsOf(going, asked.queueId).expiryHours * 3_600_000, window?.to ?? 0),
    attempts: 0,
    nextAt: window?.from ?? null,
    state: 'planned',
    callId: null,
    reachedAt: null,
    endedAt: null,
    outcome: null,
  };
};

/** Keeps a promise made to a waiting customer: at once, or planned for its window. */
export function promise(going: Going, asked: Asked): void {
  const callback = made(going, asked);
  if (asked.window) put(going, callback);
  else standInLine(going, callback);
}

/** Somebody who has a message rings its customer, by the number that is known to be theirs. */
export function ringBack(going: Going, leg: LegNow): void {
  const { contact, world } = going;
  if (leg.talkEndedAt !== null) throw new LaneError('not-now', 'This conversation has ended; file its outcome.');
  if (stands(contact.callback)) throw new LaneError('not-now', 'This customer is being called already.');
  const number = ownNumber(contact);
  if (number === null) throw new LaneError('not-valid', 'There is no telephone number that is known to be theirs.');
  const visit = world.pastVisit(leg.visitId);
  const queueId = visit?.queueId ?? '';
  const placedAt = visit?.placedAt ?? world.now;
  put(
    going,
    made(going, { queueId, placedAt, number, window: null, needs: visit?.handOver ?? [], priority: 0, most: null }),
  );
  going.acts.push({ do: 'hold-as-call', legId: leg.id, personId: leg.personId });
  dial(going, leg.id);
}

function leaveLine({ contact, acts }: Going): void {
  if (contact.visit) acts.push({ do: 'leave', visitId: contact.visit.id, how: 'closed-by-us' });
  contact.visit = null;
}

/** Its time has come: the window begins, the next attempt is due, or it has waited too long. */
export function callDue(going: Going): void {
  const { callback } = going.contact;
  if (!stands(callback)) return;
  if (going.world.now >= callback.expiresAt && callback.state !== 'dialling' && callback.state !== 'talking') {
    leaveLine(going);
    over(going, callback, 'expired', null);
  } else if (callback.state === 'planned') standInLine(going, callback);
}

/** Somebody took the call that was promised: it is dialled. */
export function dial(going: Going, legId: string): void {
  const { callback } = going.contact;
  if (!stands(callback)) return;
  put(going, { ...callback, state: 'dialling', callId: legId, attempts: callback.attempts + 1, nextAt: null });
  going.acts.push({ do: 'ring', callId: legId, until: going.world.now + RING_SECONDS * 1000 });
}

function notReached(going: Going, callback: Callback, why: 'no-answer' | 'busy'): void {
  const settings = settingsOf(going, callback.queueId);
  const leg = callback.callId === null ? undefined : legOf(going, callback.callId);
  const next = going.world.now + settings.spacingMinutes * 60_000;
  if (callback.attempts >= (callback.most ?? settings.attempts) || next >= callback.expiresAt)
    over(going, { ...callback, callId: null }, 'given-up', SYSTEM_OUTCOMES[why]);
  else put(going, { ...callback, state: 'planned', callId: null, nextAt: next, outcome: SYSTEM_OUTCOMES[why] });
  if (!leg) return;
  if (leg.talkEndedAt === null) wrapUp(going, leg, false);
  finishLeg(going, legOf(going, leg.id) ?? leg, SYSTEM_OUTCOMES[why]);
}

/** The telephone rang to its end. Gives whether the call was a promised one. */
export function rangOut(going: Going, callId: string): void {
  const { callback } = going.contact;
  if (callback?.callId === callId && callback.state === 'dialling') notReached(going, callback, 'no-answer');
}

/** The customer answers the telephone that rings, or turns the call away. */
export function pickUp(going: Going, answered: boolean): void {
  const { callback } = going.contact;
  if (callback?.state !== 'dialling' || callback.callId === null)
    throw new LaneError('not-now', 'The telephone is not ringing any more.');
  going.acts.push({ do: 'forget', timer: 'dial-ends', id: callback.callId });
  if (answered) put(going, { ...callback, state: 'talking', reachedAt: going.world.now });
  else notReached(going, callback, 'busy');
}

/** The leg of a promised call is over; a person may have filed a wrong number. */
export function callLegOver(going: Going, leg: LegNow, outcome: string | null): void {
  const { callback } = going.contact;
  if (!stands(callback) || callback.callId !== leg.id) return;
  going.acts.push({ do: 'forget', timer: 'dial-ends', id: leg.id });
  const reached = callback.state === 'talking' && outcome !== SYSTEM_OUTCOMES.wrong;
  over(going, callback, reached ? 'reached' : 'given-up', outcome);
}

/** A lead calls it off, or has it dialled as soon as somebody is free. */
export function callByHand(going: Going, what: 'call-off' | 'call-now'): void {
  const { callback } = going.contact;
  if (!stands(callback)) throw new LaneError('not-now', 'This callback is over.');
  if (callback.state === 'dialling' || callback.state === 'talking')
    throw new LaneError('not-now', 'The customer is being called this moment.');
  if (what === 'call-off') {
    leaveLine(going);
    over(going, callback, 'cancelled', null);
  } else if (callback.state === 'planned') standInLine(going, callback);
}
