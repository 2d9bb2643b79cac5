import { createHash, randomBytes } from 'node:crypto';
import type { BotInput, ShownImage } from '../../core/bots/conversation';
import { isText } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { localised } from '../../core/localised';
import type { ContactEnd } from '../../core/measures/facts';
import { handleSeconds } from '../../core/measures/handletime';
import { readBotState } from '../../data/askings';
import { readBot } from '../../data/bots';
import { callbackOf } from '../../data/callbacks';
import { type Contact, readContact, writeContactKey } from '../../data/contacts';
import { customerAt, readCustomer, writeCustomer } from '../../data/customers';
import type { Db } from '../../data/database';
import type { Door } from '../../data/doors';
import { type Leg, legsOf, openLegsOf, readLeg } from '../../data/legs';
import { type MessageOption, messagesOf, writeMessage } from '../../data/messages';
import { readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { openPartnerCalls } from '../../data/routermemory';
import { clearTimer, setTimer } from '../../data/timers';
import { visitsOf } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import type { Programs } from '../bots/programs';
import { openNow } from '../doors/opennow';
import type { Host, Tx } from '../ground/host';
import type { BotAnswers } from './botanswers';
import type { Outside } from './botplace';
import { createBotRun } from './botrun';
import type { Callbacks } from './callbacks';
import type { LiveFloor } from './livefloor';
import { withTokens } from './privatevalues';
import { createWaiting } from './waiting';

/** Where a contact is on its way. `after` is over, but for what its bot asks at the end. */
export type ContactState = 'with-bot' | 'waiting' | 'talking' | 'after' | 'ended';

export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');

export function contactState(db: Db, contact: Contact): ContactState {
  if (contact.endedAt !== null) return readBotState(db, contact.id) === null ? 'ended' : 'after';
  if (legsOf(db, contact.id).some((l) => l.talkEndedAt === null)) return 'talking';
  if (visitsOf(db, contact.id).some((v) => v.endedAt === null)) return 'waiting';
  if (openPartnerCalls(db).some((c) => c.contactId === contact.id && c.answeredAt !== null)) return 'talking';
  const promised = callbackOf(db, contact.id);
  return promised && promised.endedAt === null ? 'waiting' : 'with-bot';
}

/** One conversation from its start to its filed outcome. All functions run inside a transaction. */
export type Conversations = ReturnType<typeof createConversations>;

export function createConversations(
  host: Host,
  floor: LiveFloor,
  callbacks: Callbacks,
  programs: Programs,
  answers: BotAnswers,
  outside: Outside,
) {
  type Extra = {
    personId?: string;
    lineId?: string | null;
    options?: readonly MessageOption[];
    ssml?: string | null;
    mayInterrupt?: boolean;
    image?: ShownImage | null;
  };
  function write(
    tx: Tx,
    contactId: string,
    from: 'customer' | 'bot' | 'person',
    text: string,
    extra: Extra = {},
  ): void {
    const id = tx.ids('message');
    const personId = extra.personId ?? null;
    const lineId = extra.lineId ?? null;
    const event = tx.emit({ type: 'message.written', contactId, messageId: id, from, personId, lineId });
    writeMessage(tx.db, contactId, {
      id,
      seq: event.seq,
      sender: from,
      personId,
      lineId,
      text,
      options: extra.options ?? [],
      floorAt: tx.floorAt,
      ssml: extra.ssml ?? null,
      mayInterrupt: extra.mayInterrupt ?? true,
      image: extra.image ?? null,
    });
  }

  const bots = createBotRun({
    host,
    floor,
    programs,
    answers,
    outside,
    hands: {
      botSays: (tx, contactId, text, said) => write(tx, contactId, 'bot', text, said),
      customerSaid: (tx, contactId, text) => write(tx, contactId, 'customer', text),
      leaveMessage,
    },
  });
  bots.hearWhatIsKept();
  /**
   * A message becomes work of its own for a queue: a text contact that somebody answers, or a call to make where only
   * calls are taken.
   */
  function leaveMessage(tx: Tx, contact: Contact, queueId: string, text: string): void {
    const queue = host.remembered('queues', readQueues).find((q) => q.id === queueId);
    const channel = queue?.channels.find(isText);
    const contactId = tx.ids('contact');
    tx.emit({
      type: 'contact.started',
      contactId,
      doorId: contact.doorId,
      channel: channel ?? contact.channel,
      customerId: contact.customerId,
      language: contact.language,
      botId: null,
      botVersion: null,
    });
    write(tx, contactId, 'customer', text);
    if (channel)
      floor.enter(tx, {
        contactId,
        queueId,
        placedAt: tx.floorAt,
        handOver: [],
        priority: 0,
        because: 'a message was left with the bot',
      });
    else
      callbacks.promise(tx, {
        contactId,
        queueId,
        placedAt: tx.floorAt,
        number: readCustomer(tx.db, contact.customerId)?.address ?? '',
        window: null,
      });
  }

  const waiting = createWaiting(host, floor, callbacks, (tx, contactId, text, options = []) =>
    write(tx, contactId, 'bot', text, { options }),
  );
  callbacks.legs.over = (tx, leg, outcome) => {
    if (leg.talkEndedAt === null)
      tx.emit({
        type: 'leg.wrapping',
        contactId: leg.contactId,
        legId: leg.id,
        personId: leg.personId,
        passedOn: false,
      });
    finish(tx, readLeg(tx.db, leg.id) ?? leg, outcome);
  };
  floor.hooks.perform = waiting.perform;
  floor.hooks.onward = (tx, visit, _how, onward) => {
    const contact = readContact(tx.db, visit.contactId);
    if (!contact || waiting.onward(tx, visit, onward) || onward.to !== 'scene') return;
    const robot = readBot(tx.db, onward.botId);
    if (
      robot &&
      robot.liveVersion !== null &&
      programs.of(robot.id, robot.liveVersion)?.program.spaces.get(null)?.firstOf.has(onward.sceneId)
    ) {
      tx.emit({ type: 'bot.started', contactId: contact.id, botId: robot.id, botVersion: robot.liveVersion });
      bots.beginScene(tx, readContact(tx.db, contact.id) ?? contact, onward.sceneId);
      return;
    }
    // A scene that is gone leads nowhere, so the contact stays with people.
    floor.enter(tx, {
      contactId: contact.id,
      queueId: visit.queue.id,
      placedAt: visit.placedAt,
      handOver: visit.handOver,
      priority: visit.basePriority,
      because: 'the scene it was sent to is gone',
    });
  };
  floor.hooks.taken = (tx, visit, legId, personId) => {
    const contact = readContact(tx.db, visit.contactId);
    if (visit.callback) callbacks.dial(tx, visit.contactId, legId);
    const words = contact
      ? localised(
          visit.queue.connect.toCustomer,
          contact.language,
          host.remembered('workspace', readWorkspace)?.languages ?? ['en'],
        )
      : '';
    if (words)
      write(tx, visit.contactId, 'bot', words.replaceAll('{name}', readPerson(tx.db, personId)?.shownName ?? ''));
  };
  floor.hooks.callOver = (tx, call) => {
    const contact = readContact(tx.db, call.contactId);
    if (call.how === 'done' && contact && contact.endedAt === null)
      tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'partner' });
  };

  /**
   * The talk of a leg is over; a customer who is still there may be asked something by the bot's scene after the
   * contact.
   */
  function endTalk(tx: Tx, leg: Leg, contactEnd: ContactEnd | null, passedOn: boolean, customerStays = true): void {
    tx.emit({ type: 'leg.wrapping', contactId: leg.contactId, legId: leg.id, personId: leg.personId, passedOn });
    if (contactEnd) tx.emit({ type: 'contact.ended', contactId: leg.contactId, how: contactEnd });
    const contact = readContact(tx.db, leg.contactId);
    const after = contactEnd === 'resolved' && customerStays && contact ? bots.afterScene(contact) : null;
    if (contact && after !== null) bots.beginScene(tx, contact, after);
    const wrapUp = wrapUpOf(tx, leg);
    if ((wrapUp.way === 'up-to' || wrapUp.way === 'exactly') && !passedOn)
      setTimer(tx.db, 'wrap-up-ends', leg.id, 'real', tx.realAt + wrapUp.seconds * 1000);
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
    const seconds = handleSeconds(contact.channel, {
      acceptedAt: leg.acceptedAt,
      talkEndedAt: leg.talkEndedAt ?? tx.floorAt,
      endedAt: tx.floorAt,
      signs,
    });
    tx.emit({
      type: 'leg.ended',
      contactId: contact.id,
      legId: leg.id,
      personId: leg.personId,
      outcome,
      handleSeconds: seconds,
    });
    clearTimer(tx.db, 'wrap-up-ends', leg.id);
    callbacks.legOver(tx, leg, outcome);
    floor.finishLeg(tx, leg.personId, leg.id);
  }

  return {
    endTalk,
    finish,
    wrapUpOf,
    bots,
    musicOf: waiting.musicOf,

    /** A contact comes in at a door. Gives its id and the token that only the customer's side holds. */
    start(
      tx: Tx,
      door: Door,
      from: { address: string; name: string | null; language: string | null },
    ): { contactId: string; token: string } {
      const known = customerAt(tx.db, door.channel, from.address);
      const customer = {
        id: known?.id ?? tx.ids('customer'),
        channel: door.channel,
        address: from.address,
        name: from.name ?? known?.name ?? null,
      };
      if (!known || customer.name !== known.name) writeCustomer(tx.db, customer);
      const contactId = tx.ids('contact');
      const token = randomBytes(24).toString('base64url');
      const language =
        from.language !== null && door.languages.includes(from.language) ? from.language : (door.languages[0] ?? 'en');
      const meets = bots.versionFor(door, from.address);
      tx.emit({
        type: 'contact.started',
        contactId,
        doorId: door.id,
        channel: door.channel,
        customerId: customer.id,
        language,
        botId: meets?.botId ?? null,
        botVersion: meets?.version ?? null,
      });
      writeContactKey(tx.db, contactId, hashToken(token));
      const contact = readContact(tx.db, contactId);
      if (!contact) throw new Error(`contact ${contactId} was not kept`);
      if (!openNow(host, door.hoursId).open) {
        write(tx, contactId, 'bot', localised(door.closedWording, language, door.languages));
        tx.emit({ type: 'contact.ended', contactId, how: 'closed-by-us' });
        return { contactId, token };
      }
      if (bots.begin(tx, contact)) return { contactId, token };
      // A door whose bot was never published still leads somewhere.
      const queueId = readBot(tx.db, door.botId)?.draft.fallbackQueueId ?? readQueues(tx.db)[0]?.id;
      if (queueId)
        floor.enter(tx, {
          contactId,
          queueId,
          placedAt: tx.floorAt,
          handOver: [],
          priority: 0,
          because: 'the door’s bot has never been published',
        });
      return { contactId, token };
    },

    /**
     * The customer writes, speaks or presses a key. While a bot listens it answers; else the words wait for a person.
     */
    customerSays(tx: Tx, contact: Contact, input: Extract<BotInput, { type: 'text' | 'key' }>): void {
      if (bots.has(tx.db, contact.id)) return bots.says(tx, contact, input);
      if (contact.endedAt !== null) throw new LaneError('closed', 'This conversation has ended.');
      write(tx, contact.id, 'customer', withTokens(tx.db, contact.id, input.type === 'key' ? input.key : input.text));
      if (!waiting.answers(tx, contact, input)) floor.customerSpoke(tx, contact.id);
    },

    /** The customer hangs up or closes the window. */
    customerLeaves(tx: Tx, contact: Contact): void {
      bots.left(tx, contact);
      if (contact.endedAt !== null) return;
      const leg = legsOf(tx.db, contact.id).find((l) => l.talkEndedAt === null);
      const visit = visitsOf(tx.db, contact.id).find((v) => v.endedAt === null);
      if (leg) return endTalk(tx, leg, 'resolved', false, false);
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
      if (!queue.channels.includes(contact.channel))
        throw new LaneError('not-valid', `${queue.name} does not take this channel.`, [
          { where: 'queueId', what: 'does not take this channel' },
        ]);
      endTalk(tx, leg, null, true);
      const after = legsOf(tx.db, contact.id).find((l) => l.id === leg.id) ?? leg;
      finish(tx, after, null);
      floor.enter(tx, {
        contactId: contact.id,
        queueId,
        placedAt: tx.floorAt,
        handOver: [],
        priority: 0,
        because: 'a person passed it on',
      });
    },

    /** What somebody who is switched off had open goes back to its queue at the place it had, or is closed. */
    letGo(tx: Tx, personId: string, how: 'return' | 'end'): number {
      const legs = openLegsOf(tx.db, personId);
      for (const leg of legs) {
        const visit = visitsOf(tx.db, leg.contactId).find((v) => v.id === leg.visitId);
        const back = how === 'return' && leg.talkEndedAt === null && visit !== undefined;
        if (leg.talkEndedAt === null) endTalk(tx, leg, back ? null : 'closed-by-us', back);
        finish(tx, readLeg(tx.db, leg.id) ?? leg, null);
        if (back)
          floor.enter(tx, {
            contactId: leg.contactId,
            queueId: visit.queueId,
            placedAt: visit.placedAt,
            handOver: visit.handOver,
            priority: visit.priority,
            because: 'its person was switched off',
          });
      }
      return legs.length;
    },

    customerName: (db: Db, contact: Contact): string => {
      const customer = readCustomer(db, contact.customerId);
      return customer?.name ?? customer?.address ?? 'Unknown';
    },
  };
}
