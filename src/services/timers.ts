import { readLeg } from '../data/contacts';
import { row, type Db } from '../data/database';
import { dueTimers, clearTimer, nextTimer, type Timer } from '../data/timers';
import type { Conversations } from './conversations';
import type { Host } from './host';
import type { LiveFloor } from './livefloor';

const offeredTo = (db: Db, offerId: string): string | null =>
  row<{ personId: string }>(db, 'SELECT person_id AS personId FROM offers WHERE id = ? AND ended_at IS NULL', offerId)?.personId ?? null;

/** Runs what is due, each in a transaction of its own, in the order it was due. After a stop, overdue ones run with now as their instant. */
export function createTimers(host: Host, floor: LiveFloor, conversations: Conversations) {
  const carryOut = (timer: Timer): void => host.transact((tx) => {
    clearTimer(tx.db, timer.kind, timer.thingId);
    switch (timer.kind) {
      case 'offer-expires': {
        const personId = offeredTo(tx.db, timer.thingId);
        if (personId) floor.turnDown(tx, personId, 'missed');
        break;
      }
      case 'visit-due': case 'group-due': case 'person-due': case 'number-due':
        floor.due(tx, timer.kind === 'visit-due' ? 'visit' : timer.kind === 'group-due' ? 'group' : timer.kind === 'person-due' ? 'person' : 'number', timer.thingId);
        break;
      case 'leg-rests':
        floor.legRests(tx, timer.thingId);
        break;
      case 'person-changes':
        floor.personDue(tx, timer.thingId);
        break;
      case 'wrap-up-ends': {
        const leg = readLeg(tx.db, timer.thingId);
        if (leg && leg.endedAt === null) conversations.finish(tx, leg, null);
        break;
      }
    }
  });
  return {
    runDue(): void {
      for (const timer of dueTimers(host.db, host.clocks.real(), host.clocks.floor())) carryOut(timer);
    },
    /** The next due instants on both clocks, or null. */
    next: (): { real: number | null; floor: number | null } => ({ real: nextTimer(host.db, 'real'), floor: nextTimer(host.db, 'floor') }),
  };
}
