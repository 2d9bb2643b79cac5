import { object } from 'yup';
import type { Trial, TrialResult } from '../../core/bots/trial';
import { LaneError } from '../../core/errors';
import { type Bot, keepVersion, readBot, scriptOf, setLive, setPlanned } from '../../data/bots';
import { clearTimer, setTimer } from '../../data/timers';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { announce, recordChange, sameRevision } from '../ground/change';
import type { Tx } from '../ground/host';
import { exactly, id, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { type BotsDeps, knownBot } from './botviews';
import { planSchema } from './trials';

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

function makeLive(tx: Tx, botId: string, version: number): void {
  setLive(tx.db, botId, version);
  setPlanned(tx.db, botId, null);
  clearTimer(tx.db, 'bot-goes-live', botId);
}

/** The tests of a bot that its draft does not pass. */
async function failedTests(deps: BotsDeps, bot: Bot) {
  const ready = deps.programs.draft(bot.draft);
  const failed: { readonly trial: Trial; readonly result: TrialResult }[] = [];
  for (const trial of deps.trials.of(bot.id)) {
    const result = await deps.trials.run(ready, trial);
    if (!result.passed) failed.push({ trial, result });
  }
  return failed;
}

/**
 * Makes the draft the next numbered version with all that it uses, live for the next contact or at an instant. What
 * stops contacts bars it, and so does a failing test unless a reason is given, which is kept with the version.
 */
export async function publishBot(deps: BotsDeps, actor: Actor, input: unknown): Promise<{ version: number }> {
  mustHoldEverywhere(actor, 'bots.publish');
  const asked = parse(publishSchema, input);
  const checked = (floorAt: number): Bot => {
    const bot = knownBot(deps, asked.id);
    sameRevision(bot, asked.revision, bot.name);
    const stops = deps.worlds.faultsOf(bot.id, bot.draft).filter((f) => f.weight === 'stops');
    if (stops.length > 0)
      throw new LaneError(
        'cannot-publish',
        `Not published: ${stops[0]?.sentence ?? ''}`,
        stops.map((f) => ({ where: f.lineId ?? 'the script', what: f.sentence })),
      );
    if (asked.at !== null && asked.at <= floorAt)
      throw new LaneError('not-valid', 'The instant it goes live has passed.', [{ where: 'at', what: 'has passed' }]);
    return bot;
  };
  const bot = checked(deps.host.times.floor());
  const failed = deps.trials.of(bot.id).length === 0 ? [] : await failedTests(deps, bot);
  if (failed.length > 0 && (asked.override ?? '') === '')
    throw new LaneError(
      'tests-fail',
      `Not published: ${failed.length === 1 ? `the test “${failed[0]?.trial.name ?? ''}” fails` : `${failed.length} tests fail`}.`,
      failed.map(({ trial, result }) => ({ where: trial.name, what: result.otherwise[0] ?? 'fails' })),
    );
  return deps.host.transact((tx) => {
    // Its tests take a while: what was tried is published, or nothing.
    checked(tx.floorAt);
    const note = [
      asked.note,
      failed.length > 0
        ? `Published although ${failed.map((f) => `“${f.trial.name}”`).join(', ')} ` +
          `${failed.length === 1 ? 'fails' : 'fail'}: ${asked.override ?? ''}`
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
  mustHoldEverywhere(actor, 'bots.publish');
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
  mustHoldEverywhere(actor, 'bots.publish');
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
