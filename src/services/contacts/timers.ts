import { PARTNERS } from '../../data/groups';
import { readLeg } from '../../data/legs';
import { readPartnerCall } from '../../data/routermemory';
import { clearTimer, dueTimers, nextTimer, setTimer, type Timer } from '../../data/timers';
import { offeredTo } from '../../data/visits';
import type { OutsideTelephone } from '../../standins/telephone';
import type { Bots } from '../bots/bots';
import type { Host, Tx } from '../ground/host';
import type { Callbacks } from './callbacks';
import type { Conversations } from './conversations';
import type { LiveFloor } from './livefloor';

/**
 * Runs what is due, each in a transaction of its own, in the order it was due. After a stop, overdue ones run with
 * now as their instant.
 */
export function createTimers(
  host: Host,
  floor: LiveFloor,
  conversations: Conversations,
  callbacks: Callbacks,
  bots: Pick<Bots, 'goesLive'>,
  telephone: OutsideTelephone,
) {
  /** What the outside telephone answers is looked at when it would, or when ringing is over. */
  floor.hooks.dial = (tx, _visit, dial) => {
    const after = telephone.answersAfter(dial.address, dial.callId);
    if (after !== null)
      setTimer(tx.db, 'dial-ends', dial.callId, 'floor', Math.min(dial.ringUntil, tx.floorAt + after * 1000));
  };
  function dialEnds(tx: Tx, callId: string): void {
    if (callbacks.rangOut(tx, callId)) return;
    const call = readPartnerCall(tx.db, callId);
    if (!call || call.endedAt !== null) return;
    if (call.answeredAt !== null) return void floor.run(tx, { type: 'partner-done', callId });
    const address = PARTNERS.one(tx.db, call.partnerId)?.numbers.find((n) => n.id === call.numberId)?.address ?? '';
    const after = telephone.answersAfter(address, callId);
    const answered = after !== null && call.startedAt + after * 1000 <= tx.floorAt;
    floor.run(tx, { type: 'dial-ended', callId, how: answered ? 'answered' : 'no-answer' });
    if (answered) setTimer(tx.db, 'dial-ends', callId, 'floor', tx.floorAt + telephone.talksFor(callId) * 1000);
  }
  const carryOut = (timer: Timer): void =>
    host.transact((tx) => {
      clearTimer(tx.db, timer.kind, timer.thingId);
      switch (timer.kind) {
        case 'offer-expires': {
          const personId = offeredTo(tx.db, timer.thingId);
          if (personId) floor.turnDown(tx, personId, 'missed');
          break;
        }
        case 'visit-due':
        case 'group-due':
        case 'person-due':
        case 'number-due':
          floor.due(
            tx,
            timer.kind === 'visit-due'
              ? 'visit'
              : timer.kind === 'group-due'
                ? 'group'
                : timer.kind === 'person-due'
                  ? 'person'
                  : 'number',
            timer.thingId,
          );
          break;
        case 'dial-ends':
          dialEnds(tx, timer.thingId);
          break;
        case 'callback-due':
          callbacks.due(tx, timer.thingId);
          break;
        case 'bot-waits':
        case 'bot-slow':
        case 'outside-answers':
          conversations.bots.due(tx, timer.kind, timer.thingId);
          break;
        case 'bot-goes-live':
          bots.goesLive(tx, timer.thingId);
          break;
        case 'leg-rests':
          floor.legRests(tx, timer.thingId);
          break;
        case 'person-changes':
          floor.personDue(tx, timer.thingId);
          break;
        case 'wrap-up-ends': {
          const leg = readLeg(tx.db, timer.thingId);
          if (leg && leg.endedAt === null) conversations.finish(tx, leg, leg.outcome);
          break;
        }
      }
    });
  return {
    runDue(): void {
      for (const timer of dueTimers(host.db, host.times.real(), host.times.floor())) carryOut(timer);
    },
    /** The next due instants on both clocks, or null. */
    next: (): { real: number | null; floor: number | null } => ({
      real: nextTimer(host.db, 'real'),
      floor: nextTimer(host.db, 'floor'),
    }),
  };
}
