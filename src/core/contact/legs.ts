import { isText } from '../channels';
import { handleSeconds } from '../measures/handletime';
import type { LegNow, Line } from './contact';
import { type Going } from './going';

/** The line of a person's turn is so from now on. */
export function lineTo({ contact, acts }: Going, leg: LegNow, line: Line): void {
  if (leg.line === line) return;
  contact.legs = contact.legs.map((l) => (l.id === leg.id ? { ...l, line } : l));
  acts.push({ do: 'line', legId: leg.id, personId: leg.personId, line });
}

/** The talk of a turn is over; wrap-up begins. Nobody is held any more. */
export function wrapUp(going: Going, leg: LegNow, passedOn: boolean): void {
  const { contact, world, acts } = going;
  lineTo(going, leg, 'open');
  contact.legs = contact.legs.map((l) => (l.id === leg.id ? { ...l, talkEndedAt: world.now } : l));
  acts.push({ do: 'wrap-up', legId: leg.id, personId: leg.personId, passedOn });
}

/** A turn is over, wrap-up included. */
export function finishLeg({ contact, world, acts }: Going, leg: LegNow, outcome: string | null): void {
  contact.legs = contact.legs.filter((l) => l.id !== leg.id);
  // Where the Desk said what was in front, that is what counts, wrap-up as well.
  const inFront = isText(contact.channel) ? world.inFront(leg) : null;
  acts.push(
    {
      do: 'leg-over',
      legId: leg.id,
      personId: leg.personId,
      outcome,
      inFront: inFront !== null,
      handleSeconds:
        inFront ??
        handleSeconds(contact.channel, {
          acceptedAt: leg.acceptedAt,
          talkEndedAt: leg.talkEndedAt ?? world.now,
          endedAt: world.now,
          signs: isText(contact.channel) ? world.signs() : [],
        }),
    },
    { do: 'forget', timer: 'wrap-up-ends', id: leg.id },
  );
}
