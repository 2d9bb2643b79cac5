import { randomBytes } from 'node:crypto';
import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { type DoorKey, doorKeys, endDoorKey, readDoorKey, writeDoorKey } from '../../data/doorkeys';
import { readDoor } from '../../data/doors';
import { readPerson } from '../../data/people';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { recordChange } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { hashToken } from '../ground/tokens';
import { parse } from '../ground/validate';

/** Keys by which a server speaks for the customers of a door: a telephone switch, an SMS gateway, a shop's own site. */

/** The most keys a door may have: one for each server, and one to change over to. */
const MOST_KEYS = 10;

export type DoorKeyLine = Omit<DoorKey, 'madeBy'> & { readonly madeBy: string };

const makeSchema = exactly(object({ doorId: id('The door'), name: requiredText(60, 'What it is for') }));
const endSchema = exactly(object({ id: id('The key') }));

/** Keys that work, for whoever may change doors; `name` of a maker who is gone is empty. */
export const keyLines = ({ db }: Pick<Host, 'db'>): DoorKeyLine[] =>
  doorKeys(db).map((key) => ({ ...key, madeBy: readPerson(db, key.madeBy)?.name ?? '' }));

const shown = ({ name, doorId }: Pick<DoorKey, 'name' | 'doorId'>) => ({ name, doorId });

/** Makes one; the key itself is told once, here. */
export function makeDoorKey(
  { host }: { readonly host: Host },
  actor: Actor,
  input: unknown,
): { id: string; key: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const asked = parse(makeSchema, input);
  return host.transact((tx) => {
    const door = readDoor(tx.db, asked.doorId);
    if (!door) throw new LaneError('not-found', 'This door is not there any more.');
    if (doorKeys(tx.db).filter((k) => k.doorId === door.id).length >= MOST_KEYS)
      throw new LaneError('not-valid', `${door.name} has ${MOST_KEYS} keys. End one first.`);
    const key = `door-${randomBytes(32).toString('base64url')}`;
    const made = { id: tx.ids('key'), ...asked, madeAt: tx.realAt, madeBy: actor.personId };
    writeDoorKey(tx.db, made, hashToken(key));
    recordChange(tx, actor, 'door-key', made.id, null, shown(made), { label: `${door.name}: ${made.name}` });
    return { id: made.id, key };
  });
}

/** From now on it opens nothing. Conversations that it began go on. */
export function endKeyOfDoor({ host }: { readonly host: Host }, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const asked = parse(endSchema, input);
  return host.transact((tx) => {
    const key = readDoorKey(tx.db, asked.id);
    if (!key) throw new LaneError('not-found', 'This key does not work any more.');
    endDoorKey(tx.db, key.id, tx.realAt);
    const door = readDoor(tx.db, key.doorId);
    recordChange(tx, actor, 'door-key', key.id, shown(key), null, { label: `${door?.name ?? ''}: ${key.name}` });
    return { id: key.id };
  });
}
