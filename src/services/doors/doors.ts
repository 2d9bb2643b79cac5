import { array, object, string } from 'yup';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { openAt, type Opening } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { readBots, scriptOf, versionsOf } from '../../data/bots';
import { type Door, readDoor, readDoors, writeDoor } from '../../data/doors';
import { type HoursRecord, readAllHours } from '../../data/hours';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type DoorKeyLine, endKeyOfDoor, keyLines, makeDoorKey } from './doorkeys';
import { recordChange, sameRevision } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, languageTag, localisedSchema, oneOf, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

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
  }),
);

export type DoorLine = Door & {
  readonly opening: Opening;
  readonly botName: string;
  readonly botLive: number | null;
  readonly hoursName: string;
};
export type DoorsView = {
  readonly doors: readonly DoorLine[];
  readonly hours: readonly (HoursRecord & { opening: Opening; usedBy: number })[];
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
        opening: when ? openAt(when, now) : { open: false, opensAt: null },
        botName: bot?.name ?? '',
        botLive: bot?.liveVersion ?? null,
        hoursName: when?.name ?? '',
      };
    }),
  };
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
    const after = { ...d, id: d.id ?? tx.ids('door'), place: before?.place ?? all.length };
    writeDoor(tx.db, after);
    recordChange(tx, actor, 'door', after.id, before, after);
    return { id: after.id };
  });
}

export const createDoors = (deps: DoorsDeps) =>
  bind(deps, { view: viewDoors, save: saveDoor, makeKey: makeDoorKey, endKey: endKeyOfDoor });
