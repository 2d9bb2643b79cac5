import { isText } from '../../core/channels';
import type { EventBody } from '../../core/events';
import { MISSED } from '../../core/people/duty';
import type { Act } from '../../core/routing/acts';
import { expand } from '../../core/routing/decision';
import { goalOfVisit } from '../../core/routing/queue';
import { readPerson, setActive } from '../../data/people';
import { readPartnerCall } from '../../data/routermemory';
import { clearTimer, setTimer } from '../../data/timers';
import { writeDecision } from '../../data/trails';
import { announce } from '../ground/change';
import type { OutsideTelephone } from '../../standins/telephone';
import type { Host, Tx } from '../ground/host';
import type { Hands } from './happening';

/** How the log says that a visit began. */
export const visitBegan = ({ visit, because }: Extract<Act, { readonly do: 'began' }>): EventBody => ({
  type: 'visit.began',
  contactId: visit.contactId,
  visitId: visit.id,
  queueId: visit.queue.id,
  channel: visit.channel,
  settingsVersion: visit.settingsVersion,
  placedAt: visit.placedAt,
  needs: visit.merged,
  priority: visit.basePriority,
  goalSeconds: goalOfVisit(visit.queue, visit).seconds,
  because,
  entry: visit.entry,
  handOver: visit.handOver,
  passed: visit.passed,
  familiarId: visit.familiarId,
  callback: visit.kind === 'callback',
  ...(visit.kind === 'message' ? { message: true } : {}),
});

/** Writes one of the router's acts into the log, sets its timers, and tells the contact what it is to know. */
export function carryOutForRouter({ host, here, telephone, happen, forgetTrailPeople }: Hands, tx: Tx, act: Act): void {
  switch (act.do) {
    case 'began':
      tx.emit(visitBegan(act));
      break;
    case 'offer': {
      const { visit, offerId, person, decision, groupId } = act;
      const acceptBy = tx.realAt + here.mannersOf(person.id).acceptSeconds * 1000;
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
        here.watchRest(tx, { id: legId, personId, contactId: visit.contactId, acceptedAt: tx.floorAt });
      happen(tx, visit.contactId, { type: 'taken', visit, legId, personId });
      break;
    }
    case 'trail':
      tx.ifUndone(forgetTrailPeople);
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
      happen(tx, act.visit.contactId, { type: 'stage', visit: act.visit, act: act.act });
      break;
    case 'ended':
      tx.emit({ type: 'visit.ended', contactId: act.visit.contactId, visitId: act.visit.id, how: act.how });
      if (act.onward && act.how !== 'accepted')
        happen(tx, act.visit.contactId, { type: 'sent-on', visit: act.visit, onward: act.onward });
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
      tx.onceKept(() => dial(host, telephone, act));
      break;
    case 'partner-answered':
      tx.emit({
        type: 'partner.answered',
        contactId: act.visit.contactId,
        visitId: act.visit.id,
        callId: act.callId,
      });
      clearTimer(tx.db, 'dial-ends', act.callId);
      tx.onceKept(() => talk(host, telephone, act.callId));
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
      for (const kind of ['dial-answered', 'dial-ends'] as const) clearTimer(tx.db, kind, act.callId);
      if (act.how === 'done') happen(tx, act.contactId, { type: 'outside-call-over' });
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

/** The outside telephone is rung: whether and when somebody answers is known by it alone. */
function dial(host: Host, telephone: OutsideTelephone, { callId, address, ringUntil }: Dial): void {
  const after = telephone.answersAfter(address, callId);
  if (after === null) return;
  host.transact((tx) => {
    const call = readPartnerCall(tx.db, callId);
    const at = call ? call.startedAt + after * 1000 : Infinity;
    if (at <= ringUntil) setTimer(tx.db, 'dial-answered', callId, 'floor', at);
  });
}
type Dial = Extract<Act, { readonly do: 'dial' }>;

/** Somebody answered: how long they talk is known by the telephone. */
function talk(host: Host, telephone: OutsideTelephone, callId: string): void {
  const seconds = telephone.talksFor(callId);
  host.transact((tx) => setTimer(tx.db, 'dial-ends', callId, 'floor', tx.floorAt + seconds * 1000));
}
