import { type Difference, differences } from '../../core/bots/difference';
import type { BotFault } from '../../core/bots/faults';
import { allSteps, type BotScript, type SharedScene } from '../../core/bots/model';
import { referencesOf } from '../../core/bots/references';
import type { BotEndings, Traffic } from '../../core/bots/traffic';
import type { Trial } from '../../core/bots/trial';
import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { localTime } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import {
  type Bot,
  BOT_TESTS,
  type BotVersion,
  readBot,
  readBots,
  readVersion,
  scriptOf,
  SHARED_SCENES,
  versionsOf,
} from '../../data/bots';
import { endingsSince, trafficOf } from '../../data/bottraffic';
import { CONNECTORS, TABLES } from '../../data/connectors';
import { botsOfDoor, readDoors } from '../../data/doors';
import { type Field, readFields } from '../../data/fields';
import { readTeams } from '../../data/teams';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { readPeople } from '../../data/people';
import { readPhrasebook } from '../../data/phrasebook';
import { readQueues } from '../../data/queuesettings';
import { readSkills, type Skill } from '../../data/skills';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import type { BotTrials } from './bottrials';
import type { BotWorlds } from './botworld';
import type { Programs } from './programs';
import type { Reading } from '../readings';

/** The time that is looked back on, ms of the floor. */
const LAST_WEEK = 7 * 86_400_000;

type Named = { readonly id: string; readonly name: string };

export type BotLine = Named & {
  readonly liveVersion: number | null;
  readonly draftDiffers: boolean;
  readonly doors: number;
  readonly lines: number;
  readonly stops: number;
  readonly advice: number;
  readonly tests: number;
  readonly languages: readonly string[];
};

/** What scripts can refer to, and who may write them. */
export type Surroundings = {
  readonly queues: readonly (Named & { readonly channels: readonly Channel[] })[];
  readonly skills: readonly Skill[];
  readonly fields: readonly Field[];
  readonly groups: readonly Named[];
  readonly teams: readonly Named[];
  readonly partners: readonly Named[];
  readonly people: readonly Named[];
  readonly hours: readonly Named[];
  readonly languages: readonly string[];
  readonly shared: readonly SharedScene[];
  readonly connectors: readonly (Named & {
    readonly does: 'look-up' | 'do';
    readonly inputs: readonly string[];
    readonly outputs: readonly string[];
  })[];
  readonly tables: readonly (Named & { readonly columns: readonly string[] })[];
  readonly intents: readonly { readonly id: string; readonly label: string }[];
  readonly lists: readonly { readonly id: string; readonly label: string }[];
  readonly now: string;
  readonly mayChange: boolean;
  readonly mayPublish: boolean;
};

export type BotView = Surroundings & {
  readonly bot: Bot;
  readonly versions: readonly (BotVersion & { by: string })[];
  readonly faults: readonly BotFault[];
  readonly draftDiffers: boolean;
  readonly tests: readonly Trial[];
  readonly doors: readonly (Named & { readonly channel: Channel })[];
};

/** What the functions of this file are given first. */
export type BotsDeps = {
  readonly host: Host;
  readonly programs: Programs;
  readonly worlds: BotWorlds;
  readonly trials: BotTrials;
  readonly reading: Reading;
};

/** Drafts that are otherwise than what is live; asked for by every strip, so kept for as long as no setting changes. */
const differing = ({ host }: BotsDeps): ReadonlySet<string> =>
  host.remembered(
    'drafts',
    (db) =>
      new Set(
        readBots(db)
          .filter(
            (b) =>
              b.liveVersion === null || JSON.stringify(scriptOf(db, b.id, b.liveVersion)) !== JSON.stringify(b.draft),
          )
          .map((b) => b.id),
      ),
  );

const faultsByBot = ({ host, worlds }: BotsDeps): ReadonlyMap<string, BotFault[]> =>
  host.remembered('bot-faults', (db) => new Map(readBots(db).map((b) => [b.id, worlds.faultsOf(b.id, b.draft)])));

export function knownBot({ host }: BotsDeps, botId: string): Bot {
  const bot = readBot(host.db, botId);
  if (!bot) throw new LaneError('not-found', 'There is no such bot.');
  return bot;
}

export function listBots(
  deps: BotsDeps,
  actor: Actor,
): { bots: BotLine[]; mayChange: boolean; languages: readonly string[] } {
  mustHold(actor, 'settings.view');
  const doors = readDoors(deps.host.db);
  const tests = BOT_TESTS.all(deps.host.db);
  const bots = readBots(deps.host.db).map((b): BotLine => {
    const found = faultsByBot(deps).get(b.id) ?? [];
    return {
      id: b.id,
      name: b.name,
      liveVersion: b.liveVersion,
      draftDiffers: differing(deps).has(b.id),
      doors: doors.filter((d) => botsOfDoor(d).includes(b.id)).length,
      languages: b.draft.languages,
      tests: tests.filter((t) => t.botId === b.id).length,
      lines: b.draft.scenes.reduce((n, s) => n + s.steps.length, 0),
      stops: found.filter((f) => f.weight === 'stops').length,
      advice: found.filter((f) => f.weight === 'advice').length,
    };
  });
  return {
    bots,
    mayChange: holds(actor, 'bots.change') && actor.teams === 'all',
    languages: readWorkspace(deps.host.db)?.languages ?? ['en'],
  };
}

/** `scripts` are those that are shown with it: what they refer to is named as far as the reader may see it. */
export function surroundingsOf({ host }: BotsDeps, actor: Actor, scripts: readonly BotScript[] = []): Surroundings {
  mustHold(actor, 'settings.view');
  const { db } = host;
  const plain = (things: readonly Named[]): Named[] => things.map(({ id: thingId, name }) => ({ id: thingId, name }));
  const book = readPhrasebook(db)?.book;
  const meant = new Set(
    scripts
      .flatMap(allSteps)
      .flatMap(referencesOf)
      .flatMap((r) => (r.kind === 'person' ? [r.id] : [])),
  );
  return {
    queues: readQueues(db).map((q) => ({ id: q.id, name: q.name, channels: q.channels })),
    skills: readSkills(db),
    fields: readFields(db),
    groups: plain(GROUPS.all(db)),
    teams: plain(readTeams(db)),
    partners: plain(PARTNERS.all(db)),
    people: sightOf(host, actor).choice((personId) => meant.has(personId)),
    hours: plain(readAllHours(db)),
    languages: readWorkspace(db)?.languages ?? ['en'],
    shared: SHARED_SCENES.all(db).map(({ id: sharedId, name, steps, inputs }) => ({
      id: sharedId,
      name,
      steps,
      inputs,
    })),
    tables: TABLES.all(db).map(({ id: tableId, name, columns }) => ({ id: tableId, name, columns })),
    connectors: CONNECTORS.all(db).map(({ id: connectorId, name, does, inputs, outputs }) => ({
      id: connectorId,
      name,
      does,
      inputs,
      outputs: outputs.map((o) => o.name),
    })),
    intents: (book?.intents ?? []).map(({ id: intentId, label }) => ({ id: intentId, label })),
    lists: (book?.recognised ?? []).map(({ id: listId, label }) => ({ id: listId, label })),
    now: localTime(host.times.floor(), readWorkspace(db)?.zone ?? 'UTC'),
    mayChange: holds(actor, 'bots.change') && actor.teams === 'all',
    mayPublish: holds(actor, 'bots.publish') && actor.teams === 'all',
  };
}

export function viewBot(deps: BotsDeps, actor: Actor, botId: string): BotView {
  mustHold(actor, 'settings.view');
  const { db } = deps.host;
  const bot = knownBot(deps, botId);
  const names = new Map(readPeople(db).map((p) => [p.id, p.name]));
  return {
    ...surroundingsOf(deps, actor, [bot.draft]),
    bot,
    draftDiffers: differing(deps).has(bot.id),
    faults: faultsByBot(deps).get(bot.id) ?? [],
    versions: versionsOf(db, bot.id).map((v) => ({ ...v, by: names.get(v.personId) ?? 'somebody' })),
    tests: deps.trials.of(bot.id),
    doors: readDoors(db)
      .filter((d) => botsOfDoor(d).includes(bot.id))
      .map((d) => ({ id: d.id, name: d.name, channel: d.channel })),
  };
}

/** How customers went through a bot in the last seven days. */
export function viewBotTraffic(deps: BotsDeps, actor: Actor, botId: string): Traffic {
  mustHold(actor, 'settings.view');
  return trafficOf(deps.host.db, knownBot(deps, botId).id, deps.host.times.floor() - LAST_WEEK);
}

/** How conversations with each bot ended in the last seven days, by bot id. */
export function endingsOfBot({ host }: BotsDeps, actor: Actor): Readonly<Record<string, BotEndings>> {
  mustHold(actor, 'settings.view');
  return endingsSince(host.db, host.times.floor() - LAST_WEEK);
}

/** How many drafts differ from what is live. */
export const draftsThatDiffer = (deps: BotsDeps): number => differing(deps).size;

/** Faults of every bot's draft, for To fix. */
export const allBotFaults = (deps: BotsDeps): { bot: Named; fault: BotFault }[] =>
  readBots(deps.host.db).flatMap((b) =>
    (faultsByBot(deps).get(b.id) ?? []).map((fault) => ({ bot: { id: b.id, name: b.name }, fault })),
  );

/** Puts an earlier version's script into the draft, to go on from there. */
export function versionScript(
  deps: BotsDeps,
  actor: Actor,
  asked: Readonly<Record<string, string>>,
): { script: BotScript; against: readonly Difference[] } {
  mustHold(actor, 'settings.view');
  const bot = knownBot(deps, asked.id ?? '');
  const found = readVersion(deps.host.db, bot.id, Number(asked.version));
  if (!found) throw new LaneError('not-found', 'There is no such version.');
  const other =
    asked.against === undefined || asked.against === 'draft'
      ? bot.draft
      : scriptOf(deps.host.db, bot.id, Number(asked.against));
  const names = deps.worlds.worldOf(bot.id).names;
  const nameOf = (thing: string): string =>
    ['queue', 'skill', 'hours'].map((kind) => names.get(`${kind} ${thing}`)).find(Boolean) ?? thing;
  return { script: found.script, against: other ? differences(found.script, other, nameOf) : [] };
}
