import { readLeg } from '../../data/legs';
import { readPartnerCall } from '../../data/routermemory';
import { clearTimer, dueNow, dueTimers, nextTimer, setAside, type Timer, timersAside } from '../../data/timers';
import { offeredTo } from '../../data/visits';
import type { Bots } from '../bots/bots';
import { backOffMs } from '../ground/backoff';
import { timed } from '../ground/holds';
import { byHandOver } from '../doors/byhand';
import type { Host, Tx } from '../ground/host';
import type { Outbox } from '../ground/outbox';
import { askDue } from './asks';
import type { Dispatcher } from './dispatcher';
import type { LiveFloor } from './livefloor';
import { callbackContact } from '../../data/callbacks';

/** What timers stand on. */
export type TimersDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly dispatcher: Dispatcher;
  readonly outbox: Outbox;
  readonly bots: Pick<Bots, 'goesLive'>;
  /** Mails the kept views that are due. */
  readonly review: { readonly mailDue: (tx: Tx, viewId: string) => void };
  readonly plans: { readonly due: (tx: Tx, which: 'begins' | 'ends', planId: string) => void };
};

/**
 * Runs what is due, each in a transaction of its own, in the order it was due. After a stop, overdue ones run with
 * now as their instant. One that fails is set aside for a while with why, and keeps none of those behind it waiting.
 */
export function createTimers(deps: TimersDeps) {
  const { host } = deps;

  function attempt(timer: Timer): void {
    try {
      host.transact((tx) => {
        clearTimer(tx.db, timer.kind, timer.thingId);
        ring(deps, tx, timer);
      });
    } catch (error) {
      host.fault(error);
      const reason = error instanceof Error ? error.message : 'it failed';
      host.transact((tx) => setAside(tx.db, timer, reason, tx.realAt + backOffMs(timer.attempts + 1)));
    }
  }

  return {
    /**
     * Runs what is due now. With a `budgetMs`, stops when so many real ms have been spent; gives whether something is
     * left.
     */
    runDue(budgetMs = Infinity): boolean {
      const until = performance.now() + budgetMs;
      const due = dueTimers(host.db, host.times.real(), host.times.floor());
      for (const [i, timer] of due.entries()) {
        timed(`timer ${timer.kind}`, () => attempt(timer));
        if (i + 1 < due.length && performance.now() >= until) return true;
      }
      return false;
    },
    /** The next due instants on both clocks, or null. */
    next: (): { real: number | null; floor: number | null } => ({
      real: nextTimer(host.db, 'real'),
      floor: nextTimer(host.db, 'floor'),
    }),
    /** What could not be done when it was due, and is tried again. */
    aside: (): Timer[] => timersAside(host.db),
    /** Tries one of these now. Gives whether it is still there. */
    tryNow: (seq: number): boolean => host.transact((tx) => dueNow(tx.db, seq, tx.realAt)),
  };
}

function ring({ floor, dispatcher, outbox, bots, review, plans }: TimersDeps, tx: Tx, { kind, thingId }: Timer): void {
  const { happen, advances, asks } = dispatcher;
  switch (kind) {
    case 'offer-expires': {
      const personId = offeredTo(tx.db, thingId);
      if (personId) floor.turnDown(tx, personId, 'missed');
      return;
    }
    case 'visit-due':
      return floor.due(tx, 'visit', thingId);
    case 'group-due':
      return floor.due(tx, 'group', thingId);
    case 'person-due':
      return floor.due(tx, 'person', thingId);
    case 'partner-due':
      return floor.due(tx, 'partner', thingId);
    case 'number-due':
      return floor.due(tx, 'number', thingId);
    case 'dial-answered':
      return void advances(tx, { type: 'dial-ended', callId: thingId, how: 'answered' });
    case 'dial-ends': {
      // A call to a customer is known by the leg of whoever dials.
      const leg = readLeg(tx.db, thingId);
      if (leg) return happen(tx, leg.contactId, { type: 'rang-out', callId: thingId });
      const call = readPartnerCall(tx.db, thingId);
      if (!call || call.endedAt !== null) return;
      return void advances(
        tx,
        call.answeredAt === null
          ? { type: 'dial-ended', callId: thingId, how: 'no-answer' }
          : { type: 'partner-done', callId: thingId },
      );
    }
    case 'callback-due': {
      const contactId = callbackContact(tx.db, thingId);
      if (contactId !== null) happen(tx, contactId, { type: 'call-due' });
      return;
    }
    case 'bot-waits':
      return happen(tx, thingId, { type: 'silence' });
    case 'bot-slow':
      return happen(tx, thingId, { type: 'slow' });
    case 'outside-answers':
      return askDue(asks, tx, thingId);
    case 'bot-goes-live':
      return bots.goesLive(tx, thingId);
    case 'leg-rests':
      return floor.legRests(tx, thingId);
    case 'person-changes':
      return floor.personDue(tx, thingId);
    case 'wrap-up-ends': {
      const leg = readLeg(tx.db, thingId);
      if (leg && leg.endedAt === null) happen(tx, leg.contactId, { type: 'wrap-up-over', legId: thingId });
      return;
    }
    case 'post-due':
      return tx.onceKept(() => outbox.sendPost(Number(thingId)));
    case 'view-mail':
      return review.mailDue(tx, thingId);
    case 'door-by-hand':
      return byHandOver(tx, thingId);
    case 'plan-begins':
      return plans.due(tx, 'begins', thingId);
    case 'plan-ends':
      return plans.due(tx, 'ends', thingId);
  }
}
