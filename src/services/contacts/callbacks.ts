import { object, string } from 'yup';
import { spokenNumber } from '../../core/callbacks/dialogue';
import type { CallWindow } from '../../core/callbacks/windows';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import {
  type Callback,
  callbackOf,
  type CallbackState,
  readCallback,
  readCallbacks,
  writeCallback,
} from '../../data/callbacks';
import { type Contact, readContact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import { type Leg, readLeg } from '../../data/legs';
import { readPeople } from '../../data/people';
import { readQueue, readQueues } from '../../data/queuesettings';
import { clearTimer, setTimer } from '../../data/timers';
import { visitsOf } from '../../data/visits';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { scopeOf } from '../ground/scope';
import { parse } from '../ground/validate';
import type { LiveFloor } from './livefloor';

/** How long a customer's telephone rings, seconds of the floor. */
const RING_SECONDS = 25;
/** What the system files when a callback reaches nobody, and the rest of its own codes. */
export const SYSTEM_OUTCOMES = { 'no-answer': 'NOANSWER', busy: 'BUSY', wrong: 'WRONGNO' } as const;

const actSchema = exactly(
  object({ id: id('The callback'), act: string().oneOf(['cancel', 'now'], 'act must be cancel or now').required() }),
);

export type CallbackLine = {
  readonly id: string;
  readonly contactId: string;
  readonly customer: string;
  readonly number: string;
  readonly queue: string;
  readonly askedAt: number;
  readonly fromAt: number;
  readonly untilAt: number | null;
  readonly expiresAt: number;
  readonly attempts: number;
  readonly of: number;
  readonly nextAt: number | null;
  readonly state: CallbackState;
  readonly outcome: string | null;
  readonly person: string | null;
};
export type CallbacksView = {
  readonly lines: readonly CallbackLine[];
  readonly now: number;
  readonly mayChange: boolean;
  readonly inWindow: { readonly kept: number; readonly of: number };
};
/** A call to the customer that rings or is answered, for the Desk and the Handset. */
export type CallingNow = {
  readonly callbackId: string;
  readonly number: string;
  readonly state: 'dialling' | 'talking';
  readonly attempt: number;
  readonly of: number;
};

const OVER: readonly CallbackState[] = ['reached', 'expired', 'given-up', 'cancelled'];

/** Calls promised to customers: their windows, attempts, and the dialling itself over the stand-in telephone. */
export type Callbacks = ReturnType<typeof createCallbacks>;
export function createCallbacks(host: Host, floor: LiveFloor) {
  /** Ends legs after a call that reached nobody; set by the conversations, which own legs. */
  const legs: { over: (tx: Tx, leg: Leg, outcome: string) => void } = { over: () => undefined };
  const settingsOf = (queueId: string) => readQueue(host.db, queueId)?.callback;
  function put(tx: Tx, callback: Callback): void {
    writeCallback(tx.db, callback);
    tx.emit({
      type: 'callback.changed',
      contactId: callback.contactId,
      callbackId: callback.id,
      state: callback.state,
    });
    if (callback.nextAt === null) clearTimer(tx.db, 'callback-due', callback.id);
    else setTimer(tx.db, 'callback-due', callback.id, 'floor', callback.nextAt);
  }
  function end(
    tx: Tx,
    callback: Callback,
    state: Extract<CallbackState, 'reached' | 'expired' | 'given-up' | 'cancelled'>,
    outcome: string | null,
  ): void {
    put(tx, { ...callback, state, outcome: outcome ?? callback.outcome, nextAt: null, endedAt: tx.floorAt });
    const contact = readContact(tx.db, callback.contactId);
    if (contact && contact.endedAt === null && state !== 'reached')
      tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'callback' });
  }
  /** The call stands in line for somebody to take it, at the place the customer had. */
  function enter(tx: Tx, callback: Callback): void {
    put(tx, { ...callback, state: 'waiting', nextAt: callback.expiresAt });
    floor.enter(tx, {
      contactId: callback.contactId,
      queueId: settingsOf(callback.queueId)?.queueId ?? callback.queueId,
      placedAt: callback.placedAt,
      handOver: [],
      priority: 0,
      because: 'a callback was promised',
      callback: true,
    });
  }
  function notReached(tx: Tx, callback: Callback, why: 'no-answer' | 'busy'): void {
    const settings = settingsOf(callback.queueId);
    const attempts = callback.attempts;
    const leg = callback.callId === null ? undefined : readLeg(tx.db, callback.callId);
    const next = tx.floorAt + (settings?.spacingMinutes ?? 15) * 60_000;
    const over = attempts >= (settings?.attempts ?? 1) || next >= callback.expiresAt;
    if (over) end(tx, { ...callback, callId: null }, 'given-up', SYSTEM_OUTCOMES[why]);
    else put(tx, { ...callback, state: 'planned', callId: null, nextAt: next, outcome: SYSTEM_OUTCOMES[why] });
    if (leg) legs.over(tx, leg, SYSTEM_OUTCOMES[why]);
  }
  const live = (callback: Callback | undefined): Callback => {
    if (!callback || OVER.includes(callback.state)) throw new LaneError('not-now', 'This callback is over.');
    return callback;
  };

  return {
    legs,
    /** Keeps a promise made to a waiting customer: at once, or planned for its window. */
    promise(
      tx: Tx,
      p: { contactId: string; queueId: string; placedAt: number; number: string; window: CallWindow | null },
    ): void {
      const settings = settingsOf(p.queueId);
      const expiresAt = Math.max(tx.floorAt + (settings?.expiryHours ?? 24) * 3_600_000, p.window?.to ?? 0);
      const callback: Callback = {
        id: tx.ids('callback'),
        contactId: p.contactId,
        queueId: p.queueId,
        number: p.number,
        placedAt: p.placedAt,
        askedAt: tx.floorAt,
        fromAt: p.window?.from ?? tx.floorAt,
        untilAt: p.window?.to ?? null,
        expiresAt,
        attempts: 0,
        nextAt: p.window?.from ?? null,
        state: 'planned',
        callId: null,
        reachedAt: null,
        endedAt: null,
        outcome: null,
      };
      if (p.window) put(tx, callback);
      else enter(tx, callback);
    },
    /** Its time has come: the window begins, the next attempt is due, or it has waited too long. */
    due(tx: Tx, callbackId: string): void {
      const callback = readCallback(tx.db, callbackId);
      if (!callback || OVER.includes(callback.state)) return;
      if (tx.floorAt >= callback.expiresAt && callback.state !== 'dialling' && callback.state !== 'talking') {
        const visit = visitsOf(tx.db, callback.contactId).find((v) => v.endedAt === null);
        if (visit) floor.leave(tx, visit.id, 'closed-by-us');
        end(tx, callback, 'expired', null);
      } else if (callback.state === 'planned') enter(tx, callback);
    },
    /** Somebody took the call that was promised: it is dialled. */
    dial(tx: Tx, contactId: string, legId: string): void {
      const callback = callbackOf(tx.db, contactId);
      if (!callback || OVER.includes(callback.state)) return;
      put(tx, { ...callback, state: 'dialling', callId: legId, attempts: callback.attempts + 1, nextAt: null });
      setTimer(tx.db, 'dial-ends', legId, 'floor', tx.floorAt + RING_SECONDS * 1000);
    },
    /** The telephone rang to its end. Gives whether the call was a callback's. */
    rangOut(tx: Tx, callId: string): boolean {
      const leg = readLeg(tx.db, callId);
      const callback = leg && callbackOf(tx.db, leg.contactId);
      if (!callback || callback.callId !== callId) return false;
      if (callback.state === 'dialling') notReached(tx, callback, 'no-answer');
      return true;
    },
    /** The customer answers the telephone that rings, or turns the call away. */
    customerAnswers(tx: Tx, contact: Contact, answered: boolean): void {
      const callback = callbackOf(tx.db, contact.id);
      if (callback?.state !== 'dialling' || callback.callId === null)
        throw new LaneError('not-now', 'The telephone is not ringing any more.');
      clearTimer(tx.db, 'dial-ends', callback.callId);
      if (answered) put(tx, { ...callback, state: 'talking', reachedAt: tx.floorAt });
      else notReached(tx, callback, 'busy');
    },
    /** The leg of a callback is over; a person may have filed a wrong number. */
    legOver(tx: Tx, leg: Leg, outcome: string | null): void {
      const callback = callbackOf(tx.db, leg.contactId);
      if (!callback || callback.callId !== leg.id || OVER.includes(callback.state)) return;
      clearTimer(tx.db, 'dial-ends', leg.id);
      end(
        tx,
        callback,
        outcome === SYSTEM_OUTCOMES.wrong ? 'given-up' : callback.state === 'talking' ? 'reached' : 'given-up',
        outcome,
      );
    },
    /** What rings or is talked on now for a contact. */
    callingNow(contactId: string): CallingNow | null {
      const callback = callbackOf(host.db, contactId);
      if (!callback || (callback.state !== 'dialling' && callback.state !== 'talking')) return null;
      return {
        callbackId: callback.id,
        number: spokenNumber(callback.number),
        state: callback.state,
        attempt: callback.attempts,
        of: settingsOf(callback.queueId)?.attempts ?? callback.attempts,
      };
    },
    promised: (contactId: string): Callback | null => {
      const c = callbackOf(host.db, contactId);
      return c && !OVER.includes(c.state) ? c : null;
    },
    view(actor: Actor): CallbacksView {
      mustHold(actor, 'floor.view');
      const now = host.times.floor();
      const scope = scopeOf(host, actor);
      const queues = new Map(readQueues(host.db).map((q) => [q.id, q]));
      const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
      const all = readCallbacks(host.db, now - 7 * 86_400_000).filter((c) => scope.queues?.has(c.queueId) ?? true);
      const windowed = all.filter(
        (c) => c.untilAt !== null && (c.reachedAt !== null || c.endedAt !== null || c.untilAt < now),
      );
      return {
        now,
        mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
        inWindow: {
          of: windowed.length,
          kept: windowed.filter((c) => c.reachedAt !== null && c.untilAt !== null && c.reachedAt <= c.untilAt).length,
        },
        lines: all.map((c) => {
          const contact = readContact(host.db, c.contactId);
          const customer = contact && readCustomer(host.db, contact.customerId);
          const leg = c.callId === null ? undefined : readLeg(host.db, c.callId);
          return {
            id: c.id,
            contactId: c.contactId,
            customer: customer?.name ?? customer?.address ?? '',
            number: spokenNumber(c.number),
            queue: queues.get(c.queueId)?.name ?? '',
            askedAt: c.askedAt,
            fromAt: c.fromAt,
            untilAt: c.untilAt,
            expiresAt: c.expiresAt,
            attempts: c.attempts,
            of: queues.get(c.queueId)?.callback.attempts ?? c.attempts,
            nextAt: c.nextAt,
            state: c.state,
            outcome: c.outcome,
            person: leg && (scope.people?.has(leg.personId) ?? true) ? (names.get(leg.personId) ?? null) : null,
          };
        }),
      };
    },
    /** A lead calls it off, or has it dialled as soon as somebody is free. */
    change(actor: Actor, input: unknown): { id: string } {
      mustHoldEverywhere(actor, 'queues.change');
      const asked = parse(actSchema, input);
      return host.transact((tx) => {
        const callback = live(readCallback(tx.db, asked.id));
        if (callback.state === 'dialling' || callback.state === 'talking')
          throw new LaneError('not-now', 'The customer is being called this moment.');
        const visit = visitsOf(tx.db, callback.contactId).find((v) => v.endedAt === null);
        if (asked.act === 'cancel') {
          if (visit) floor.leave(tx, visit.id, 'closed-by-us');
          end(tx, callback, 'cancelled', null);
        } else if (callback.state === 'planned') enter(tx, callback);
        return { id: callback.id };
      });
    },
  };
}
