import type { Drawn } from '../../core/people/coaching';
import { drawsFor, readCoachingRules, writeDraw } from '../../data/coaching';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';
import type { Reading } from '../readings';
import { inTurns } from '../ground/turns';
import { monthSchema } from './picktorate';

/** Draws contacts of a month to be rated, as far as they are not drawn yet. Gives how many were. */
export async function drawContacts(
  { host, reading }: { readonly host: Host; readonly reading: Reading },
  actor: Actor,
  input: unknown,
): Promise<{ drawn: number }> {
  mustHold(actor, 'people.coach');
  const { month } = parse(monthSchema, input);
  const picked = await reading('pick-to-rate', actor, { month });
  let drawn = 0;
  // Person by person: a large house takes more than one turn of the main thread.
  await inTurns(host, picked, (tx, { personId, drawn: some }) => {
    // Somebody else may have drawn meanwhile: nobody gets more than the rules say.
    const rules = readCoachingRules(tx.db);
    const had: Drawn[] = drawsFor(tx.db, month, personId).map(({ no, why }) => ({ no, why }));
    for (const { no, why } of some) {
      const most = why === 'chance' ? rules.byChance : rules.byRule[why];
      if (had.filter((d) => d.why === why).length >= most || had.some((d) => d.no === no)) continue;
      had.push({ no, why });
      writeDraw(tx.db, month, personId, no, why);
      drawn++;
    }
  });
  // What was drawn is on the disk before it is said.
  return host.transact(() => ({ drawn }));
}
