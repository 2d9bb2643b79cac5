import { type Connector, replyOf, requestOf } from '../../core/bots/connectors';
import {
  beginning,
  type BotAct,
  type BotInput,
  type BotState,
  type Reply,
  type Request,
} from '../../core/bots/conversation';
import { converse } from '../../core/bots/interpreter';
import type { Program } from '../../core/bots/program';
import { hash32 } from '../../core/chance';
import { isText } from '../../core/channels';
import { speechSeconds } from '../../core/messages/ssml';
import { askingContacts, readBotState } from '../../data/askings';
import { readBot } from '../../data/bots';
import { STAND_IN, secretOf, THE_STAND_IN } from '../../data/connectors';
import { type Contact, readContact } from '../../data/contacts';
import type { Db } from '../../data/database';
import type { Door } from '../../data/doors';
import { takeLaterTexts } from '../../data/latertexts';
import { keepUnheard } from '../../data/phrasebook';
import { clearTimer, setTimer } from '../../data/timers';
import { valuesOf } from '../../data/values';
import type { Ready } from '../bots/programs';
import { bind } from '../ground/bind';
import type { Tx } from '../ground/host';
import { carryOut } from './botacts';
import { type BotRunDeps, forgetPlace, isPrivate, keepState, readyOf, stateOf, worldOf } from './botplace';
import { keepPrivate, opened, withTokens } from './privatevalues';

/**
 * Runs bots for contacts: what they say, remember, ask outside and do, and where a conversation goes on after a stop.
 */
export type BotRun = ReturnType<typeof createBotRun>;

// Running
// --------------------------------------------------------------------------------------------------------------

/**
 * Lets an input happen and carries out what follows; `said` is how the customer's own words stand in the transcript.
 */
function letHappen(
  deps: BotRunDeps,
  tx: Tx,
  contact: Contact,
  ready: Ready,
  before: BotState,
  input: BotInput,
  said: string | null,
): void {
  const { program } = ready;
  const { state, acts } = converse(
    program,
    worldOf(deps, contact),
    before,
    input,
    (request) => deps.answers.answer(contact, request) ?? withoutAsking(ready, request),
  );
  // Private values are kept before anything is written down that may show them.
  const written = new Set<string>();
  for (const act of acts) {
    if (act.type !== 'remember' || !isPrivate(deps, act.name)) continue;
    const token = keepPrivate(tx, contact.id, act.name, String(act.value));
    if (said !== null && written.size === 0) written.add(token);
  }
  if (said !== null)
    deps.hands.customerSaid(
      tx,
      contact.id,
      transcriptOf(deps, tx, contact.id, program, before, acts, said, [...written][0] ?? null, input.type === 'key'),
    );
  let speaking = 0;
  for (const act of acts) {
    carryOut(deps, tx, contact, ready, act, state);
    if (act.type === 'say') speaking += speechSeconds(act.ssml ?? act.text);
    // Silence begins when the bot has spoken.
    if (act.type === 'wait')
      setTimer(
        tx.db,
        'bot-waits',
        contact.id,
        'floor',
        tx.floorAt + Math.ceil((act.seconds + (isText(contact.channel) ? 0 : speaking)) * 1000),
      );
    if (
      act.type === 'heard' &&
      !act.understood &&
      input.type === 'text' &&
      said !== null &&
      !asksPrivate(deps, program, before)
    )
      keepUnheard(tx.db, {
        contactId: contact.id,
        lineId: act.lineId,
        language: before.language,
        text: withTokens(tx.db, contact.id, input.text.slice(0, 300)),
        floorAt: tx.floorAt,
      });
  }
  keepState(deps, tx, contact.id, state);
  // A request is asked once, however often the conversation is looked at meanwhile.
  const { asked } = state;
  if (asked && acts.some((a) => a.type === 'request' && a.request.number === asked.number))
    askOutside(deps, tx, contact, ready, asked);
}

/** The line that listens now, by whatever scene it stands in. */
const listening = (program: Program, state: BotState) =>
  state.lineId === null
    ? undefined
    : program.spaces.get(state.frames.at(-1)?.sharedId ?? null)?.places.get(state.lineId)?.step;

function asksPrivate(deps: BotRunDeps, program: Program, state: BotState): boolean {
  const step = listening(program, state);
  return step?.verb === 'listen' && step.into !== null && isPrivate(deps, step.into.name);
}

/** The customer's words as they are kept: an answer to a private question is its token, understood or not. */
function transcriptOf(
  deps: BotRunDeps,
  tx: Tx,
  contactId: string,
  program: Program,
  before: BotState,
  acts: readonly BotAct[],
  said: string,
  token: string | null,
  key: boolean,
): string {
  if (before.status !== 'listening' || !asksPrivate(deps, program, before)) return withTokens(tx.db, contactId, said);
  if (key) return '•';
  const known = withTokens(tx.db, contactId, said);
  if (known !== said) return known;
  return (
    token ??
    (acts.some((a) => a.type === 'heard' && !a.understood) ? keepPrivate(tx, contactId, 'not understood', said) : said)
  );
}

/** What has to be asked outside and cannot be, since the version knows no such connector. */
function withoutAsking(ready: Ready, request: Request): Reply | null {
  const connector = connectorOf(ready, request);
  if (connector !== null) return null;
  return request.ask === 'do'
    ? { to: 'do', outcome: 'refused', outputs: {} }
    : { to: 'look-up', outcome: 'failed', outputs: {} };
}

const connectorOf = (ready: Ready, request: Request): Connector | null =>
  ready.connectors.get(
    request.ask === 'do'
      ? request.connectorId
      : request.ask === 'look-up' && request.source.from === 'connector'
        ? request.source.connectorId
        : '',
  ) ?? null;

const outsideRequest = (contact: Contact, connector: Connector, request: Request) =>
  requestOf(connector, 'inputs' in request ? request.inputs : {}, `${contact.id}-${request.number}`);

const deskNow = ({ host }: BotRunDeps) => STAND_IN.one(host.db, THE_STAND_IN)?.mood ?? 'usual';

/**
 * The stand-in system’s answers come by the floor's clock, so that a simulated day has them too; those of real hosts
 * when they come.
 */
function askOutside(deps: BotRunDeps, tx: Tx, contact: Contact, ready: Ready, request: Request): void {
  const connector = connectorOf(ready, request);
  if (!connector) return;
  const slow = 'slowAfterSeconds' in request ? request.slowAfterSeconds : null;
  tx.emit({ type: 'bot.asked', contactId: contact.id, number: request.number, connectorId: connector.id });
  let after = Infinity;
  if (connector.host === '') {
    after = Math.min(
      connector.timeoutSeconds,
      deps.outside.system.answer(outsideRequest(contact, connector, request), deskNow(deps), tx.floorAt).seconds,
    );
    if (after <= 0) return botDue(deps, tx, 'outside-answers', contact.id);
    setTimer(tx.db, 'outside-answers', contact.id, 'floor', tx.floorAt + Math.ceil(after * 1000));
  }
  if (slow !== null && slow < after) setTimer(tx.db, 'bot-slow', contact.id, 'floor', tx.floorAt + slow * 1000);
}

function answered(deps: BotRunDeps, tx: Tx, contactId: string, number: number, reply: Reply): void {
  const contact = readContact(tx.db, contactId);
  const state = contact && stateOf(deps, tx.db, contactId);
  const ready = contact && readyOf(deps, contact);
  if (!contact || !state || !ready || state.asked?.number !== number) return;
  clearTimer(tx.db, 'bot-slow', contactId);
  letHappen(deps, tx, contact, ready, state, { type: 'reply', number, reply }, null);
}

/** Asks a real host what a conversation waits for. Its answer is a transaction of its own. */
function sendOut(deps: BotRunDeps, contactId: string): void {
  const contact = readContact(deps.host.db, contactId);
  const state = contact && stateOf(deps, deps.host.db, contactId);
  const ready = contact && readyOf(deps, contact);
  const connector = state?.asked && ready ? connectorOf(ready, state.asked) : null;
  if (!contact || !state?.asked || !connector || connector.host === '') return;
  const { number } = state.asked;
  void deps.outside
    .send(outsideRequest(contact, connector, state.asked), secretOf(deps.host.db, connector.id))
    .then((answer) => {
      // The server may have stopped meanwhile.
      if (deps.host.db.open)
        deps.host.transact((tx) => answered(deps, tx, contactId, number, replyOf(connector, answer)));
    });
}

/** Once it is kept that a bot asks outside, or that its contact is over, what is to leave the house leaves. */
export function hearWhatIsKept(deps: BotRunDeps): void {
  deps.host.listen((events) => {
    for (const e of events) {
      if (e.type === 'bot.asked') sendOut(deps, e.contactId);
      if (e.type === 'contact.ended') sendLater(deps, e.contactId);
    }
  });
}

function sendLater({ host, outside }: BotRunDeps, contactId: string): void {
  host.transact((tx) => {
    for (const { address, text } of takeLaterTexts(tx.db, contactId)) outside.post.text(address, text);
  });
}

function startBot(deps: BotRunDeps, tx: Tx, contact: Contact, input: BotInput): boolean {
  const ready = readyOf(deps, contact);
  if (!ready) return false;
  const values = Object.fromEntries(
    valuesOf(tx.db, contact.id).map((v) => [v.name, opened(tx.db, contact.id, v.value)]),
  );
  letHappen(deps, tx, contact, ready, { ...beginning(contact.language), values }, input, null);
  return true;
}

/** Nothing came for as long as the bot waits, or what it asked for is slow or there. */
export function botDue(
  deps: BotRunDeps,
  tx: Tx,
  kind: 'bot-waits' | 'bot-slow' | 'outside-answers',
  contactId: string,
): void {
  const contact = readContact(tx.db, contactId);
  const state = contact && stateOf(deps, tx.db, contactId);
  const ready = contact && readyOf(deps, contact);
  if (!contact || !state || !ready) return;
  if (kind === 'bot-waits') {
    if (state.status === 'listening') letHappen(deps, tx, contact, ready, state, { type: 'silence' }, null);
    return;
  }
  if (!state.asked) return;
  if (kind === 'bot-slow')
    return void letHappen(deps, tx, contact, ready, state, { type: 'slow', number: state.asked.number }, null);
  const connector = connectorOf(ready, state.asked);
  if (!connector) return;
  const { answer, seconds } = deps.outside.system.answer(
    outsideRequest(contact, connector, state.asked),
    deskNow(deps),
    tx.floorAt,
  );
  answered(
    deps,
    tx,
    contactId,
    state.asked.number,
    replyOf(connector, seconds > connector.timeoutSeconds ? { fault: 'no answer came in time' } : answer),
  );
}

/** Whether a bot has this contact now, or asks something after it. */
export const botHas = (db: Db, contactId: string): boolean => readBotState(db, contactId) !== null;

/**
 * The version of a door's bot that a customer meets: the live one, or for some the one on trial. The same customer
 * always meets the same.
 */
export function versionFor(
  { host, programs }: BotRunDeps,
  door: Door,
  address: string,
): { botId: string; version: number } | null {
  const bot = host.remembered(`bot ${door.botId}`, (db) => readBot(db, door.botId));
  if (!bot || bot.liveVersion === null) return null;
  const tried =
    door.trial !== null &&
    hash32(`${door.id}|${address}`) % 100 < door.trial.percent &&
    programs.of(bot.id, door.trial.version) !== null;
  return { botId: bot.id, version: tried && door.trial ? door.trial.version : bot.liveVersion };
}

export const beginBot = (deps: BotRunDeps, tx: Tx, contact: Contact): boolean =>
  startBot(deps, tx, contact, { type: 'start' });

/**
 * Begins at a scene: a queue sent the contact back, or it is the one after the contact. Gives whether there is such a
 * scene.
 */
export function beginScene(deps: BotRunDeps, tx: Tx, contact: Contact, sceneId: string): boolean {
  const first = readyOf(deps, contact)?.program.spaces.get(null)?.firstOf.get(sceneId);
  return first !== undefined && startBot(deps, tx, contact, { type: 'scene', sceneId });
}

/** The scene that is to run after a person has ended the contact, or null. */
export const afterScene = (deps: BotRunDeps, contact: Contact): string | null =>
  readyOf(deps, contact)?.program.script.afterSceneId ?? null;

/** The customer says something to the bot that has them. */
export function customerSaysToBot(
  deps: BotRunDeps,
  tx: Tx,
  contact: Contact,
  input: Extract<BotInput, { type: 'text' | 'key' }>,
): void {
  const state = stateOf(deps, tx.db, contact.id);
  const ready = readyOf(deps, contact);
  if (!state || !ready) return;
  if (state.status === 'listening') clearTimer(tx.db, 'bot-waits', contact.id);
  letHappen(deps, tx, contact, ready, state, input, input.type === 'key' ? input.key : input.text);
}

/** The customer leaves while the bot has them: where, for those who write bots. */
export function customerLeftBot(deps: BotRunDeps, tx: Tx, contact: Contact): void {
  const state = stateOf(deps, tx.db, contact.id);
  forgetPlace(tx, contact.id);
  if (state && contact.endedAt === null)
    tx.emit({
      type: 'bot.finished',
      contactId: contact.id,
      lineId: state.lineId,
      how: 'left',
      because: null,
      path: state.path,
    });
}

/**
 * After a stop: look-ups that were under way are asked again; whether a change was made is unsure; texts left over
 * are sent.
 */
export function resumeBots(deps: BotRunDeps): void {
  for (const contactId of askingContacts(deps.host.db)) {
    const contact = readContact(deps.host.db, contactId);
    const state = contact && stateOf(deps, deps.host.db, contactId);
    const ready = contact && readyOf(deps, contact);
    const connector = state?.asked && ready ? connectorOf(ready, state.asked) : null;
    if (!state?.asked || !connector || connector.host === '') continue;
    const { number, ask } = state.asked;
    if (ask === 'do')
      deps.host.transact((tx) => answered(deps, tx, contactId, number, { to: 'do', outcome: 'unsure', outputs: {} }));
    else sendOut(deps, contactId);
  }
}

export const createBotRun = (deps: BotRunDeps) => ({
  forget: forgetPlace,
  has: botHas,
  ...bind(deps, {
    hearWhatIsKept,
    versionFor,
    begin: beginBot,
    beginScene,
    afterScene,
    says: customerSaysToBot,
    left: customerLeftBot,
    due: botDue,
    resume: resumeBots,
  }),
});
