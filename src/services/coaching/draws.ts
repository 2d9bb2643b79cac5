import type { Drawn } from '../../core/people/coaching';
import { drawsOfMonth, readCoachingRules, writeDraw } from '../../data/coaching';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';
import type { Reading } from '../readings';
import { alreadyDrawn, monthSchema } from './picktorate';

/** Draws contacts of a month to be rated, as far as they are not drawn yet. Gives how many were. */
export async function drawContacts(
  { host, reading }: { readonly host: Host; readonly reading: Reading },
  actor: Actor,
  input: unknown,
): Promise<{ drawn: number }> {
  mustHold(actor, 'people.coach');
  const { month } = parse(monthSchema, input);
  const picked = await reading('pick-to-rate', actor, { month });
  return host.transact((tx) => {
    // Somebody else may have drawn meanwhile: nobody gets more than the rules say.
    const already = alreadyDrawn(drawsOfMonth(tx.db, month));
    const rules = readCoachingRules(tx.db);
    const most = (why: Drawn['why']) => (why === 'chance' ? rules.byChance : rules.byRule[why]);
    let drawn = 0;
    for (const one of picked) {
      const had = already.get(one.personId) ?? [];
      for (const { no, why } of one.drawn) {
        if (had.filter((d) => d.why === why).length >= most(why) || had.some((d) => d.no === no)) continue;
        had.push({ no, why });
        writeDraw(tx.db, month, one.personId, no, why);
        drawn++;
      }
    }
    return { drawn };
  });
}
