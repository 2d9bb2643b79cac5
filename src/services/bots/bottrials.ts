import { object } from 'yup';
import { replyOf, requestOf } from '../../core/bots/connectors';
import { beginning, type BotAct, type BotState, type Reply, type Request } from '../../core/bots/conversation';
import type { BotScript } from '../../core/bots/model';
import {
  type Calling,
  endingOf,
  madeUp,
  playTurn,
  playTrial,
  saidIn,
  type Setting,
  settingAnswer,
  type Trial,
  type TrialResult,
  type Turn,
} from '../../core/bots/trial';
import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { localised } from '../../core/localised';
import { countryOf } from '../../core/messages/country';
import { holds } from '../../core/people/rights';
import { prefers } from '../../core/routing/order';
import { ableMembers } from '../../core/routing/pass';
import { explain } from '../../core/routing/standing';
import { decisionSentence, otherLines } from '../../core/routing/trail';
import { newVisit } from '../../core/routing/visit';
import { BOT_TESTS, readBot } from '../../data/bots';
import { secretOf } from '../../data/connectors';
import { readFields } from '../../data/fields';
import { readAllHours } from '../../data/hours';
import { readQueue } from '../../data/queuesettings';
import { readSkills } from '../../data/skills';
import { noteTaken } from '../../data/takenfrom';
import { readWorkspace } from '../../data/workspace';
import { articleFor, type BotAnswers } from '../contacts/botanswers';
import { seenContact } from '../contacts/seencontact';
import type { Outside } from './outside';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, id, languageTag, needsSchema, oneOf } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import type { Programs, Ready } from './programs';
import type { Hearing } from './understanding';
import { keepTestSchema, testSchema, type Tried, trySchema } from './trials';

const oneSchema = exactly(object({ id: id('The test') }));
const askSchema = exactly(
  object({
    queueId: id('The queue'),
    channel: oneOf<Channel>(CHANNELS, 'The channel'),
    needs: needsSchema,
    language: languageTag.optional(),
  }),
);

/** What would happen at a hand-over now: the sentence first, then everybody else by reason. */
export type WouldAsk = {
  readonly queue: string;
  readonly needs: string;
  readonly sentence: string;
  readonly others: readonly string[];
  /** What each side hears when a person takes it, in the customer’s and the workspace’s language. */
  readonly toCustomer: string;
  readonly toAgent: string;
  /** The fields that the queue shows, in its order; null for all. */ readonly shows: readonly string[] | null;
};

/** Bots tried before anybody meets them: in a world set by hand, and as tests that are kept. */
export type BotTrials = ReturnType<typeof createBotTrials>;

/** What the functions of this file are given first. */
export type BotTrialsDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly programs: Programs;
  readonly answers: BotAnswers;
  readonly outside: Outside;
  readonly hearing: Hearing;
};

export const testsOf = ({ host }: BotTrialsDeps, botId: string): Trial[] =>
  BOT_TESTS.all(host.db)
    .filter((t) => t.botId === botId)
    .map((t) => ({ ...t.trial, id: t.id, name: t.name }));

function skillName({ host }: BotTrialsDeps): (skillId: string) => string {
  const names = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  return (skillId) => names.get(skillId) ?? skillId;
}

export async function runOne(deps: BotTrialsDeps, ready: Ready, trial: Trial): Promise<TrialResult> {
  const playing = playTrial(ready.program, trial, {
    queueIdOf: deps.answers.queueNamed,
    nameOf: skillName(deps),
    queueName: (queueId) => readQueue(deps.host.db, queueId)?.name ?? queueId,
    callingOf: (queueId) => callingOf(deps, queueId),
  });
  let step = playing.next();
  while (!step.done) step = playing.next(await deps.hearing.ask(step.value));
  return step.value;
}

/** What a queue goes by when its people call back, at no door in particular. */
function callingOf({ host }: Pick<BotTrialsDeps, 'host'>, queueId: string): Calling {
  const queue = readQueue(host.db, queueId);
  const workspace = readWorkspace(host.db);
  return {
    wording: queue?.callback.wording ?? {},
    hours: readAllHours(host.db).find((h) => h.id === queue?.hoursId) ?? null,
    zone: workspace?.zone ?? 'UTC',
    languages: workspace?.languages ?? [],
    country: countryOf(workspace?.country ?? ''),
  };
}

/**
 * What answers a request while a bot is tried: what is set by hand, else tables, articles and what may really be
 * asked.
 */
async function tried(
  deps: BotTrialsDeps,
  ready: Ready,
  setting: Setting,
  request: Request,
  mayAsk: boolean,
): Promise<Reply> {
  const { answers, host, outside } = deps;
  const set = settingAnswer(setting, request, {
    queueIdOf: answers.queueNamed,
    callingOf: (queueId) => callingOf(deps, queueId),
  });
  if (set) return set;
  if (request.ask === 'article')
    return { to: 'article', article: articleFor(host.db, request.query, request.language, request.seen) };
  if (request.ask === 'meaning') return { to: 'meaning', meaning: await deps.hearing.ask(request) };
  // Nothing outside is changed by trying.
  if (request.ask === 'do')
    return madeUp((ready.connectors.get(request.connectorId)?.outputs ?? []).map((o) => o.name));
  if (request.ask !== 'look-up') return { to: 'facts', facts: {} };
  if (request.source.from === 'table') return answers.table(request.source.tableId, request.inputs);
  const connector = ready.connectors.get(request.source.connectorId);
  if (!connector) return { to: 'look-up', outcome: 'failed', outputs: {} };
  // A host outside is asked, with its secret, only for those who may write bots.
  if (connector.host !== '' && !mayAsk) return { to: 'look-up', outcome: 'failed', outputs: {} };
  const asked = requestOf(connector, request.inputs, 'tried');
  const answer =
    connector.host === ''
      ? outside.system.answer(asked, 'usual', host.times.floor()).answer
      : await outside.send(asked, secretOf(host.db, connector.id));
  return replyOf(connector, answer);
}

async function runTurn(
  deps: BotTrialsDeps,
  ready: Ready,
  setting: Setting,
  before: BotState,
  turn: Turn,
  mayAsk: boolean,
): Promise<{ state: BotState; acts: BotAct[]; replies: Reply[]; slow: boolean }> {
  const given = [...turn.replies];
  const replies: Reply[] = [];
  const playing = playTurn(ready.program, setting, before, turn.input);
  let step = playing.next();
  while (!step.done) {
    const kept = given.shift();
    // The talk about a call back is in the line's own words, which may have changed.
    const reply = kept && step.value.ask !== 'callback' ? kept : await tried(deps, ready, setting, step.value, mayAsk);
    replies.push(reply);
    step = playing.next(reply);
  }
  return { ...step.value, replies };
}

const testValue = ({ botId, trial }: { botId: string; trial: Trial }) => ({ botId, trial });

const undoableTests: Readonly<Record<string, Undoable>> = {
  'bot-test': {
    name: 'test of a bot',
    path: () => '/bots',
    read: (db, testId) => {
      const there = BOT_TESTS.one(db, testId);
      return there ? testValue(there) : null;
    },
    restore: (tx, actor, testId, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      const test = value as ReturnType<typeof testValue> | null;
      if (test) BOT_TESTS.write(tx.db, testId, test.trial.name, test);
      else BOT_TESTS.remove(tx.db, testId);
    },
  },
};

/** Runs a script in a world set by hand; all turns anew each time, so that nothing is kept between. */
export async function tryOut(deps: BotTrialsDeps, actor: Actor, input: unknown): Promise<Tried> {
  mustHold(actor, 'settings.view');
  const { script, setting, turns, values = {} } = parse(trySchema, input);
  const ready = deps.programs.draft(script);
  let state = { ...beginning(setting.language), values };
  const shown: Tried['turns'][number][] = [];
  const all: BotAct[] = [];
  for (const turn of turns) {
    const done = await runTurn(deps, ready, setting, state, turn, holds(actor, 'bots.change') && actor.teams === 'all');
    ({ state } = done);
    all.push(...done.acts);
    shown.push({
      input: turn.input,
      replies: done.replies,
      says: saidIn(done.acts),
      acts: done.acts,
      slow: done.slow,
    });
  }
  const over = all.findLast((a) => a.type === 'hand-over' || a.type === 'promise');
  return {
    turns: shown,
    lineId: state.lineId,
    sharedId: state.frames.at(-1)?.sharedId ?? null,
    status: state.status === 'running' ? 'listening' : state.status,
    language: state.language,
    values: { ...state.values, ...state.frames.at(-1)?.values },
    needs: over?.needs ?? state.needs,
    ending: endingOf(state, all, skillName(deps)),
  };
}

/** Keeps a tried conversation with what is expected of it. */
export function keepTest({ host }: BotTrialsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(keepTestSchema, input);
  if (asked.contactId !== null) {
    mustHold(actor, 'conversations.view');
    seenContact(host, actor, asked.contactId);
  }
  return host.transact((tx) => {
    if (!readBot(tx.db, asked.botId)) throw new LaneError('not-found', 'There is no such bot.');
    const before = asked.id === null ? undefined : BOT_TESTS.one(tx.db, asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'This test is not there any more.');
    const testId = asked.id ?? tx.ids('test');
    const after = {
      botId: asked.botId,
      trial: { id: testId, name: asked.name, setting: asked.setting, turns: asked.turns, ending: asked.ending },
    };
    BOT_TESTS.write(tx.db, testId, asked.name, after);
    // Their words go with them.
    if (asked.contactId !== null) noteTaken(tx.db, { kind: 'bot-test', id: testId }, [asked.contactId]);
    recordChange(tx, actor, 'bot-test', testId, before ? testValue(before) : null, after, { label: asked.name });
    return { id: testId };
  });
}

export function removeTest({ host }: BotTrialsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(oneSchema, input);
  return host.transact((tx) => {
    const before = BOT_TESTS.one(tx.db, asked.id);
    if (!before) throw new LaneError('not-found', 'This test is not there any more.');
    BOT_TESTS.remove(tx.db, asked.id);
    recordChange(tx, actor, 'bot-test', asked.id, testValue(before), null, { label: before.name });
    return { id: asked.id };
  });
}

/** Runs one test against the draft, or against a script that is not kept yet. */
export async function runTest(deps: BotTrialsDeps, actor: Actor, input: unknown): Promise<TrialResult> {
  mustHold(actor, 'settings.view');
  const asked = parse(testSchema, input);
  const test = BOT_TESTS.one(deps.host.db, asked.id);
  const bot = test && readBot(deps.host.db, test.botId);
  if (!test || !bot) throw new LaneError('not-found', 'This test is not there any more.');
  return runOne(deps, deps.programs.draft((asked.script as BotScript | undefined) ?? bot.draft), {
    ...test.trial,
    id: test.id,
    name: test.name,
  });
}

/** Who would be asked if a contact were handed over now, by the same rules, without asking anybody. */
export function wouldAsk(deps: BotTrialsDeps, actor: Actor, input: unknown): WouldAsk {
  mustHold(actor, 'settings.view');
  const asked = parse(askSchema, input);
  const queue = readQueue(deps.host.db, asked.queueId);
  if (!queue) throw new LaneError('not-found', 'There is no such queue.');
  const now = deps.host.times.floor();
  const { visit } = newVisit(
    queue,
    0,
    0,
    {
      id: 'tried',
      contactId: 'tried',
      queueId: queue.id,
      channel: asked.channel,
      placedAt: now,
      handOver: asked.needs,
      priority: 0,
      familiarId: null,
      kind: 'live',
      because: '',
      passed: [],
    },
    now,
  );
  const { needs } = visit;
  const sight = sightOf(deps.host, actor);
  const { names } = sight;
  const skills = skillName(deps);
  const first = ableMembers(deps.floor.router, visit, now).sort((a, b) => prefers(deps.floor.router, visit, a, b))[0]
    ?.person;
  const trail = explain(deps.floor.router, visit, now);
  const languages = readWorkspace(deps.host.db)?.languages ?? ['en'];
  return {
    queue: queue.name,
    needs: needs.map((n) => `${skills(n.skillId)} ${n.atLeast}`).join(', '),
    sentence: first
      ? `${names.get(first.id) ?? ''} would be asked first, of ${trail.able} able.`
      : decisionSentence(trail, (p) => names.get(p) ?? p),
    others: otherLines(trail)
      .filter((o) => o.why !== 'left-unasked')
      .map((o) => o.text),
    toCustomer: localised(queue.connect.toCustomer, asked.language ?? 'en', languages).replaceAll(
      '{name}',
      first ? (sight.shownNames.get(first.id) ?? '') : '',
    ),
    toAgent: localised(queue.connect.toAgent, languages[0] ?? 'en', languages),
    shows:
      queue.fields?.flatMap((fieldId) =>
        readFields(deps.host.db)
          .filter((f) => f.id === fieldId)
          .map((f) => f.name),
      ) ?? null,
  };
}

export const createBotTrials = (deps: BotTrialsDeps) => ({
  undoable: undoableTests,
  ...bind(deps, { of: testsOf, run: runOne, tryOut, keepTest, removeTest, runTest, wouldAsk }),
});
