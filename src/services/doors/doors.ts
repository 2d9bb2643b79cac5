import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { type DoorOpening, doorOpening } from '../../core/doors/doorway';
import { openAt, type Opening } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { readBots, scriptOf, versionsOf } from '../../data/bots';
import type { Db } from '../../data/database';
import { type Door, openByDoor, readDoor, readDoors, retireDoor, writeDoor } from '../../data/doors';
import { type HoursRecord, readAllHours } from '../../data/hours';
import { readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { setByHand, undoableByHand } from './byhand';
import { doorSchema } from './doorschema';
import { mustLead } from './mustlead';
import { mustSpeak } from '../words/atdoor';
import { bind } from '../ground/bind';
import { type DoorKeyLine, endKeyOfDoor, keyLines, makeDoorKey } from './doorkeys';
import { recordChange, sameRevision, type Undoable } from '../ground/change';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';

export type DoorLine = Door & {
  readonly opening: DoorOpening;
  /** Who set it by hand, where somebody did. */ readonly setBy: string | null;
  readonly botName: string;
  readonly botLive: number | null;
  readonly hoursName: string;
};
export type DoorsView = {
  readonly doors: readonly DoorLine[];
  readonly hours: readonly (HoursRecord & { opening: Opening; usedBy: number })[];
  readonly queues: readonly { id: string; name: string; channels: readonly Channel[] }[];
  readonly bots: readonly { id: string; name: string; liveVersion: number | null; versions: readonly number[] }[];
  /** People a door may lead to; those of other teams only where one does. */
  readonly people: readonly { id: string; name: string }[];
  /** Keys that work, for whoever may change doors. */
  readonly keys: readonly DoorKeyLine[];
  readonly mayChange: boolean;
  readonly now: number;
};

/** What the functions of this file are given first. */
export type DoorsDeps = { readonly host: Host };

export function viewDoors({ host }: DoorsDeps, actor: Actor): DoorsView {
  mustHold(actor, 'settings.view');
  const mayChange = holds(actor, 'doors.change') && actor.teams === 'all';
  const now = host.times.floor();
  const hours = readAllHours(host.db);
  const bots = readBots(host.db);
  const doors = readDoors(host.db);
  const named = new Set(doors.flatMap((d) => (d.meets.by === 'people' ? d.meets.personIds : [])));
  return {
    now,
    mayChange,
    keys: mayChange ? keyLines(host) : [],
    people: sightOf(host, actor).choice((personId) => named.has(personId)),
    queues: readQueues(host.db).map(({ id, name, channels }) => ({ id, name, channels })),
    bots: bots.map((b) => ({
      id: b.id,
      name: b.name,
      liveVersion: b.liveVersion,
      versions: versionsOf(host.db, b.id).map((v) => v.version),
    })),
    hours: hours.map((h) => ({
      ...h,
      opening: openAt(h, now),
      usedBy: doors.filter((d) => d.hoursId === h.id).length,
    })),
    doors: doors.map((d) => {
      const when = hours.find((h) => h.id === d.hoursId);
      const bot = bots.find((b) => b.id === d.botId);
      return {
        ...d,
        opening: doorOpening(when ?? null, d.byHand, now),
        setBy: (d.byHand && readPerson(host.db, d.byHand.personId)?.name) ?? null,
        botName: bot?.name ?? '',
        botLive: bot?.liveVersion ?? null,
        hoursName: when?.name ?? '',
      };
    }),
  };
}

type DoorValue = Omit<Door, 'revision' | 'byHand'>;
/** As History has it: what is set by hand has lines of its own. */
export const doorValue = ({ revision: _revision, byHand: _byHand, ...door }: DoorValue & Partial<Door>): DoorValue =>
  door;

/** Refuses what points at something that is not there, and an address that another door has. */
function checkDoor(db: Db, d: DoorValue): void {
  const twin = readDoors(db).find((o) => o.id !== d.id && o.channel === d.channel && o.address === d.address);
  if (twin)
    throw new LaneError('not-valid', `${twin.name} already has this address.`, [
      { where: 'address', what: 'is taken' },
    ]);
  if (!readAllHours(db).some((h) => h.id === d.hoursId))
    throw new LaneError('not-valid', 'These hours are not there any more.', [
      { where: 'hoursId', what: 'is not known' },
    ]);
  if (!readBots(db).some((b) => b.id === d.botId))
    throw new LaneError('not-valid', 'This bot is not there any more.', [{ where: 'botId', what: 'is not known' }]);
  if (d.trial && !scriptOf(db, d.botId, d.trial.version))
    throw new LaneError('not-valid', 'There is no such version of the bot.', [
      { where: 'trial', what: 'is not known' },
    ]);
  mustLead(db, d.id, d);
}

export const undoableDoors: Readonly<Record<string, Undoable>> = {
  ...undoableByHand,
  door: {
    name: 'door',
    path: (doorId) => `/doors?door=${doorId}`,
    read: (db, doorId) => {
      const door = readDoor(db, doorId);
      return door ? doorValue(door) : null;
    },
    restore: (tx, actor, doorId, value) => {
      mustHoldEverywhere(actor, 'doors.change');
      if (value === null) {
        const open = openByDoor(tx.db, doorId);
        if (open > 0) throw new LaneError('not-now', `${open} contacts are open that came by this door.`);
        // Somebody may have come by it since it was added.
        return retireDoor(tx.db, doorId, tx.realAt);
      }
      const door = doorValue({ ...(value as DoorValue), id: doorId });
      checkDoor(tx.db, door);
      writeDoor(tx.db, door);
    },
  },
};

export function saveDoor({ host }: DoorsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const d = parse(doorSchema, input);
  return host.transact((tx) => {
    const before = d.id === null ? undefined : readDoor(tx.db, d.id);
    if (d.id !== null && !before) throw new LaneError('not-found', 'This door is not there any more.');
    sameRevision(before, d.revision, d.name);
    const all = readDoors(tx.db);
    const doorId = d.id ?? tx.ids('door');
    const after = { ...d, id: doorId, place: before?.place ?? all.length };
    checkDoor(tx.db, after);
    // Its first language is spoken to everybody; each other is open once all is said in it.
    const spoken = before?.languages ?? after.languages.slice(0, 1);
    for (const language of after.languages) if (!spoken.includes(language)) mustSpeak(tx.db, after, language);
    writeDoor(tx.db, after);
    recordChange(tx, actor, 'door', after.id, before && doorValue(before), after);
    return { id: after.id };
  });
}

export const createDoors = (deps: DoorsDeps) => ({
  undoable: undoableDoors,
  ...bind(deps, { view: viewDoors, save: saveDoor, setByHand, makeKey: makeDoorKey, endKey: endKeyOfDoor }),
});
