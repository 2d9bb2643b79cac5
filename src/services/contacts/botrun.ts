import { type Connector, replyOf, requestOf } from '../../core/bots/connectors';
import {
  beginning,
  type BotAct,
  type BotInput,
  type BotState,
  type Reply,
  type Request,
  type ShownImage,
} from '../../core/bots/conversation';
import { converse } from '../../core/bots/interpreter';
import type { Program } from '../../core/bots/program';
import type { Value } from '../../core/bots/value';
import { hash32 } from '../../core/chance';
import { isText } from '../../core/channels';
import { localTime } from '../../core/hours/weekly';
import { speechSeconds } from '../../core/messages/ssml';
import { askingContacts, readBotState, writeBotState } from '../../data/askings';
import { readBot } from '../../data/bots';
import { HIRE_DESK, secretOf, THE_HIRE_DESK } from '../../data/connectors';
import { type Contact, readContact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import type { Db } from '../../data/database';
import type { Door } from '../../data/doors';
import { readFields } from '../../data/fields';
import { keepLaterText, takeLaterTexts } from '../../data/latertexts';
import type { MessageOption } from '../../data/messages';
import { keepUnheard } from '../../data/phrasebook';
import { readQueues } from '../../data/queuesettings';
import { clearTimer, setTimer } from '../../data/timers';
import { passField, privateValuesOf, valuesOf, writeValue } from '../../data/values';
import { readWorkspace } from '../../data/workspace';
import type { HireDesk } from '../../standins/hiredesk';
import type { Post } from '../../standins/post';
import type { Send } from '../bots/outside';
import type { Programs, Ready } from '../bots/programs';
import type { Host, Tx } from '../ground/host';
import type { BotAnswers } from './botanswers';
import type { LiveFloor } from './livefloor';
import { keepPrivate, opened, withTokens } from './privatevalues';

type Said = {
  readonly lineId: string | null;
  readonly options: readonly MessageOption[];
  readonly ssml: string | null;
  readonly mayInterrupt: boolean;
  readonly image: ShownImage | null;
};
/** What else a bot's doings rest on: the transcript, and work that comes of a message. */
export type BotHands = {
  readonly botSays: (tx: Tx, contactId: string, text: string, said: Said) => void;
  readonly customerSaid: (tx: Tx, contactId: string, text: string) => void;
  readonly leaveMessage: (tx: Tx, contact: Contact, queueId: string, text: string) => void;
};
export type Outside = { readonly hireDesk: HireDesk; readonly send: Send; readonly post: Post };

/** Applies `change` to every text within plain data. */
function mapTexts(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((v) => mapTexts(v, change));
  return typeof value === 'object' && value !== null
    ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, mapTexts(v, change)]))
    : value;
}

/** Runs bots for contacts: what they say, remember, ask outside and do, and where a conversation goes on after a stop. */
export type BotRun = ReturnType<typeof createBotRun>;
export function createBotRun(
  host: Host,
  floor: LiveFloor,
  programs: Programs,
  answers: BotAnswers,
  outside: Outside,
  hands: BotHands,
) {
  const fieldNamed = (name: string) => host.remembered('fields', readFields).find((f) => f.name === name);
  const isPrivate = (name: string): boolean => fieldNamed(name)?.private ?? false;

  // Where a conversation stands ------------------------------------------------------------------------------------------

  /** Private values are left out of the stored place in the script and put back from their own table. */
  function keepState(tx: Tx, contactId: string, state: BotState): void {
    if (state.status !== 'listening' && state.status !== 'asking') return forget(tx, contactId);
    const shown = (values: BotState['values']) =>
      Object.fromEntries(Object.entries(values).filter(([name]) => !isPrivate(name)));
    const kept = {
      ...state,
      values: shown(state.values),
      frames: state.frames.map((f) => ({ ...f, values: shown(f.values) })),
    };
    writeBotState(tx.db, contactId, mapTexts(kept, (text) => withTokens(tx.db, contactId, text)) as BotState);
  }
  function stateOf(db: Db, contactId: string): BotState | null {
    const kept = readBotState(db, contactId);
    if (!kept) return null;
    // What was kept by an earlier step of the product knows less.
    const state = {
      ...beginning(kept.language),
      ...(mapTexts(kept, (text) => opened(db, contactId, text)) as BotState),
    };
    const hidden = privateValuesOf(db, contactId).map(({ name, value }): [string, Value] => [
      name,
      fieldNamed(name)?.type === 'whole' && value.trim() !== '' ? Number(value) : value,
    ]);
    return { ...state, values: { ...state.values, ...Object.fromEntries(hidden) } };
  }
  function forget(tx: Tx, contactId: string): void {
    writeBotState(tx.db, contactId, null);
    for (const kind of ['bot-waits', 'bot-slow', 'outside-answers'] as const) clearTimer(tx.db, kind, contactId);
  }
  const readyOf = (contact: Contact): Ready | null =>
    contact.botId !== null && contact.botVersion !== null ? programs.of(contact.botId, contact.botVersion) : null;
  const worldOf = (contact: Contact) => ({
    channel: contact.channel,
    local: localTime(host.clocks.floor(), host.remembered('workspace', readWorkspace)?.zone ?? 'UTC'),
  });

  // Running --------------------------------------------------------------------------------------------------------------

  /** Lets an input happen and carries out what follows; `said` is how the customer's own words stand in the transcript. */
  function go(tx: Tx, contact: Contact, ready: Ready, before: BotState, input: BotInput, said: string | null): void {
    const { program } = ready;
    const { state, acts } = converse(
      program,
      worldOf(contact),
      before,
      input,
      (request) => answers.answer(contact, request) ?? withoutAsking(ready, request),
    );
    // Private values are kept before anything is written down that may show them.
    const written = new Set<string>();
    for (const act of acts) {
      if (act.type !== 'remember' || !isPrivate(act.name)) continue;
      const token = keepPrivate(tx, contact.id, act.name, String(act.value));
      if (said !== null && written.size === 0) written.add(token);
    }
    if (said !== null)
      hands.customerSaid(
        tx,
        contact.id,
        transcriptOf(tx, contact.id, program, before, acts, said, [...written][0] ?? null, input.type === 'key'),
      );
    let speaking = 0;
    for (const act of acts) {
      carryOut(tx, contact, ready, act, state);
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
        !asksPrivate(program, before)
      )
        keepUnheard(tx.db, {
          contactId: contact.id,
          lineId: act.lineId,
          language: before.language,
          text: withTokens(tx.db, contact.id, input.text.slice(0, 300)),
          floorAt: tx.floorAt,
        });
    }
    keepState(tx, contact.id, state);
    // A request is asked once, however often the conversation is looked at meanwhile.
    const { asked } = state;
    if (asked && acts.some((a) => a.type === 'request' && a.request.number === asked.number))
      askOutside(tx, contact, ready, asked);
  }
  /** The line that listens now, by whatever scene it stands in. */
  const listening = (program: Program, state: BotState) =>
    state.lineId === null
      ? undefined
      : program.spaces.get(state.frames.at(-1)?.sharedId ?? null)?.places.get(state.lineId)?.step;
  function asksPrivate(program: Program, state: BotState): boolean {
    const step = listening(program, state);
    return step?.verb === 'listen' && step.into !== null && isPrivate(step.into.name);
  }
  /** The customer's words as they are kept: an answer to a private question is its token, understood or not. */
  function transcriptOf(
    tx: Tx,
    contactId: string,
    program: Program,
    before: BotState,
    acts: readonly BotAct[],
    said: string,
    token: string | null,
    key: boolean,
  ): string {
    if (before.status !== 'listening' || !asksPrivate(program, before)) return withTokens(tx.db, contactId, said);
    if (key) return '•';
    const known = withTokens(tx.db, contactId, said);
    if (known !== said) return known;
    return (
      token ??
      (acts.some((a) => a.type === 'heard' && !a.understood)
        ? keepPrivate(tx, contactId, 'not understood', said)
        : said)
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
  const deskNow = () => HIRE_DESK.one(host.db, THE_HIRE_DESK)?.mood ?? 'usual';

  /** The hire desk's answers come by the floor's clock, so that a simulated day has them too; those of real hosts when they come. */
  function askOutside(tx: Tx, contact: Contact, ready: Ready, request: Request): void {
    const connector = connectorOf(ready, request);
    if (!connector) return;
    const slow = 'slowAfterSeconds' in request ? request.slowAfterSeconds : null;
    tx.emit({ type: 'bot.asked', contactId: contact.id, number: request.number, connectorId: connector.id });
    let after = Infinity;
    if (connector.host === '') {
      after = Math.min(
        connector.timeoutSeconds,
        outside.hireDesk.answer(outsideRequest(contact, connector, request), deskNow(), tx.floorAt).seconds,
      );
      if (after <= 0) return due(tx, 'outside-answers', contact.id);
      setTimer(tx.db, 'outside-answers', contact.id, 'floor', tx.floorAt + Math.ceil(after * 1000));
    }
    if (slow !== null && slow < after) setTimer(tx.db, 'bot-slow', contact.id, 'floor', tx.floorAt + slow * 1000);
  }
  function answered(tx: Tx, contactId: string, number: number, reply: Reply): void {
    const contact = readContact(tx.db, contactId);
    const state = contact && stateOf(tx.db, contactId);
    const ready = contact && readyOf(contact);
    if (!contact || !state || !ready || state.asked?.number !== number) return;
    clearTimer(tx.db, 'bot-slow', contactId);
    go(tx, contact, ready, state, { type: 'reply', number, reply }, null);
  }
  /** Asks a real host what a conversation waits for. Its answer is a transaction of its own. */
  function sendOut(contactId: string): void {
    const contact = readContact(host.db, contactId);
    const state = contact && stateOf(host.db, contactId);
    const ready = contact && readyOf(contact);
    const connector = state?.asked && ready ? connectorOf(ready, state.asked) : null;
    if (!contact || !state?.asked || !connector || connector.host === '') return;
    const { number } = state.asked;
    void outside
      .send(outsideRequest(contact, connector, state.asked), secretOf(host.db, connector.id))
      .then((answer) => {
        // The server may have stopped meanwhile.
        if (host.db.open) host.transact((tx) => answered(tx, contactId, number, replyOf(connector, answer)));
      });
  }
  host.listen((events) => {
    for (const e of events) {
      if (e.type === 'bot.asked') sendOut(e.contactId);
      if (e.type === 'contact.ended') sendLater(e.contactId);
    }
  });
  function sendLater(contactId: string): void {
    host.transact((tx) => {
      for (const { address, text } of takeLaterTexts(tx.db, contactId)) outside.post.text(address, text);
    });
  }

  function carryOut(tx: Tx, contact: Contact, ready: Ready, act: BotAct, state: BotState): void {
    switch (act.type) {
      case 'say':
        hands.botSays(tx, contact.id, withTokens(tx.db, contact.id, act.text), {
          lineId: act.lineId,
          options: act.options,
          ssml: act.ssml === null ? null : withTokens(tx.db, contact.id, act.ssml),
          mayInterrupt: act.mayInterrupt,
          image: act.image,
        });
        break;
      case 'heard':
        tx.emit({
          type: 'bot.heard',
          contactId: contact.id,
          lineId: act.lineId,
          choiceId: act.choiceId,
          understood: act.understood,
          intent: act.intent,
        });
        break;
      case 'remember':
        if (act.scope === 'scene' && !fieldNamed(act.name)) break;
        if (!isPrivate(act.name))
          writeValue(tx.db, contact.id, act.name, withTokens(tx.db, contact.id, String(act.value)));
        tx.emit({ type: 'value.set', contactId: contact.id, name: act.name });
        break;
      case 'language':
        tx.emit({ type: 'contact.language', contactId: contact.id, language: act.language });
        break;
      case 'text': {
        const own =
          contact.channel === 'voice' || contact.channel === 'sms'
            ? readCustomer(tx.db, contact.customerId)?.address
            : undefined;
        const address = act.to ?? own ?? '';
        const sent = /^\+?[\d ()-]{6,20}$/.test(address);
        if (sent && act.when === 'now') outside.post.text(address, act.text);
        else if (sent) keepLaterText(tx.db, contact.id, address, act.text);
        tx.emit({ type: 'bot.texted', contactId: contact.id, lineId: act.lineId, when: act.when, sent });
        break;
      }
      case 'message':
        hands.leaveMessage(tx, contact, queueAt(ready.program, act.queueId), withTokens(tx.db, contact.id, act.text));
        break;
      case 'hand-over': {
        const { target } = act;
        for (const name of act.because === null ? act.fields : Object.keys(state.values))
          passField(tx.db, contact.id, name);
        tx.emit({
          type: 'bot.finished',
          contactId: contact.id,
          lineId: act.lineId,
          how: act.because === null ? 'handed-over' : 'failed',
          because: act.because,
          path: state.path,
        });
        floor.enter(tx, {
          contactId: contact.id,
          queueId: queueAt(ready.program, act.queueId),
          placedAt: tx.floorAt,
          handOver: act.needs,
          priority: act.priority,
          personId: act.personId,
          opens:
            target.to === 'group'
              ? { to: 'group', groupId: target.groupId }
              : target.to === 'partner'
                ? { to: 'partner', partnerId: target.partnerId }
                : null,
          because: act.because === null ? 'the bot handed over' : `the bot failed: ${act.because}`,
        });
        break;
      }
      case 'end':
        if (readContact(tx.db, contact.id)?.endedAt !== null) break;
        tx.emit({
          type: 'bot.finished',
          contactId: contact.id,
          lineId: act.lineId,
          how: act.how,
          because: null,
          path: state.path,
        });
        tx.emit({ type: 'contact.ended', contactId: contact.id, how: act.how === 'ended' ? 'bot' : 'went-quiet' });
        break;
      case 'request':
      case 'wait':
        break;
    }
  }
  /** A queue that is there: the one meant, else the script's fallback, else any; nobody is dropped in silence. */
  function queueAt(program: Program, queueId: string): string {
    const there = host.remembered('queues', readQueues);
    return (
      [queueId, program.script.fallbackQueueId].find((id) => there.some((q) => q.id === id)) ?? there[0]?.id ?? queueId
    );
  }

  function start(tx: Tx, contact: Contact, input: BotInput): boolean {
    const ready = readyOf(contact);
    if (!ready) return false;
    const values = Object.fromEntries(
      valuesOf(tx.db, contact.id).map((v) => [v.name, opened(tx.db, contact.id, v.value)]),
    );
    go(tx, contact, ready, { ...beginning(contact.language), values }, input, null);
    return true;
  }

  /** Nothing came for as long as the bot waits, or what it asked for is slow or there. */
  function due(tx: Tx, kind: 'bot-waits' | 'bot-slow' | 'outside-answers', contactId: string): void {
    const contact = readContact(tx.db, contactId);
    const state = contact && stateOf(tx.db, contactId);
    const ready = contact && readyOf(contact);
    if (!contact || !state || !ready) return;
    if (kind === 'bot-waits') {
      if (state.status === 'listening') go(tx, contact, ready, state, { type: 'silence' }, null);
      return;
    }
    if (!state.asked) return;
    if (kind === 'bot-slow')
      return void go(tx, contact, ready, state, { type: 'slow', number: state.asked.number }, null);
    const connector = connectorOf(ready, state.asked);
    if (!connector) return;
    const { answer, seconds } = outside.hireDesk.answer(
      outsideRequest(contact, connector, state.asked),
      deskNow(),
      tx.floorAt,
    );
    answered(
      tx,
      contactId,
      state.asked.number,
      replyOf(connector, seconds > connector.timeoutSeconds ? { fault: 'no answer came in time' } : answer),
    );
  }

  return {
    forget,
    /** Whether a bot has this contact now, or asks something after it. */
    has: (db: Db, contactId: string): boolean => readBotState(db, contactId) !== null,
    /** The version of a door's bot that a customer meets: the live one, or for some the one on trial. The same customer always meets the same. */
    versionFor(door: Door, address: string): { botId: string; version: number } | null {
      const bot = host.remembered(`bot ${door.botId}`, (db) => readBot(db, door.botId));
      if (!bot || bot.liveVersion === null) return null;
      const tried =
        door.trial !== null &&
        hash32(`${door.id}|${address}`) % 100 < door.trial.percent &&
        programs.of(bot.id, door.trial.version) !== null;
      return { botId: bot.id, version: tried && door.trial ? door.trial.version : bot.liveVersion };
    },
    begin: (tx: Tx, contact: Contact): boolean => start(tx, contact, { type: 'start' }),
    /** Begins at a scene: a queue sent the contact back, or it is the one after the contact. Gives whether there is such a scene. */
    beginScene(tx: Tx, contact: Contact, sceneId: string): boolean {
      const first = readyOf(contact)?.program.spaces.get(null)?.firstOf.get(sceneId);
      return first !== undefined && start(tx, contact, { type: 'scene', sceneId });
    },
    /** The scene that is to run after a person has ended the contact, or null. */
    afterScene: (contact: Contact): string | null => readyOf(contact)?.program.script.afterSceneId ?? null,
    /** The customer says something to the bot that has them. */
    says(tx: Tx, contact: Contact, input: Extract<BotInput, { type: 'text' | 'key' }>): void {
      const state = stateOf(tx.db, contact.id);
      const ready = readyOf(contact);
      if (!state || !ready) return;
      if (state.status === 'listening') clearTimer(tx.db, 'bot-waits', contact.id);
      go(tx, contact, ready, state, input, input.type === 'key' ? input.key : input.text);
    },
    /** The customer leaves while the bot has them: where, for those who write bots. */
    left(tx: Tx, contact: Contact): void {
      const state = stateOf(tx.db, contact.id);
      forget(tx, contact.id);
      if (state && contact.endedAt === null)
        tx.emit({
          type: 'bot.finished',
          contactId: contact.id,
          lineId: state.lineId,
          how: 'left',
          because: null,
          path: state.path,
        });
    },
    due,
    /** After a stop: look-ups that were under way are asked again; whether a change was made is unsure; texts left over are sent. */
    resume(): void {
      for (const contactId of askingContacts(host.db)) {
        const contact = readContact(host.db, contactId);
        const state = contact && stateOf(host.db, contactId);
        const ready = contact && readyOf(contact);
        const connector = state?.asked && ready ? connectorOf(ready, state.asked) : null;
        if (!state?.asked || !connector || connector.host === '') continue;
        const { number, ask } = state.asked;
        if (ask === 'do')
          host.transact((tx) => answered(tx, contactId, number, { to: 'do', outcome: 'unsure', outputs: {} }));
        else sendOut(contactId);
      }
    },
  };
}
