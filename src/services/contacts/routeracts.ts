import { isText } from '../../core/channels';
import { MISSED } from '../../core/people/duty';
import type { Act, LeftHow } from '../../core/routing/acts';
import type { StageAct } from '../../core/routing/clock';
import { expand } from '../../core/routing/decision';
import type { WaitingVisit } from '../../core/routing/floor';
import type { Onward } from '../../core/routing/onward';
import { goalOf } from '../../core/routing/queue';
import { readPerson, setActive } from '../../data/people';
import { clearTimer, setTimer } from '../../data/timers';
import { writeDecision } from '../../data/visits';
import { announce } from '../ground/change';
import type { Tx } from '../ground/host';

/**
 * What the router asks for that is not the floor's own business: words to the customer, other ways on, outside calls.
 */
export type FloorHooks = {
  perform: (tx: Tx, visit: WaitingVisit, act: StageAct) => void;
  onward: (tx: Tx, visit: WaitingVisit, how: LeftHow, onward: Onward) => void;
  taken: (tx: Tx, visit: WaitingVisit, legId: string, personId: string) => void;
  dial: (tx: Tx, visit: WaitingVisit, dial: Extract<Act, { do: 'dial' }>) => void;
  callOver: (tx: Tx, call: Extract<Act, { do: 'call-over' }>) => void;
};

/** What carrying out the router's acts rests on. */
export type ActHands = {
  readonly hooks: FloorHooks;
  /** How somebody is asked: seconds to accept. */
  readonly mannersOf: (personId: string) => { readonly acceptSeconds: number };
  /** Sets the instant at which a text conversation begins to rest. */
  readonly watchRest: (tx: Tx, leg: { id: string; personId: string; contactId: string; acceptedAt: number }) => void;
};

/** Writes one of the router's acts into the log, sets its timers, and passes on what others carry out. */
export function carryOutAct(tx: Tx, act: Act, { hooks, mannersOf, watchRest }: ActHands): void {
  switch (act.do) {
    case 'began': {
      const { visit } = act;
      tx.emit({
        type: 'visit.began',
        contactId: visit.contactId,
        visitId: visit.id,
        queueId: visit.queue.id,
        channel: visit.channel,
        settingsVersion: visit.settingsVersion,
        placedAt: visit.placedAt,
        needs: visit.merged,
        priority: visit.basePriority,
        goalSeconds: goalOf(visit.queue, visit.channel).seconds,
        because: act.because,
        entry: visit.entry,
        handOver: visit.handOver,
        passed: visit.passed,
        familiarId: visit.familiarId,
        callback: visit.callback,
      });
      break;
    }
    case 'offer': {
      const { visit, offerId, person, decision, groupId } = act;
      const acceptBy = tx.realAt + mannersOf(person.id).acceptSeconds * 1000;
      tx.emit({
        type: 'offer.made',
        contactId: visit.contactId,
        visitId: visit.id,
        offerId,
        personId: person.id,
        acceptBy,
        groupId,
      });
      if (decision) writeDecision(tx.db, visit.id, expand(decision));
      setTimer(tx.db, 'offer-expires', offerId, 'real', acceptBy);
      break;
    }
    case 'offer-over':
      tx.emit({
        type: 'offer.ended',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        offerId: act.offerId,
        personId: act.personId,
        how: act.how,
      });
      clearTimer(tx.db, 'offer-expires', act.offerId);
      break;
    case 'took': {
      const { visit, legId, personId, groupId, byHand } = act;
      tx.emit({ type: 'leg.began', contactId: visit.contactId, visitId: visit.id, legId, personId, groupId, byHand });
      if (isText(visit.channel))
        watchRest(tx, { id: legId, personId, contactId: visit.contactId, acceptedAt: tx.floorAt });
      hooks.taken(tx, visit, legId, personId);
      break;
    }
    case 'trail':
      writeDecision(tx.db, act.decision.visit.id, expand(act.decision));
      break;
    case 'stage':
      tx.emit({
        type: 'visit.staged',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        stage: act.stage,
        early: act.early,
      });
      break;
    case 'opened':
      tx.emit({
        type: 'visit.opened',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        to: act.to,
        id: act.id,
      });
      break;
    case 'choosing':
      tx.emit({ type: 'visit.asked', contactId: act.visit.contactId, visitId: act.visit.id, until: act.until });
      break;
    case 'perform':
      hooks.perform(tx, act.visit, act.act);
      break;
    case 'ended':
      tx.emit({ type: 'visit.ended', contactId: act.visit.contactId, visitId: act.visit.id, how: act.how });
      if (act.onward && act.how !== 'accepted') hooks.onward(tx, act.visit, act.how, act.onward);
      break;
    case 'dial':
      tx.emit({
        type: 'partner.dialled',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        callId: act.callId,
        partnerId: act.partnerId,
        numberId: act.numberId,
      });
      setTimer(tx.db, 'dial-ends', act.callId, 'floor', act.ringUntil);
      hooks.dial(tx, act.visit, act);
      break;
    case 'partner-answered':
      tx.emit({
        type: 'partner.answered',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        callId: act.callId,
      });
      clearTimer(tx.db, 'dial-ends', act.callId);
      break;
    case 'call-over':
      tx.emit({
        type: 'partner.ended',
        contactId: act.contactId,
        visitId: act.visitId,
        callId: act.callId,
        how: act.how,
        counted: act.counted,
      });
      clearTimer(tx.db, 'dial-ends', act.callId);
      hooks.callOver(tx, act);
      break;
    case 'set-duty':
      tx.emit({ type: 'person.duty', personId: act.personId, duty: act.duty, reason: act.missed ? MISSED : null });
      if (act.duty === 'off' && readPerson(tx.db, act.personId)?.leaving) {
        setActive(tx.db, act.personId, false);
        announce(tx, 'person', act.personId);
      }
      break;
    case 'timer': {
      const kind = `${act.timer.kind}-due` as const;
      if (act.at === null) clearTimer(tx.db, kind, act.timer.id);
      else setTimer(tx.db, kind, act.timer.id, 'floor', act.at);
    }
  }
}
