import { hash32 } from '../../core/chance';
import type { BotAskedFor } from '../../core/contact/contact';
import { askedFor } from '../../core/doors/firstwords';
import { readBot } from '../../data/bots';
import { type Door, readDoor } from '../../data/doors';
import { readQueues } from '../../data/queuesettings';
import type { Programs } from '../bots/programs';
import type { Host } from '../ground/host';

/** Which bot somebody meets at a door, and in which version. */

export type Meeting = Pick<Door, 'id' | 'botId' | 'trial'>;
type DoorBotsDeps = { readonly host: Host; readonly programs: Programs };

const botOf = (host: Host, botId: string) => host.remembered(`bot ${botId}`, (db) => readBot(db, botId));

/** Where contacts go when a bot was never published: its fallback queue where it is there, else any. */
export function elsewhereThan(host: Host, botId: string | null): string | null {
  const queues = host.remembered('queues', readQueues);
  const fallback = botId === null ? undefined : botOf(host, botId)?.draft.fallbackQueueId;
  return (queues.find((q) => q.id === fallback) ?? queues[0])?.id ?? null;
}

/**
 * The version of a door's bot that a customer meets: the live one, or for some the one on trial. The same customer
 * always meets the same.
 */
export function versionFor(
  { host, programs }: DoorBotsDeps,
  door: Meeting,
  address: string,
): { botId: string; version: number } | null {
  const bot = botOf(host, door.botId);
  if (!bot || bot.liveVersion === null) return null;
  const tried =
    door.trial !== null &&
    hash32(`${door.id}|${address}`) % 100 < door.trial.percent &&
    programs.of(bot.id, door.trial.version) !== null;
  return { botId: bot.id, version: tried && door.trial ? door.trial.version : bot.liveVersion };
}

/** The bot that somebody's first words ask for at a door as it is now, or the door's own. */
export function botAskedFor(
  deps: DoorBotsDeps,
  doorId: string,
  text: string | null,
  by: { readonly address: string; readonly language: string },
): BotAskedFor {
  const { host } = deps;
  const door = readDoor(host.db, doorId);
  const rules = door?.meets.by === 'first-words' ? door.meets.rules : [];
  const asked = text === null ? null : askedFor(rules, text, by.language);
  const meeting: Meeting | undefined = asked ? { id: doorId, botId: asked.botId, trial: null } : door;
  const met = meeting && versionFor(deps, meeting, by.address);
  return {
    bot: met ? { id: met.botId, version: met.version } : null,
    language: asked && door?.languages.includes(asked.language) ? asked.language : null,
    elsewhere: elsewhereThan(host, meeting?.botId ?? null),
  };
}
