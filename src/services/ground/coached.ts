import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { type Person, readPerson } from '../../data/people';
import { legsOf } from '../../data/legs';
import { type Actor, mustHold, sees } from './actor';
import type { Host } from './host';

/** Whether an actor coaches somebody: they hold the right for one of their teams. Nobody coaches themselves. */
export const coaches = (actor: Actor, person: Person): boolean =>
  holds(actor, 'people.coach') && person.id !== actor.personId && sees(actor, person);

/** Somebody whom the actor coaches. Throws `not-allowed`, or `not-found` for whom they may not know of. */
export function coached(host: Pick<Host, 'db'>, actor: Actor, personId: string): Person {
  mustHold(actor, 'people.coach');
  const person = readPerson(host.db, personId);
  if (!person || !sees(actor, person)) throw new LaneError('not-found', 'There is nobody by that name in your teams.');
  if (!coaches(actor, person)) throw new LaneError('not-allowed', 'Nobody coaches themselves.');
  return person;
}

/** Those of a contact's people whom the actor coaches, who had it longest first. */
export function coachedIn(host: Pick<Host, 'db'>, actor: Actor, contactId: string): { id: string; name: string }[] {
  const had = new Map<string, number>();
  for (const leg of legsOf(host.db, contactId))
    had.set(leg.personId, (had.get(leg.personId) ?? 0) + ((leg.endedAt ?? leg.acceptedAt) - leg.acceptedAt));
  return [...had]
    .sort((a, b) => b[1] - a[1])
    .flatMap(([personId]) => {
      const person = readPerson(host.db, personId);
      return person && coaches(actor, person) ? [{ id: person.id, name: person.name }] : [];
    });
}
