import { placesInBulk, writeBotState } from './askings';
import { type Db } from './database';
import { remember } from './memory';
import { setTimer, timersInBulk } from './timers';

/** Ends filling in one go: what was only remembered is written. */
export function settleBulk(db: Db): void {
  const [places, timers] = [placesInBulk(db), timersInBulk(db)];
  remember(db);
  for (const [contactId, { state, tokens }] of places) writeBotState(db, contactId, state, tokens);
  for (const { kind, thingId, clock, dueAt } of timers) setTimer(db, kind, thingId, clock, dueAt);
}
