import { object, string } from 'yup';
import { mended } from '../../core/bots/checks';
import { type Difference, differences } from '../../core/bots/difference';
import type { BotFault } from '../../core/bots/faults';
import { botFile, settled } from '../../core/bots/file';
import type { BotScript, SharedScene } from '../../core/bots/model';
import { withReferences } from '../../core/bots/references';
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
  CONNECTORS,
  endingsSince,
  keepVersion,
  readBot,
  readBots,
  readPhrasebook,
  readVersion,
  scriptOf,
  setLive,
  setPlanned,
  SHARED_SCENES,
  TABLES,
  trafficOf,
  versionsOf,
  writeDraft,
} from '../../data/bots';
import { readImage } from '../../data/images';
import { readPeople, readSkills, type Skill } from '../../data/people';
import { GROUPS, PARTNERS } from '../../data/queues';
import { type Field, readAllHours, readDoors, readFields, readQueues, readWorkspace } from '../../data/settings';
import { clearTimer, setTimer } from '../../data/timers';
import { type Actor, need, needEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { readBotFile } from './botfiles';
import { scriptSchema } from './botschema';
import type { BotTrials } from './bottrials';
import type { BotWorlds } from './botworld';
import { keepImage } from './images';
import type { Programs } from './programs';
import { planSchema } from './trials';

const draftSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    draft: scriptSchema,
  }),
);
const publishSchema = exactly(
  object({
    id: id('The bot'),
    note: text(300, 'The note').defined(),
    override: text(300, 'The reason').nullable().defined(),
    ...planSchema,
  }),
);
const liveSchema = exactly(object({ id: id('The bot'), version: whole(1, 1e6, 'The version') }));
const oneSchema = exactly(object({ id: id('It') }));
const bringSchema = exactly(
  object({ text: string().max(950_000, 'The file is larger than 950 KB').required('The file is empty') }),
);
const mendSchema = exactly(
  object({
    botId: id('The bot'),
    check: string().max(40).required('The check is missing'),
    lineId: string().max(80).nullable().defined(),
  }),
);

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
export type Bots = ReturnType<typeof createBots>;

/** What the functions of this file are given first. */
export type BotsDeps = {
  readonly host: Host;
  readonly programs: Programs;
  readonly worlds: BotWorlds;
  readonly trials: BotTrials;
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

function knownBot({ host }: BotsDeps, botId: string): Bot {
  const bot = readBot(host.db, botId);
  if (!bot) throw new LaneError('not-found', 'There is no such bot.');
  return bot;
}

function makeLive(tx: Tx, botId: string, version: number): void {
  setLive(tx.db, botId, version);
  setPlanned(tx.db, botId, null);
  clearTimer(tx.db, 'bot-goes-live', botId);
}

export function listBots(
  deps: BotsDeps,
  actor: Actor,
): { bots: BotLine[]; mayChange: boolean; languages: readonly string[] } {
  need(actor, 'settings.view');
  const doors = readDoors(deps.host.db);
  const tests = BOT_TESTS.all(deps.host.db);
  const bots = readBots(deps.host.db).map((b): BotLine => {
    const found = faultsByBot(deps).get(b.id) ?? [];
    return {
      id: b.id,
      name: b.name,
      liveVersion: b.liveVersion,
      draftDiffers: differing(deps).has(b.id),
      doors: doors.filter((d) => d.botId === b.id).length,
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

export function surroundingsOf({ host }: BotsDeps, actor: Actor): Surroundings {
  need(actor, 'settings.view');
  const { db } = host;
  const plain = (things: readonly Named[]): Named[] => things.map(({ id: thingId, name }) => ({ id: thingId, name }));
  const book = readPhrasebook(db)?.book;
  return {
    queues: readQueues(db).map((q) => ({ id: q.id, name: q.name, channels: q.channels })),
    skills: readSkills(db),
    fields: readFields(db),
    groups: plain(GROUPS.all(db)),
    partners: plain(PARTNERS.all(db)),
    people: plain(readPeople(db).filter((p) => p.active)),
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
    now: localTime(host.clocks.floor(), readWorkspace(db)?.zone ?? 'UTC'),
    mayChange: holds(actor, 'bots.change') && actor.teams === 'all',
    mayPublish: holds(actor, 'bots.publish') && actor.teams === 'all',
  };
}

export function viewBot(deps: BotsDeps, actor: Actor, botId: string): BotView {
  need(actor, 'settings.view');
  const { db } = deps.host;
  const bot = knownBot(deps, botId);
  const names = new Map(readPeople(db).map((p) => [p.id, p.name]));
  return {
    ...surroundingsOf(deps, actor),
    bot,
    draftDiffers: differing(deps).has(bot.id),
    faults: faultsByBot(deps).get(bot.id) ?? [],
    versions: versionsOf(db, bot.id).map((v) => ({ ...v, by: names.get(v.personId) ?? 'somebody' })),
    tests: deps.trials.of(bot.id),
    doors: readDoors(db)
      .filter((d) => d.botId === bot.id)
      .map((d) => ({ id: d.id, name: d.name, channel: d.channel })),
  };
}

/** How customers went through a bot in the last seven days. */
export function viewBotTraffic(deps: BotsDeps, actor: Actor, botId: string): Traffic {
  need(actor, 'settings.view');
  return trafficOf(deps.host.db, knownBot(deps, botId).id, deps.host.clocks.floor() - LAST_WEEK);
}

/** How conversations with each bot ended in the last seven days, by bot id. */
export function endingsOfBot({ host }: BotsDeps, actor: Actor): Readonly<Record<string, BotEndings>> {
  need(actor, 'settings.view');
  return endingsSince(host.db, host.clocks.floor() - LAST_WEEK);
}

/** How many drafts differ from what is live. */
export const draftsThatDiffer = (deps: BotsDeps): number => differing(deps).size;

/** Faults of every bot's draft, for To fix. */
export const allBotFaults = (deps: BotsDeps): { bot: Named; fault: BotFault }[] =>
  readBots(deps.host.db).flatMap((b) =>
    (faultsByBot(deps).get(b.id) ?? []).map((fault) => ({ bot: { id: b.id, name: b.name }, fault })),
  );

/** Keeps a draft; nobody meets it until it is published. */
export function saveBot(
  { host, worlds }: BotsDeps,
  actor: Actor,
  input: unknown,
): { id: string; revision: number; faults: BotFault[] } {
  needEverywhere(actor, 'bots.change');
  const asked = parse(draftSchema, input);
  return host.transact((tx) => {
    const before = asked.id === null ? undefined : readBot(tx.db, asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'This bot is not there any more.');
    sameRevision(before, asked.revision, asked.name);
    const botId = asked.id ?? tx.ids('bot');
    writeDraft(tx.db, botId, asked.name, asked.draft);
    recordChange(tx, actor, 'bot', botId, before && { name: before.name, draft: before.draft }, {
      name: asked.name,
      draft: asked.draft,
    });
    return { id: botId, revision: (before?.revision ?? 0) + 1, faults: worlds.faultsOf(botId, asked.draft) };
  });
}

/** A bot as a file in the product's own format, with the shared scenes it uses and its tests. */
export function botFileOf(deps: BotsDeps, actor: Actor, botId: string): { name: string; text: string } {
  need(actor, 'settings.view');
  const bot = knownBot(deps, botId);
  const { names } = deps.worlds.worldOf(bot.id);
  return {
    name: `${bot.name}.json`,
    text: botFile(
      {
        name: bot.name,
        script: bot.draft,
        shared: deps.programs.pinsOf(bot.draft).shared,
        tests: deps.trials.of(bot.id),
      },
      (key) => names.get(key),
      (imageId) => readImage(deps.host.db, imageId)?.bytes.toString('base64'),
    ),
  };
}

/** Brings a bot in from a file, as a new draft. What is wrong is named by line, and then nothing is taken. Shared scenes that are there by name stay as they are. */
export function bringInBot({ host, worlds }: BotsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'bots.change');
  const { text: file } = parse(bringSchema, input);
  const read = readBotFile(file);
  return host.transact((tx) => {
    for (const data of Object.values(read.images ?? {})) keepImage(tx, data);
    const here = settled(read, worlds.worldOf(null).names);
    const scenes = SHARED_SCENES.all(tx.db);
    const made = new Map<string, string>();
    for (const { id: sharedId, name, steps, inputs } of here.shared) {
      const there = scenes.find((s) => s.id === sharedId || s.name.toLowerCase() === name.toLowerCase());
      if (there) {
        if (there.id !== sharedId) made.set(sharedId, there.id);
        continue;
      }
      const newId = tx.ids('shared_scene');
      made.set(sharedId, newId);
      SHARED_SCENES.write(tx.db, newId, name, { steps, inputs });
      recordChange(tx, actor, 'shared-scene', newId, null, { name, steps, inputs }, { label: name });
    }
    const script: BotScript = {
      ...here.script,
      scenes: here.script.scenes.map((scene) => ({
        ...scene,
        steps: scene.steps.map((step) =>
          withReferences(step, (r) => (r.kind === 'shared' ? (made.get(r.id) ?? r.id) : r.id)),
        ),
      })),
    };
    const names = new Set(readBots(tx.db).map((b) => b.name.toLowerCase()));
    let { name } = here;
    for (let n = 2; names.has(name.toLowerCase()); n++) name = `${here.name.slice(0, 55)} ${n}`;
    const botId = tx.ids('bot');
    writeDraft(tx.db, botId, name, script);
    for (const test of here.tests) {
      const testId = tx.ids('test');
      BOT_TESTS.write(tx.db, testId, test.name, { botId, trial: { ...test, id: testId } });
    }
    recordChange(tx, actor, 'bot', botId, null, { name, draft: script });
    return { id: botId };
  });
}

/** What the checks say of a script that is not kept yet. */
export function checkBot({ worlds }: BotsDeps, actor: Actor, input: unknown): { faults: BotFault[] } {
  need(actor, 'settings.view');
  const asked = parse(exactly(object({ id: id('The bot'), draft: scriptSchema })), input);
  return { faults: worlds.faultsOf(asked.id, asked.draft) };
}

/** Mends a fault of a draft that can be mended by one press. */
export function mendBot(deps: BotsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'bots.change');
  const asked = parse(mendSchema, input);
  const bot = knownBot(deps, asked.botId);
  const fault = deps.worlds
    .faultsOf(bot.id, bot.draft)
    .find((f) => f.check === asked.check && f.lineId === asked.lineId && f.fix);
  if (!fault?.fix) throw new LaneError('not-found', 'This is mended already.');
  const { id: botId } = saveBot(deps, actor, {
    id: bot.id,
    revision: bot.revision,
    name: bot.name,
    draft: mended(bot.draft, fault.fix),
  });
  return { id: botId };
}

/**
 * Makes the draft the next numbered version with all that it uses, live for the next contact or at an instant. What stops
 * contacts bars it, and so does a failing test unless a reason is given, which is kept with the version.
 */
export function publishBot(deps: BotsDeps, actor: Actor, input: unknown): { version: number } {
  needEverywhere(actor, 'bots.publish');
  const asked = parse(publishSchema, input);
  return deps.host.transact((tx) => {
    const bot = knownBot(deps, asked.id);
    sameRevision(bot, asked.revision, bot.name);
    const stops = deps.worlds.faultsOf(bot.id, bot.draft).filter((f) => f.weight === 'stops');
    if (stops.length > 0)
      throw new LaneError(
        'cannot-publish',
        `Not published: ${stops[0]?.sentence ?? ''}`,
        stops.map((f) => ({ where: f.lineId ?? 'the script', what: f.sentence })),
      );
    if (asked.at !== null && asked.at <= tx.floorAt)
      throw new LaneError('not-valid', 'The instant it goes live has passed.', [{ where: 'at', what: 'has passed' }]);
    const ready = deps.programs.draft(bot.draft);
    const failed = deps.trials
      .of(bot.id)
      .map((trial) => ({ trial, result: deps.trials.run(ready, trial) }))
      .filter((t) => !t.result.passed);
    if (failed.length > 0 && (asked.override ?? '') === '')
      throw new LaneError(
        'tests-fail',
        `Not published: ${failed.length === 1 ? `the test “${failed[0]?.trial.name ?? ''}” fails` : `${failed.length} tests fail`}.`,
        failed.map(({ trial, result }) => ({ where: trial.name, what: result.otherwise[0] ?? 'fails' })),
      );
    const note = [
      asked.note,
      failed.length > 0
        ? `Published although ${failed.map((f) => `“${f.trial.name}”`).join(', ')} ${failed.length === 1 ? 'fails' : 'fail'}: ${asked.override ?? ''}`
        : '',
    ]
      .filter(Boolean)
      .join(' · ');
    const version = keepVersion(tx.db, bot.id, deps.programs.pinsOf(bot.draft), note, tx.realAt, actor.personId);
    if (asked.at === null) makeLive(tx, bot.id, version);
    else {
      setPlanned(tx.db, bot.id, { version, at: asked.at });
      setTimer(tx.db, 'bot-goes-live', bot.id, 'floor', asked.at);
    }
    recordChange(
      tx,
      actor,
      'bot-live',
      bot.id,
      { version: bot.liveVersion },
      { version, note, at: asked.at },
      { label: bot.name },
    );
    return { version };
  });
}

/** Makes an earlier version live again. */
export function goLive({ host }: BotsDeps, actor: Actor, input: unknown): { version: number } {
  needEverywhere(actor, 'bots.publish');
  const asked = parse(liveSchema, input);
  return host.transact((tx) => {
    const bot = readBot(tx.db, asked.id);
    if (!bot || !scriptOf(tx.db, bot.id, asked.version)) throw new LaneError('not-found', 'There is no such version.');
    makeLive(tx, bot.id, asked.version);
    recordChange(
      tx,
      actor,
      'bot-live',
      bot.id,
      { version: bot.liveVersion },
      { version: asked.version },
      { label: bot.name },
    );
    return { version: asked.version };
  });
}

/** Calls off a version that was to go live later. */
export function callOff(deps: BotsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'bots.publish');
  const asked = parse(oneSchema, input);
  return deps.host.transact((tx) => {
    const bot = knownBot(deps, asked.id);
    if (!bot.planned) throw new LaneError('not-now', 'Nothing is to go live any more.');
    setPlanned(tx.db, bot.id, null);
    clearTimer(tx.db, 'bot-goes-live', bot.id);
    recordChange(tx, actor, 'bot-live', bot.id, { planned: bot.planned }, { planned: null }, { label: bot.name });
    return { id: bot.id };
  });
}

/** The instant has come at which a version goes live. */
export function goesLive(tx: Tx, botId: string): void {
  const bot = readBot(tx.db, botId);
  if (!bot?.planned) return;
  makeLive(tx, botId, bot.planned.version);
  announce(tx, 'bot-live', botId);
}

/** Puts an earlier version's script into the draft, to go on from there. */
export function versionScript(
  deps: BotsDeps,
  actor: Actor,
  asked: Readonly<Record<string, string>>,
): { script: BotScript; against: readonly Difference[] } {
  need(actor, 'settings.view');
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

export const createBots = (deps: BotsDeps) => ({
  goesLive,
  ...bind(deps, {
    list: listBots,
    around: surroundingsOf,
    view: viewBot,
    traffic: viewBotTraffic,
    endings: endingsOfBot,
    drafts: draftsThatDiffer,
    allFaults: allBotFaults,
    save: saveBot,
    file: botFileOf,
    bringIn: bringInBot,
    check: checkBot,
    mend: mendBot,
    publish: publishBot,
    goLive,
    callOff,
    versionScript,
  }),
});
