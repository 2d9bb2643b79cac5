import { object, string } from 'yup';
import { mended } from '../../core/bots/checks';
import type { BotFault } from '../../core/bots/faults';
import { botFile, settled } from '../../core/bots/file';
import type { BotScript } from '../../core/bots/model';
import { withReferences } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import { BOT_TESTS, readBot, readBots, SHARED_SCENES, writeDraft } from '../../data/bots';
import { readImage } from '../../data/images';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { recordChange, sameRevision } from '../ground/change';
import { exactly, id, requiredText, whole } from '../ground/schemas';
import { recordSitting } from '../ground/sitting';
import { parse } from '../ground/validate';
import { scriptSchema } from './botschema';
import { type BotsDeps, knownBot } from './botviews';
import { keepImage } from './images';

const draftSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    draft: scriptSchema,
  }),
);

const mendSchema = exactly(
  object({
    botId: id('The bot'),
    check: string().max(40).required('The check is missing'),
    lineId: string().max(80).nullable().defined(),
  }),
);

/** Keeps a draft; nobody meets it until it is published. */
export function saveBot(
  { host, worlds }: BotsDeps,
  actor: Actor,
  input: unknown,
): { id: string; revision: number; faults: BotFault[] } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(draftSchema, input);
  return host.transact((tx) => {
    const before = asked.id === null ? undefined : readBot(tx.db, asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'This bot is not there any more.');
    sameRevision(before, asked.revision, asked.name);
    const botId = asked.id ?? tx.ids('bot');
    const { name, draft } = asked;
    writeDraft(tx.db, botId, name, draft);
    // A version that was published in between begins another sitting.
    recordSitting(
      tx,
      actor,
      'bot',
      botId,
      before ? { name: before.name, draft: before.draft } : null,
      { name, draft },
      ['bot-live'],
    );
    return { id: botId, revision: (before?.revision ?? 0) + 1, faults: worlds.faultsOf(botId, asked.draft) };
  });
}

/** A bot as a file in the product's own format, with the shared scenes it uses and its tests. */
export function botFileOf(deps: BotsDeps, actor: Actor, botId: string): { name: string; text: string } {
  mustHold(actor, 'settings.view');
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

/**
 * Brings a bot in from a file, as a new draft. What is wrong is named by line, and then nothing is taken. Shared
 * scenes that are there by name stay as they are.
 */
export async function bringInBot(
  { host, worlds, reading }: BotsDeps,
  actor: Actor,
  input: unknown,
): Promise<{ id: string }> {
  mustHoldEverywhere(actor, 'bots.change');
  const read = await reading('sent-bot', actor, input);
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
  mustHold(actor, 'settings.view');
  const asked = parse(exactly(object({ id: id('The bot'), draft: scriptSchema })), input);
  return { faults: worlds.faultsOf(asked.id, asked.draft) };
}

/** Mends a fault of a draft that can be mended by one press. */
export function mendBot(deps: BotsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
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
