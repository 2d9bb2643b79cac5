import { array, object, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { type DoorOpening, doorOpening, type WhenClosed } from '../../core/doors/doorway';
import { openAt, type Opening } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { readBots, scriptOf, versionsOf } from '../../data/bots';
import { type Door, readDoor, readDoors, writeDoor } from '../../data/doors';
import { type HoursRecord, readAllHours } from '../../data/hours';
import { readPerson } from '../../data/people';
import { readQueue, readQueues } from '../../data/queuesettings';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { setByHand, undoableByHand } from './byhand';
import { bind } from '../ground/bind';
import { type DoorKeyLine, endKeyOfDoor, keyLines, makeDoorKey } from './doorkeys';
import { recordChange, sameRevision } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, languageTag, localisedSchema, oneOf, requiredText, whole } from '../ground/schemas';
import { shaped } from '../ground/shaped';
import { parse } from '../ground/validate';

const whenClosedSchema = shaped<WhenClosed, 'does'>(
  'does',
  {
    end: {},
    bot: { botId: id('The bot when closed') },
    message: { queueId: id('The queue of messages') },
    callback: { queueId: id('The queue that calls back') },
    door: { doorId: id('The other door') },
  },
  'What happens when closed',
  {},
);
const doorSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    channel: oneOf<Channel>(CHANNELS, 'The channel'),
    address: requiredText(120, 'The address'),
    hoursId: id('The hours'),
    botId: id('The bot'),
    languages: array(languageTag).min(1, 'Choose at least one language').max(12).required('The languages are missing'),
    closedWording: localisedSchema(500, 'What is said when closed'),
    trial: exactly(object({ version: whole(1, 1e6, 'The version on trial'), percent: whole(1, 99, 'The share') }))
      .nullable()
      .default(null),
    whenClosed: whenClosedSchema,
  }),
);

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
  return {
    now,
    mayChange,
    keys: mayChange ? keyLines(host) : [],
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

/** Refuses what happens when closed where it leads to nothing that is there, or round in a circle. */
function mustLead(db: Db, doorId: string, { whenClosed: when, channel }: Pick<Door, 'whenClosed' | 'channel'>): void {
  const refuse = (sentence: string): never => {
    throw new LaneError('not-valid', sentence, [{ where: 'whenClosed', what: 'leads nowhere' }]);
  };
  switch (when.does) {
    case 'end':
      return;
    case 'bot':
      if (!readBots(db).some((b) => b.id === when.botId)) refuse('This bot is not there any more.');
      return;
    case 'message':
    case 'callback': {
      const queue = readQueue(db, when.queueId);
      if (!queue) refuse('This queue is not there any more.');
      else if (when.does === 'callback' && !queue.channels.includes('voice'))
        refuse(`${queue.name} takes no calls, so that it cannot call back.`);
      else if (when.does === 'message' && !queue.channels.includes(channel))
        refuse(`${queue.name} does not take what comes in at this door, so that messages would wait in vain.`);
      return;
    }
    case 'door': {
      const been = new Set([doorId]);
      for (let next: WhenClosed = when; next.does === 'door';) {
        if (been.has(next.doorId)) refuse('The doors would lead round in a circle.');
        been.add(next.doorId);
        const other = readDoor(db, next.doorId);
        if (!other) return refuse('The other door is not there any more.');
        next = other.whenClosed;
      }
    }
  }
}

export function saveDoor({ host }: DoorsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'doors.change');
  const d = parse(doorSchema, input);
  return host.transact((tx) => {
    const before = d.id === null ? undefined : readDoor(tx.db, d.id);
    if (d.id !== null && !before) throw new LaneError('not-found', 'This door is not there any more.');
    sameRevision(before, d.revision, d.name);
    const all = readDoors(tx.db);
    const twin = all.find((o) => o.id !== d.id && o.channel === d.channel && o.address === d.address);
    if (twin)
      throw new LaneError('not-valid', `${twin.name} already has this address.`, [
        { where: 'address', what: 'is taken' },
      ]);
    if (!readAllHours(tx.db).some((h) => h.id === d.hoursId))
      throw new LaneError('not-valid', 'These hours are not there any more.', [
        { where: 'hoursId', what: 'is not known' },
      ]);
    if (!readBots(tx.db).some((b) => b.id === d.botId))
      throw new LaneError('not-valid', 'This bot is not there any more.', [{ where: 'botId', what: 'is not known' }]);
    if (d.trial && !scriptOf(tx.db, d.botId, d.trial.version))
      throw new LaneError('not-valid', 'There is no such version of the bot.', [
        { where: 'trial', what: 'is not known' },
      ]);
    const doorId = d.id ?? tx.ids('door');
    mustLead(tx.db, doorId, d);
    const after = { ...d, id: doorId, place: before?.place ?? all.length };
    writeDoor(tx.db, after);
    recordChange(tx, actor, 'door', after.id, before, after);
    return { id: after.id };
  });
}

export const createDoors = (deps: DoorsDeps) => ({
  undoable: undoableByHand,
  ...bind(deps, { view: viewDoors, save: saveDoor, setByHand, makeKey: makeDoorKey, endKey: endKeyOfDoor }),
});
