import type { Db } from '../../data/database';
import { dropDoor, openByDoor, readDoor, readDoors, retireDoor, writeDoor } from '../../data/doors';
import { doorValue } from '../doors/doors';
import type { Removal, RemovingDeps, Touching } from './removal';

/** What leads to a door: other doors, while they are closed. */
export function doorRemoval(_deps: RemovingDeps, db: Db, doorId: string): Removal | null {
  const door = readDoor(db, doorId);
  if (!door) return null;
  const open = openByDoor(db, doorId);
  return {
    name: door.name,
    stops: open > 0 ? [`${open} ${open === 1 ? 'contact is' : 'contacts are'} open that came by it.`] : [],
    touches: readDoors(db)
      .filter((d) => d.whenClosed.does === 'door' && d.whenClosed.doorId === doorId)
      .map((d): Touching => {
        const after = { ...d, whenClosed: { does: 'end' } as const };
        return {
          name: d.name,
          path: `/doors?door=${d.id}`,
          becomes: 'says that it is closed and ends, instead of leading to it',
          history: { kind: 'door', id: d.id, before: doorValue(d), after: doorValue(after) },
          write: (tx) => writeDoor(tx.db, after),
        };
      }),
    insteads: [],
    needsInstead: false,
    value: doorValue(door),
    drop: (tx) => dropDoor(tx.db, doorId),
    retire: (tx) => retireDoor(tx.db, doorId, tx.realAt),
  };
}
