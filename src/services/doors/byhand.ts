import { number, object } from 'yup';
import type { ByHand } from '../../core/doors/doorway';
import { LaneError } from '../../core/errors';
import type { Db } from '../../data/database';
import { type Door, readDoor, readDoors, writeByHand } from '../../data/doors';
import { clearTimer, setTimer } from '../../data/timers';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { announce, recordChange, type Undoable } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, localisedSchema, oneOf } from '../ground/schemas';
import { parse } from '../ground/validate';

/** Doors shut or opened by hand, until an instant, with the reason that customers hear. */

/** A door stays as it was set by hand for so long at most. */
const MOST_DAYS = 90;

const byHandSchema = exactly(
  object({
    id: id('The door'),
    to: oneOf(['shut', 'open', 'hours'] as const, 'What becomes of the door'),
    /** Floor ms; null only where it follows its hours again. */
    until: number().integer('The instant must be a whole number').nullable().defined('Until when is missing'),
    reason: localisedSchema(200, 'The reason'),
    /** When what stood as they looked was set (floor ms); null where it followed its hours. */
    seen: number().integer('What was seen must be a whole number').nullable().defined('What was seen is missing'),
  }),
);

export type DoorByHand = ByHand & { readonly doorId: string; readonly name: string };

/** What stands set by hand now, the first to end first. */
export const doorsByHand = ({ db, times }: Pick<Host, 'db' | 'times'>): DoorByHand[] =>
  readDoors(db)
    .flatMap((d) => (d.byHand && d.byHand.until > times.floor() ? [{ ...d.byHand, doorId: d.id, name: d.name }] : []))
    .sort((a, b) => a.until - b.until);

function put(tx: Tx, door: Pick<Door, 'id'>, byHand: ByHand | null): void {
  writeByHand(tx.db, door.id, byHand);
  if (byHand) setTimer(tx.db, 'door-by-hand', door.id, 'floor', byHand.until);
  else clearTimer(tx.db, 'door-by-hand', door.id);
}

const standing = (door: Door, now: number): ByHand | null =>
  door.byHand && door.byHand.until > now ? door.byHand : null;

/** Shuts or opens a door until an instant, or lets it follow its hours again. */
export function setByHand({ host }: { readonly host: Host }, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const asked = parse(byHandSchema, input);
  return host.transact((tx) => {
    const door = readDoor(tx.db, asked.id);
    if (!door) throw new LaneError('not-found', 'This door is not there any more.');
    const before = standing(door, tx.floorAt);
    if ((before?.at ?? null) !== asked.seen)
      throw new LaneError('changed-meanwhile', 'Somebody set this door meanwhile, or its time is over. Look again.');
    let after: ByHand | null = null;
    if (asked.to !== 'hours') {
      if (asked.until === null || asked.until <= tx.floorAt)
        throw new LaneError('not-valid', 'Say until when; the end has to lie ahead.', [
          { where: 'until', what: 'has to lie ahead' },
        ]);
      if (asked.until > tx.floorAt + MOST_DAYS * 86_400_000)
        throw new LaneError('not-valid', `A door is set by hand for ${MOST_DAYS} days at most.`, [
          { where: 'until', what: 'is too far ahead' },
        ]);
      after = {
        open: asked.to === 'open',
        until: asked.until,
        reason: asked.reason,
        at: tx.floorAt,
        personId: actor.personId,
      };
    }
    put(tx, door, after);
    recordChange(tx, actor, 'door-by-hand', door.id, before, after, { label: door.name });
    return { id: door.id };
  });
}

/** The time of what was set by hand is over: everybody sees the door by its hours again. */
export function byHandOver(tx: Tx, doorId: string): void {
  const door = readDoor(tx.db, doorId);
  if (!door || standing(door, tx.floorAt)) return;
  writeByHand(tx.db, doorId, null);
  announce(tx, 'door', doorId);
}

export const undoableByHand: Readonly<Record<string, Undoable>> = {
  'door-by-hand': {
    name: 'door set by hand',
    path: (doorId) => `/doors?door=${doorId}`,
    read: (db: Db, doorId) => readDoor(db, doorId)?.byHand ?? null,
    restore: (tx, actor, doorId, value) => {
      mustHoldEverywhere(actor, 'doors.change');
      const door = readDoor(tx.db, doorId);
      if (!door) throw new LaneError('not-found', 'This door is not there any more.');
      const byHand = value as ByHand | null;
      put(tx, door, byHand && byHand.until > tx.floorAt ? byHand : null);
    },
  },
};
