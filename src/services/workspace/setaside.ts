import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { readContact } from '../../data/contacts';
import { failedItems } from '../../data/outbox';
import { unreadable } from '../../data/readable';
import type { Timer, TimerKind } from '../../data/timers';
import { customerName } from '../contacts/contactstate';
import type { createTimers } from '../contacts/timers';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

/** What went wrong and was set aside so that everything else goes on: named, with why, and tried again. */
export type SetAside = ReturnType<typeof createSetAside>;

/** What the functions of this file are given first. */
export type SetAsideDeps = {
  readonly host: Host;
  readonly timers: Pick<ReturnType<typeof createTimers>, 'aside' | 'tryNow'>;
};

/** One of these, in words. `timer` is the one that a press tries at once. */
export type Aside = {
  readonly id: string;
  readonly about: string;
  readonly says: string;
  readonly path: string;
  readonly timer: number | null;
};

const WHAT: Readonly<Record<TimerKind, string>> = {
  'offer-expires': 'an offer could not be ended',
  'visit-due': 'its wait clock stands still',
  'group-due': 'a group’s limits could not be looked at',
  'person-due': 'a person’s limits could not be looked at',
  'partner-due': 'a partner desk’s limits could not be looked at',
  'number-due': 'an outside number’s limits could not be looked at',
  'dial-answered': 'an answered call could not be put through',
  'dial-ends': 'a call could not be ended',
  'callback-due': 'a promised call could not be begun',
  'wrap-up-ends': 'wrap-up could not be ended',
  'leg-rests': 'a quiet conversation could not be put to rest',
  'person-changes': 'another profile or a skill’s end could not be taken up',
  'bot-waits': 'the bot could not go on after a silence',
  'bot-slow': 'the bot could not say that it takes longer',
  'outside-answers': 'an answer from outside could not be taken',
  'bot-goes-live': 'a planned version could not go live',
  'post-due': 'a message could not be sent',
  'view-mail': 'a kept view could not be mailed',
  'door-by-hand': 'a door set by hand could not be left to its hours again',
  'plan-begins': 'a planned change could not begin',
  'plan-ends': 'a planned change could not end',
};

const of = (reason: string): string => (/[.!?]$/.test(reason) ? reason : `${reason}.`);
const times = (n: number): string => (n === 1 ? 'once' : `${n} times`);

/** The contact that a timer is about, where it is one. */
const contactOf = ({ host }: SetAsideDeps, { kind, thingId }: Timer) =>
  kind === 'bot-waits' || kind === 'bot-slow' || kind === 'outside-answers' ? readContact(host.db, thingId) : undefined;

/** Everything that is set aside now. */
export function asides(deps: SetAsideDeps): Aside[] {
  const { db } = deps.host;
  return [
    ...deps.timers
      .aside()
      .filter((t) => t.kind !== 'post-due')
      .map((timer): Aside => {
        const contact = contactOf(deps, timer);
        return {
          id: `timer|${timer.seq}`,
          about: contact ? customerName(db, contact) : 'Something due',
          says: `Tried ${times(timer.attempts)}: ${WHAT[timer.kind]}. ${of(timer.reason ?? '')}`,
          path: contact ? `/contacts/${contact.id}` : '/',
          timer: timer.seq,
        };
      }),
    ...failedItems(db).flatMap((item): Aside[] =>
      item.kind === 'post'
        ? [
            {
              id: `post|${item.id}`,
              about: `To ${item.body.address}`,
              says: `Tried ${times(item.attempts)}: a ${item.body.medium} could not be sent. ${of(item.reason ?? '')}`,
              path: '/mailbox',
              timer:
                deps.timers.aside().find((t) => t.kind === 'post-due' && t.thingId === String(item.id))?.seq ?? null,
            },
          ]
        : [],
    ),
    ...unreadable(db).map((row): Aside => ({
      id: `row|${row.kind}|${row.id}`,
      about: row.name || row.id,
      says: `This ${row.kind} cannot be read and is left out (${row.reason}). Put an earlier version back in History.`,
      path: '/history',
      timer: null,
    })),
  ];
}

export const mayTryAgain = (actor: Actor): boolean => holds(actor, 'queues.change') && actor.teams === 'all';

const trySchema = exactly(object({ timer: whole(1, Number.MAX_SAFE_INTEGER, 'The number').required() }));

/** Tries something set aside now. Throws `not-found` when it has been done meanwhile. */
export function tryAgain(deps: SetAsideDeps, actor: Actor, input: unknown): { done: true } {
  mustHoldEverywhere(actor, 'queues.change');
  if (!deps.timers.tryNow(parse(trySchema, input).timer))
    throw new LaneError('not-found', 'It has been done meanwhile.');
  return { done: true };
}

export const createSetAside = (deps: SetAsideDeps) => bind(deps, { asides, tryAgain });
