import { object, string } from 'yup';
import type { Channel } from '../../core/channels';
import { spokenNumber } from '../../core/messages/spokennumber';
import type { CallbackState } from '../../core/contact/contact';
import { stands } from '../../core/contact/promised';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { callbackOf, readCallback, readCallbacks } from '../../data/callbacks';
import { readContact } from '../../data/contacts';
import { readLeg } from '../../data/legs';
import { readPeople } from '../../data/people';
import { readQueue, readQueues } from '../../data/queuesettings';
import { openVisits } from '../../data/visits';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { customerName } from './contactstate';
import type { Dispatcher } from './dispatcher';

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
/** A message that was left and waits for somebody. */
export type MessageLine = {
  readonly contactId: string;
  readonly customer: string;
  readonly channel: Channel;
  readonly queue: string;
  readonly placedAt: number;
  readonly goalSeconds: number;
};
export type CallbacksView = {
  /** The one that has waited longest first. */ readonly messages: readonly MessageLine[];
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

/** Calls promised to customers, as leads see them. */
export type Callbacks = ReturnType<typeof createCallbacks>;

/** What the functions of this file are given first. */
export type CallbacksDeps = { readonly host: Host; readonly happen: Dispatcher['happen'] };

/** What rings or is talked on now for a contact. */
export function callingNow({ host }: Pick<CallbacksDeps, 'host'>, contactId: string): CallingNow | null {
  const callback = callbackOf(host.db, contactId);
  if (!callback || (callback.state !== 'dialling' && callback.state !== 'talking')) return null;
  return {
    callbackId: callback.id,
    number: spokenNumber(callback.number),
    state: callback.state,
    attempt: callback.attempts,
    of: callback.most ?? readQueue(host.db, callback.queueId)?.callback.attempts ?? callback.attempts,
  };
}

export const isPromised = ({ host }: Pick<CallbacksDeps, 'host'>, contactId: string): boolean =>
  stands(callbackOf(host.db, contactId) ?? null);

export function viewCallbacks({ host }: CallbacksDeps, actor: Actor): CallbacksView {
  mustHold(actor, 'floor.view');
  const now = host.times.floor();
  const scope = sightOf(host, actor);
  const queues = new Map(readQueues(host.db).map((q) => [q.id, q]));
  const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
  const all = readCallbacks(host.db, now - 7 * 86_400_000).filter((c) => scope.queues?.has(c.queueId) ?? true);
  const windowed = all.filter(
    (c) => c.untilAt !== null && (c.reachedAt !== null || c.endedAt !== null || c.untilAt < now),
  );
  const customerOf = (contactId: string): string => {
    const contact = readContact(host.db, contactId);
    return contact ? customerName(host.db, contact) : '';
  };
  return {
    now,
    messages: openVisits(host.db)
      .filter((v) => v.kind === 'message' && (scope.queues?.has(v.queueId) ?? true))
      .sort((a, b) => a.placedAt - b.placedAt)
      .map(({ contactId, channel, placedAt, goalSeconds, queueId }) => ({
        contactId,
        customer: customerOf(contactId),
        channel,
        queue: queues.get(queueId)?.name ?? '',
        placedAt,
        goalSeconds,
      })),
    mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
    inWindow: {
      of: windowed.length,
      kept: windowed.filter((c) => c.reachedAt !== null && c.untilAt !== null && c.reachedAt <= c.untilAt).length,
    },
    lines: all.map((c) => {
      const leg = c.callId === null ? undefined : readLeg(host.db, c.callId);
      return {
        id: c.id,
        contactId: c.contactId,
        customer: customerOf(c.contactId),
        number: spokenNumber(c.number),
        queue: queues.get(c.queueId)?.name ?? '',
        askedAt: c.askedAt,
        fromAt: c.fromAt,
        untilAt: c.untilAt,
        expiresAt: c.expiresAt,
        attempts: c.attempts,
        of: c.most ?? queues.get(c.queueId)?.callback.attempts ?? c.attempts,
        nextAt: c.nextAt,
        state: c.state,
        outcome: c.outcome,
        person: leg && (scope.people?.has(leg.personId) ?? true) ? (names.get(leg.personId) ?? null) : null,
      };
    }),
  };
}

/** A lead calls it off, or has it dialled as soon as somebody is free. */
export function changeCallback({ host, happen }: CallbacksDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const asked = parse(actSchema, input);
  return host.transact((tx) => {
    const callback = readCallback(tx.db, asked.id);
    if (!callback || callbackOf(tx.db, callback.contactId)?.id !== callback.id)
      throw new LaneError('not-now', 'This callback is over.');
    happen(tx, callback.contactId, { type: asked.act === 'cancel' ? 'call-off' : 'call-now' });
    return { id: callback.id };
  });
}

export const createCallbacks = (deps: CallbacksDeps) =>
  bind(deps, { view: viewCallbacks, change: changeCallback, callingNow, isPromised });
