import { requestOf } from '../bots/connectors';
import { beginning, type BotAct, type BotInput, type BotState, type Reply, type Request } from '../bots/conversation';
import { breakOff, converse, type Outcome } from '../bots/interpreter';
import type { Program } from '../bots/program';
import { beginCallback, continueCallback } from '../callbacks/dialogue';
import { isText } from '../channels';
import { type ContactNow, type ReadyBot } from './contact';
import { numberReply, ownNumber } from './numbers';
import { promise } from './promised';
import { talkWords } from './talkwords';
import { botSays, end, enter, botOf, type Going, setLeftFor } from './going';

/** A bot has the contact: what it says, remembers, asks outside and does. */

/** Lets an input happen; `words` is how the customer's own stand in the transcript. */
function letHappen(going: Going, ready: ReadyBot, before: BotState, input: BotInput, words: string | null): void {
  const { contact, world } = going;
  const where = { channel: contact.channel, local: world.local };
  let outcome: Outcome;
  try {
    outcome = converse(ready.program, where, before, input, (request) => {
      const reply = answerHere(going, request) ?? world.answer(request) ?? withoutAsking(ready, request);
      noteArticle(going, before, request, reply);
      return reply;
    });
  } catch (error) {
    // A bot that breaks costs its customer the bot, nothing else.
    world.report(error);
    outcome = breakOff(ready.program, where, before, 'something broke within it');
  }
  carryOut(going, ready, before, outcome, input, words);
}

/** What was asked of the articles, and which answered, is for whoever tends them. */
function noteArticle(going: Going, { lineId, language }: BotState, request: Request, reply: Reply | null): void {
  if (request.ask !== 'article' || reply?.to !== 'article' || lineId === null) return;
  const articleId = reply.article?.id ?? null;
  going.acts.push({ do: 'asked-articles', lineId, language, text: request.query, articleId });
}

function carryOut(
  going: Going,
  ready: ReadyBot,
  before: BotState,
  { state, acts }: Outcome,
  input: BotInput,
  words: string | null,
): void {
  const { contact, world } = going;
  // Private values are kept before anything is written down that may show them.
  const secrets = acts.filter((a) => a.type === 'remember' && world.isPrivate(a.name));
  for (const act of secrets) remember(going, act);
  const secretly = before.status === 'listening' && asksPrivate(going, ready.program, before);
  if (words !== null) {
    const missed = acts.some((a) => a.type === 'heard' && !a.understood);
    const name = secrets[0]?.type === 'remember' ? secrets[0].name : missed ? 'not understood' : null;
    going.acts.push(
      secretly && input.type === 'key'
        ? { do: 'customer-said', text: '•', secret: null }
        : { do: 'customer-said', text: words, secret: secretly ? name : null },
    );
  }
  // What was not understood, or had to be asked back about, is for whoever tends the phrasebook.
  const text = input.type === 'text' ? input.text : before.asked?.ask === 'meaning' ? before.asked.text : null;
  if (state.doubt !== null && before.doubt === null && state.lineId !== null && text !== null)
    going.acts.push({ do: 'unheard', lineId: state.lineId, language: before.language, text });
  let speaking = 0;
  for (const act of acts) {
    if (secrets.includes(act)) continue;
    perform(going, ready, act, state);
    if (act.type === 'say')
      speaking += world.saying({ text: act.ssml ?? act.text, tagged: act.ssml !== null }, contact.language);
    // Silence begins when the bot has spoken.
    if (act.type === 'wait')
      going.acts.push({
        do: 'remind',
        timer: 'bot-waits',
        id: contact.id,
        at: world.now + Math.ceil((act.seconds + (isText(contact.channel) ? 0 : speaking)) * 1000),
      });
    if (act.type === 'heard' && !act.understood && text !== null && !secretly)
      going.acts.push({ do: 'unheard', lineId: act.lineId, language: before.language, text });
  }
  setPlace(going, state);
  // A request is asked once, however often the conversation is looked at meanwhile.
  const { asked } = state;
  if (asked && acts.some((a) => a.type === 'request' && a.request.number === asked.number))
    askOutside(going, ready, asked);
}

function setPlace({ contact, acts }: Going, state: BotState | null): void {
  contact.place = state && (state.status === 'listening' || state.status === 'asking') ? state : null;
  acts.push({ do: 'place', place: contact.place });
}

/** The line that listens now, by whatever scene it stands in. */
const listening = (program: Program, state: BotState) =>
  state.lineId === null
    ? undefined
    : program.spaces.get(state.frames.at(-1)?.sharedId ?? null)?.places.get(state.lineId)?.step;

function asksPrivate({ world }: Going, program: Program, state: BotState): boolean {
  const step = listening(program, state);
  return step?.verb === 'listen' && step.into !== null && world.isPrivate(step.into.name);
}

/** What the contact itself knows. */
function answerHere(going: Going, request: Request): Reply | null {
  if (request.ask === 'number') return numberReply(going, request.given);
  if (request.ask === 'callback') return callbackReply(going, request);
  if (request.ask === 'code') return { to: 'code', right: going.world.isCode(request.telephone, request.code) };
  return null;
}

/** The talk about a call back, carried on: whose numbers are known and which codes were sent is known here only. */
function callbackReply(
  going: Going,
  { queueId, given, offered, windows, talk, input }: Extract<Request, { ask: 'callback' }>,
): Reply {
  const queue = going.world.queues().find((q) => q.id === queueId);
  const words = talkWords(going, queue, offered, false);
  const turn =
    talk !== null && input !== null
      ? continueCallback(talk, input, words)
      : beginCallback(
          given || ownNumber(going.contact),
          going.world.callWindows(queue ?? { hoursId: null }, windows),
          words,
        );
  return { to: 'callback', ...turn };
}

/** What has to be asked outside and cannot be, since the version knows no such connector. */
function withoutAsking(ready: ReadyBot, request: Request): Reply | null {
  if (request.ask === 'meaning' || connectorOf(ready, request)) return null;
  return request.ask === 'do'
    ? { to: 'do', outcome: 'refused', outputs: {} }
    : { to: 'look-up', outcome: 'failed', outputs: {} };
}

export const connectorOf = (ready: ReadyBot, request: Request) =>
  ready.connectors.get(
    request.ask === 'do'
      ? request.connectorId
      : request.ask === 'look-up' && request.source.from === 'connector'
        ? request.source.connectorId
        : '',
  ) ?? null;

function askOutside({ contact, world, acts }: Going, ready: ReadyBot, request: Request): void {
  if (request.ask === 'meaning') {
    const { number, book, text, language } = request;
    acts.push({ do: 'ask-meaning', number, heard: { book, text, language } });
    return;
  }
  const connector = connectorOf(ready, request);
  if (!connector) return;
  acts.push({
    do: 'ask-outside',
    number: request.number,
    ask: request.ask,
    connectorId: connector.id,
    request: requestOf(connector, 'inputs' in request ? request.inputs : {}, `${contact.id}-${request.number}`),
  });
  const slow = 'slowAfterSeconds' in request ? request.slowAfterSeconds : null;
  if (slow !== null)
    acts.push({ do: 'remind', timer: 'bot-slow', id: contact.id, at: world.now + Math.ceil(slow * 1000) });
}

function remember({ world, acts }: Going, act: BotAct): void {
  if (act.type !== 'remember' || (act.scope === 'scene' && !world.isField(act.name))) return;
  acts.push({ do: 'remember', name: act.name, value: String(act.value), secret: world.isPrivate(act.name) });
}

function perform(going: Going, ready: ReadyBot, act: BotAct, state: BotState): void {
  const { contact, world, acts } = going;
  switch (act.type) {
    case 'say': {
      const { type: _type, ...words } = act;
      botSays(going, words);
      break;
    }
    case 'heard': {
      const { type: _type, ...heard } = act;
      acts.push({ do: 'heard', ...heard });
      break;
    }
    case 'remember':
      remember(going, act);
      break;
    case 'identified':
      acts.push({ do: 'identified', customerId: act.customerId, address: act.address });
      break;
    case 'language':
      contact.language = act.language;
      acts.push({ do: 'language', language: act.language });
      break;
    case 'text': {
      const { type: _type, ...text } = act;
      acts.push({ do: 'text', ...text });
      break;
    }
    case 'send-code':
      acts.push({ do: 'send-code', number: act.number });
      break;
    case 'code-tried':
      acts.push({ do: 'code-tried', number: act.number, right: act.right });
      break;
    case 'message': {
      setLeftFor(going, { queueId: queueAt(going, ready.program, act.queueId), needs: act.needs });
      break;
    }
    case 'hand-over': {
      const { target, because } = act;
      acts.push({ do: 'pass-fields', names: because === null ? act.fields : Object.keys(state.values) });
      over(going, act.lineId, because === null ? 'handed-over' : 'failed', because, state);
      enter(
        going,
        queueAt(going, ready.program, act.queueId),
        world.now,
        because === null ? 'the bot handed over' : `the bot failed: ${because}`,
        {
          handOver: act.needs,
          priority: act.priority,
          personId: act.personId,
          opens:
            target.to === 'group'
              ? { to: 'group', groupId: target.groupId }
              : target.to === 'partner'
                ? { to: 'partner', partnerId: target.partnerId }
                : null,
        },
      );
      break;
    }
    case 'promise': {
      acts.push({ do: 'pass-fields', names: act.fields });
      over(going, act.lineId, 'handed-over', null, state);
      promise(going, {
        queueId: queueAt(going, ready.program, act.queueId),
        placedAt: world.now,
        number: act.number,
        window: act.window,
        needs: act.needs,
        priority: 0,
        most: act.most,
      });
      break;
    }
    case 'end':
      // What it asks after the contact ends nothing.
      if (contact.endedAt !== null) break;
      over(going, act.lineId, act.how, null, state);
      end(going, act.how === 'ended' ? 'bot' : 'went-quiet');
      break;
    case 'request':
    case 'wait':
      break;
  }
}

type BotOver = Extract<Going['acts'][number], { readonly do: 'bot-over' }>;
const over = (
  { acts }: Going,
  lineId: string | null,
  how: BotOver['how'],
  because: string | null,
  { path }: BotState,
): void => void acts.push({ do: 'bot-over', lineId, how, because, path });

/** A queue that is there: the one meant, else the script's fallback, else any; nobody is dropped in silence. */
function queueAt({ world }: Going, program: Program, queueId: string): string {
  const there = world.queues();
  return (
    [queueId, program.script.fallbackQueueId].find((id) => there.some((q) => q.id === id)) ?? there[0]?.id ?? queueId
  );
}

function start(going: Going, input: BotInput): boolean {
  const ready = botOf(going);
  if (!ready) return false;
  letHappen(going, ready, { ...beginning(going.contact.language), values: going.world.valuesKnown() }, input, null);
  return true;
}

/** Gives whether there is a bot to begin with. */
export const beginBot = (going: Going): boolean => start(going, { type: 'start' });

/**
 * Begins at a scene: a queue sent the contact back, or it is the one after the contact. Gives whether there is such a
 * scene.
 */
export function beginScene(going: Going, sceneId: string): boolean {
  meetMended(going);
  return hasScene(botOf(going), sceneId) && start(going, { type: 'scene', sceneId });
}

export const hasScene = (ready: ReadyBot | null, sceneId: string): boolean =>
  ready?.program.spaces.get(null)?.firstOf.has(sceneId) ?? false;

/** The scene that is to run after a person has ended the contact, or null. */
export const afterScene = (going: Going): string | null => botOf(going)?.program.script.afterSceneId ?? null;

/** Goes on with the version that mends words of the one it was with, if there is one. */
function meetMended({ contact, world, acts }: Going): void {
  if (!contact.bot) return;
  const version = world.mended(contact.bot.id, contact.bot.version);
  if (version === contact.bot.version) return;
  contact.bot = { ...contact.bot, version };
  acts.push({ do: 'bot-mended', version });
}

type Talking = ContactNow & { readonly place: BotState };
/** Whether a bot has the contact now, or asks something after it. */
export const isWithBot = (contact: ContactNow): contact is Talking => contact.place !== null;

/** Something comes in for the bot that has the contact; nothing happens when none has. */
export function botTakes(going: Going, input: BotInput): void {
  const { contact, acts } = going;
  if (!isWithBot(contact)) return;
  const { place } = contact;
  const words = input.type === 'key' ? input.key : input.type === 'text' ? input.text : null;
  meetMended(going);
  const ready = botOf(going);
  if (!ready) {
    if (words !== null) acts.push({ do: 'customer-said', text: words, secret: null });
    return dropBot(going, 'its version is not there any more');
  }
  switch (input.type) {
    case 'silence':
      if (place.status !== 'listening') return;
      return letHappen(going, ready, place, input, null);
    case 'slow':
    case 'reply':
      if (place.asked?.number !== input.number) return;
      acts.push({ do: 'forget', timer: 'bot-slow', id: contact.id });
      return letHappen(going, ready, place, input, null);
    default:
      if (place.status === 'listening') acts.push({ do: 'forget', timer: 'bot-waits', id: contact.id });
      return letHappen(going, ready, place, input, words);
  }
}

/** The customer leaves while the bot has them: where, for those who write bots. */
export function leaveBot(going: Going): void {
  const { contact } = going;
  if (!isWithBot(contact)) return;
  const { place } = contact;
  setPlace(going, null);
  if (contact.endedAt === null) over(going, place.lineId, 'left', null, place);
}

/** Its version is not there any more, or what is kept of its place cannot be read: people go on. */
export function dropBot(going: Going, because: string): void {
  const { contact, world } = going;
  const { place } = contact;
  setPlace(going, null);
  if (contact.endedAt !== null) return;
  if (place) over(going, place.lineId, 'failed', because, place);
  const fallback = botOf(going)?.program.script.fallbackQueueId;
  const queueId = (world.queues().find((q) => q.id === fallback) ?? world.queues()[0])?.id;
  if (queueId) enter(going, queueId, world.now, `the bot failed: ${because}`);
}
