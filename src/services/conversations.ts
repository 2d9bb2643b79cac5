import { createHash, randomBytes } from 'node:crypto';
import { beginning, runBot, type BotAct, type BotInput, type BotState } from '../core/bots/interpreter';
import { allSteps, type BotScript } from '../core/bots/model';
import { isText } from '../core/channels';
import { LaneError } from '../core/errors';
import { localised } from '../core/localised';
import { handleSeconds } from '../core/measures/handletime';
import type { ContactEnd } from '../core/measures/facts';
import { readBot, scriptOf } from '../data/bots';
import {
  customerAt, legsOf, messagesOf, openLegsOf, readLeg, privateValuesOf, readBotState, readContact, readCustomer, visitsOf, writeBotState, writeContactKey, writeCustomer, writeMessage, writeValue,
  type Contact, type Leg, type MessageOption,
} from '../data/contacts';
import { readPerson } from '../data/people';
import { callbackOf, openPartnerCalls } from '../data/queues';
import { readFields, readQueues, readWorkspace, type Door } from '../data/settings';
import { clearTimer, setTimer } from '../data/timers';
import type { Db } from '../data/database';
import type { Host, Tx } from './host';
import { openNow } from './opennow';
import type { Callbacks } from './callbacks';
import type { LiveFloor } from './livefloor';
import { createWaiting } from './waiting';
import { keepPrivate, opened, withTokens } from './privatevalues';

/** Where a contact is on its way. */
export type ContactState = 'with-bot' | 'waiting' | 'talking' | 'ended';

export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');

export function contactState(db: Db, contact: Contact): ContactState {
  if (contact.endedAt !== null) return 'ended';
  if (legsOf(db, contact.id).some((l) => l.talkEndedAt === null)) return 'talking';
  if (visitsOf(db, contact.id).some((v) => v.endedAt === null)) return 'waiting';
  if (openPartnerCalls(db).some((c) => c.contactId === contact.id && c.answeredAt !== null)) return 'talking';
  const promised = callbackOf(db, contact.id);
  return promised && promised.endedAt === null ? 'waiting' : 'with-bot';
}

/** One conversation from its start to its filed outcome. All functions run inside a transaction. */
export type Conversations = ReturnType<typeof createConversations>;

export function createConversations(host: Host, floor: LiveFloor, callbacks: Callbacks) {
  function write(tx: Tx, contactId: string, from: 'customer' | 'bot' | 'person', text: string, extra: { personId?: string; lineId?: string | null; options?: readonly MessageOption[] } = {}): void {
    const id = tx.ids('message');
    const personId = extra.personId ?? null;
    const lineId = extra.lineId ?? null;
    const event = tx.emit({ type: 'message.written', contactId, messageId: id, from, personId, lineId });
    writeMessage(tx.db, contactId, { id, seq: event.seq, sender: from, personId, lineId, text, options: extra.options ?? [], floorAt: tx.floorAt });
  }

  const waiting = createWaiting(host, floor, callbacks, (tx, contactId, text, options = []) => write(tx, contactId, 'bot', text, { options }));
  callbacks.legs.over = (tx, leg, outcome) => {
    if (leg.talkEndedAt === null) tx.emit({ type: 'leg.wrapping', contactId: leg.contactId, legId: leg.id, personId: leg.personId, passedOn: false });
    finish(tx, readLeg(tx.db, leg.id) ?? leg, outcome);
  };
  floor.hooks.perform = waiting.perform;
  floor.hooks.onward = (tx, visit, _how, onward) => {
    const contact = readContact(tx.db, visit.contactId);
    if (!contact || waiting.onward(tx, visit, onward) || onward.to !== 'scene') return;
    const robot = readBot(tx.db, onward.botId);
    const script = robot?.liveVersion ? scriptOf(tx.db, robot.id, robot.liveVersion) : undefined;
    const first = script?.scenes.find((s) => s.id === onward.sceneId)?.steps[0];
    // A scene that is gone leads nowhere, so the contact stays with people.
    if (!script || !first || !robot) return void floor.enter(tx, { contactId: contact.id, queueId: visit.queue.id, placedAt: visit.placedAt, handOver: visit.handOver, priority: visit.basePriority, because: 'the scene it was sent to is gone' });
    tx.emit({ type: 'bot.started', contactId: contact.id, botId: robot.id, botVersion: robot.liveVersion ?? 0 });
    bot(tx, readContact(tx.db, contact.id) ?? contact, script, beginning(contact.language), { type: 'scene', lineId: first.id });
  };
  floor.hooks.taken = (tx, visit, legId, personId) => {
    const contact = readContact(tx.db, visit.contactId);
    if (visit.callback) callbacks.dial(tx, visit.contactId, legId);
    const words = contact ? localised(visit.queue.connect.toCustomer, contact.language, host.remembered('workspace', readWorkspace)?.languages ?? ['en']) : '';
    if (words) write(tx, visit.contactId, 'bot', words.replaceAll('{name}', readPerson(tx.db, personId)?.shownName ?? ''));
  };
  floor.hooks.callOver = (tx, call) => {
    const contact = readContact(tx.db, call.contactId);
    if (call.how === 'done' && contact && contact.endedAt === null) tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'partner' });
  };

  /** Private values are left out of the stored place in the script and put back from their own table. */
  function keepState(tx: Tx, contactId: string, state: BotState): void {
    if (state.status !== 'listening') return writeBotState(tx.db, contactId, null);
    const hidden = new Set(privateValuesOf(tx.db, contactId).map((v) => v.name));
    writeBotState(tx.db, contactId, { ...state, values: Object.fromEntries(Object.entries(state.values).filter(([name]) => !hidden.has(name)).map(([name, value]) => [name, withTokens(tx.db, contactId, value)])) });
  }
  function storedState(db: Db, contactId: string): BotState | null {
    const state = readBotState(db, contactId);
    if (!state) return null;
    const plain = Object.fromEntries(Object.entries(state.values).map(([name, value]) => [name, opened(db, contactId, value)]));
    return { ...state, values: { ...plain, ...Object.fromEntries(privateValuesOf(db, contactId).map((v) => [v.name, v.value])) } };
  }

  function bot(tx: Tx, contact: Contact, script: BotScript, state: BotState, input: BotInput): void {
    const { state: after, acts } = runBot(script, { channel: contact.channel, open: true }, state, input);
    for (const act of acts) carryOut(tx, contact, act);
    keepState(tx, contact.id, after);
  }

  function carryOut(tx: Tx, contact: Contact, act: BotAct): void {
    switch (act.type) {
      case 'say':
        write(tx, contact.id, 'bot', withTokens(tx.db, contact.id, act.text), { lineId: act.lineId, options: act.options });
        break;
      case 'heard':
        tx.emit({ type: 'bot.heard', contactId: contact.id, lineId: act.lineId, choiceId: act.choiceId, understood: act.understood });
        break;
      case 'remember':
        // A private value was kept when it was heard.
        if (!isPrivate(act.name)) writeValue(tx.db, contact.id, act.name, withTokens(tx.db, contact.id, act.value));
        tx.emit({ type: 'value.set', contactId: contact.id, name: act.name });
        break;
      case 'hand-over':
        tx.emit({ type: 'bot.finished', contactId: contact.id, lineId: act.lineId, how: act.because === null ? 'handed-over' : 'failed', because: act.because });
        floor.enter(tx, { contactId: contact.id, queueId: act.queueId, placedAt: tx.floorAt, handOver: act.needs, priority: act.priority, because: act.because === null ? 'the bot handed over' : `the bot failed: ${act.because}` });
        break;
      case 'end':
        tx.emit({ type: 'bot.finished', contactId: contact.id, lineId: act.lineId, how: 'ended', because: null });
        tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'bot' });
        break;
    }
  }

  const isPrivate = (name: string): boolean => host.remembered('fields', readFields).some((f) => f.name === name && f.private);

  /** The field that the bot would put the next answer into, when it is a private one. */
  function privateAnswer(script: BotScript, state: BotState): string | null {
    const step = allSteps(script).find((s) => s.id === state.lineId);
    return step?.verb === 'listen' && step.hears.kind === 'text' && isPrivate(step.remember) ? step.remember : null;
  }

  function endTalk(tx: Tx, leg: Leg, contactEnd: ContactEnd | null, passedOn: boolean): void {
    tx.emit({ type: 'leg.wrapping', contactId: leg.contactId, legId: leg.id, personId: leg.personId, passedOn });
    if (contactEnd) tx.emit({ type: 'contact.ended', contactId: leg.contactId, how: contactEnd });
    const wrapUp = wrapUpOf(tx, leg);
    if ((wrapUp.way === 'up-to' || wrapUp.way === 'exactly') && !passedOn) setTimer(tx.db, 'wrap-up-ends', leg.id, 'real', tx.realAt + wrapUp.seconds * 1000);
  }

  /** How the queue of a leg ends wrap-up. */
  const wrapUpOf = (tx: Tx, leg: Leg) => {
    const queueId = visitsOf(tx.db, leg.contactId).find((v) => v.id === leg.visitId)?.queueId;
    return host.remembered('queues', readQueues).find((q) => q.id === queueId)?.wrapUp ?? ({ way: 'person' } as const);
  };
  function finish(tx: Tx, leg: Leg, outcome: string | null): void {
    const contact = readContact(tx.db, leg.contactId);
    if (!contact) return;
    const signs = isText(contact.channel) ? messagesOf(tx.db, contact.id).map((m) => m.floorAt) : [];
    const seconds = handleSeconds(contact.channel, { acceptedAt: leg.acceptedAt, talkEndedAt: leg.talkEndedAt ?? tx.floorAt, endedAt: tx.floorAt, signs });
    tx.emit({ type: 'leg.ended', contactId: contact.id, legId: leg.id, personId: leg.personId, outcome, handleSeconds: seconds });
    clearTimer(tx.db, 'wrap-up-ends', leg.id);
    callbacks.legOver(tx, leg, outcome);
    floor.finishLeg(tx, leg.personId, leg.id);
  }

  return {
    endTalk, finish, wrapUpOf, musicOf: waiting.musicOf,

    /** A contact comes in at a door. Gives its id and the token that only the customer's side holds. */
    start(tx: Tx, door: Door, from: { address: string; name: string | null; language: string | null }): { contactId: string; token: string } {
      const known = customerAt(tx.db, door.channel, from.address);
      const customer = { id: known?.id ?? tx.ids('customer'), channel: door.channel, address: from.address, name: from.name ?? known?.name ?? null };
      if (!known || customer.name !== known.name) writeCustomer(tx.db, customer);
      const contactId = tx.ids('contact');
      const token = randomBytes(24).toString('base64url');
      const language = from.language !== null && door.languages.includes(from.language) ? from.language : (door.languages[0] ?? 'en');
      const robot = host.remembered(`bot ${door.botId}`, (db) => readBot(db, door.botId));
      const version = robot?.liveVersion ?? null;
      tx.emit({ type: 'contact.started', contactId, doorId: door.id, channel: door.channel, customerId: customer.id, language, botId: robot?.id ?? null, botVersion: version });
      writeContactKey(tx.db, contactId, hashToken(token));
      const contact = readContact(tx.db, contactId);
      if (!contact) throw new Error(`contact ${contactId} was not kept`);
      if (!openNow(host, door.hoursId).open) {
        write(tx, contactId, 'bot', localised(door.closedWording, language, door.languages));
        tx.emit({ type: 'contact.ended', contactId, how: 'closed-by-us' });
        return { contactId, token };
      }
      const script = robot && version !== null ? scriptOf(tx.db, robot.id, version) : undefined;
      if (script) bot(tx, contact, script, beginning(language), { type: 'start' });
      // A door whose bot was never published still leads somewhere.
      else if (robot) floor.enter(tx, { contactId, queueId: robot.draft.fallbackQueueId, placedAt: tx.floorAt, handOver: [], priority: 0, because: 'the door’s bot has never been published' });
      return { contactId, token };
    },

    /** The customer writes, speaks or presses a key. While a bot listens it answers; else the words wait for a person. */
    customerSays(tx: Tx, contact: Contact, input: Extract<BotInput, { type: 'text' | 'key' }>): void {
      if (contact.endedAt !== null) throw new LaneError('closed', 'This conversation has ended.');
      const state = storedState(tx.db, contact.id);
      const script = state && contact.botId !== null && contact.botVersion !== null ? scriptOf(tx.db, contact.botId, contact.botVersion) : undefined;
      const said = input.type === 'key' ? input.key : input.text;
      const field = state && script ? privateAnswer(script, state) : null;
      if (!state || !script) {
        write(tx, contact.id, 'customer', withTokens(tx.db, contact.id, said));
        if (!waiting.answers(tx, contact, input)) floor.customerSpoke(tx, contact.id);
      } else if (field === null) write(tx, contact.id, 'customer', withTokens(tx.db, contact.id, said));
      else if (input.type === 'text') write(tx, contact.id, 'customer', keepPrivate(tx, contact.id, field, said.trim()));
      else {
        if (input.key === '#' && state.keyed !== '') keepPrivate(tx, contact.id, field, state.keyed);
        write(tx, contact.id, 'customer', '•');
      }
      if (state && script) bot(tx, contact, script, state, input);
    },

    /** The customer hangs up or closes the window. */
    customerLeaves(tx: Tx, contact: Contact): void {
      if (contact.endedAt !== null) return;
      const leg = legsOf(tx.db, contact.id).find((l) => l.talkEndedAt === null);
      const visit = visitsOf(tx.db, contact.id).find((v) => v.endedAt === null);
      writeBotState(tx.db, contact.id, null);
      if (leg) return endTalk(tx, leg, 'resolved', false);
      // Somebody who was promised a call has hung up, not given up.
      if (callbacks.promised(contact.id)) return;
      const outside = [...floor.router.floor.partnerCalls.values()].find((c) => c.contactId === contact.id);
      if (outside) return void floor.run(tx, { type: 'partner-done', callId: outside.callId });
      if (visit) floor.leave(tx, visit.id, 'gave-up');
      tx.emit({ type: 'contact.ended', contactId: contact.id, how: visit ? 'gave-up' : 'left-bot' });
    },

    personSays(tx: Tx, leg: Leg, text: string): void {
      write(tx, leg.contactId, 'person', withTokens(tx.db, leg.contactId, text), { personId: leg.personId });
    },

    /** The person passes the contact to another queue: a new visit, whose wait starts now. */
    passOn(tx: Tx, leg: Leg, queueId: string): void {
      const queue = host.remembered('queues', readQueues).find((q) => q.id === queueId);
      const contact = readContact(tx.db, leg.contactId);
      if (!queue || !contact) throw new LaneError('not-found', 'There is no such queue.');
      if (!queue.channels.includes(contact.channel)) throw new LaneError('not-valid', `${queue.name} does not take this channel.`, [{ where: 'queueId', what: 'does not take this channel' }]);
      endTalk(tx, leg, null, true);
      const after = legsOf(tx.db, contact.id).find((l) => l.id === leg.id) ?? leg;
      finish(tx, after, null);
      floor.enter(tx, { contactId: contact.id, queueId, placedAt: tx.floorAt, handOver: [], priority: 0, because: 'a person passed it on' });
    },

    /** What somebody who is switched off had open goes back to its queue at the place it had, or is closed. */
    letGo(tx: Tx, personId: string, how: 'return' | 'end'): number {
      const legs = openLegsOf(tx.db, personId);
      for (const leg of legs) {
        const visit = visitsOf(tx.db, leg.contactId).find((v) => v.id === leg.visitId);
        const back = how === 'return' && leg.talkEndedAt === null && visit !== undefined;
        if (leg.talkEndedAt === null) endTalk(tx, leg, back ? null : 'closed-by-us', back);
        finish(tx, readLeg(tx.db, leg.id) ?? leg, null);
        if (back) floor.enter(tx, { contactId: leg.contactId, queueId: visit.queueId, placedAt: visit.placedAt, handOver: visit.handOver, priority: visit.priority, because: 'its person was switched off' });
      }
      return legs.length;
    },

    customerName: (db: Db, contact: Contact): string => {
      const customer = readCustomer(db, contact.customerId);
      return customer?.name ?? customer?.address ?? 'Unknown';
    },
  };
}
