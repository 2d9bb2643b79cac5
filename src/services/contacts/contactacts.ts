import { keepAsked } from '../../data/articlequestions';
import { LaneError } from '../../core/errors';
import { isText } from '../../core/channels';
import type { ContactAct, Words } from '../../core/contact/acts';
import type { ContactEnd } from '../../core/measures/facts';
import { writeAsking } from '../../data/askings';
import { writeCallback } from '../../data/callbacks';
import { wordsWritten } from '../../data/contactrows';
import { type Contact, readContact } from '../../data/contacts';
import { legsOf } from '../../data/legs';
import { writeMessage } from '../../data/messages';
import { addAsk, dropAsks } from '../../data/outbox';
import { keepUnheard } from '../../data/phrasebook';
import { lastDealtWith } from '../../data/routermemory';
import { clearTimer, setTimer } from '../../data/timers';
import { passField, privateValuesOf, writeValue } from '../../data/values';
import type { Tx } from '../ground/host';
import { numberCodeTried, sendNumberCode } from './givennumbers';
import { cameToBe } from '../customers/identified';
import { keepPlace } from './botplace';
import type { Hands } from './happening';
import { judgedMood } from './moods';
import { keepPrivate, tokenFor, withTokens } from './privatevalues';
import { refreshQueues } from './settingsofrouter';

type Entering = Extract<ContactAct, { readonly do: 'enter' }>;

function ends(tx: Tx, contactId: string, how: ContactEnd): void {
  const mood = judgedMood(tx.db, contactId);
  tx.emit({ type: 'contact.ended', contactId, how, ...(mood === null ? {} : { mood }) });
}

/** Carries out one act of a contact's step: writes it down, sets its reminders, tells the router, or puts it in the outbox. */
export function carryOutForContact(hands: Hands, tx: Tx, contactId: string, act: ContactAct): void {
  const { advances } = hands;
  switch (act.do) {
    case 'bot-says':
      return write(tx, contactId, 'bot', act);
    case 'person-says':
      return write(tx, contactId, 'person', act, act.personId);
    case 'customer-said':
      return write(tx, contactId, 'customer', { text: customersWords(tx, contactId, act.text, act.secret) });
    case 'end':
      ends(tx, contactId, act.how);
      return hands.outbox.contactOver(tx, contactId);
    case 'asking':
      return writeAsking(tx.db, contactId, act.asking);
    case 'enter':
      return enter(hands, tx, contactId, act);
    case 'leave':
      return void advances(tx, { type: 'leave', visitId: act.visitId, how: act.how });
    case 'chose':
      return void advances(tx, { type: 'chose', visitId: act.visitId });
    case 'told':
      return void tx.emit({ type: 'visit.told', contactId, visitId: act.visitId, seconds: act.seconds });
    case 'still-choosing':
      return void advances(tx, { type: 'still-choosing', visitId: act.visitId, until: act.until });
    case 'outside-call-over':
      return void advances(tx, { type: 'partner-done', callId: act.callId });
    case 'wake':
      return wake(hands, tx, contactId);
    case 'line': {
      const { legId, personId, line } = act;
      return void tx.emit({ type: 'leg.line', contactId, legId, personId, line });
    }
    case 'wrap-up': {
      const { legId, personId, passedOn } = act;
      return void tx.emit({ type: 'leg.wrapping', contactId, legId, personId, passedOn });
    }
    case 'file': {
      const { legId, personId, outcome } = act;
      return void tx.emit({ type: 'leg.filed', contactId, legId, personId, outcome });
    }
    case 'leg-over': {
      const { legId, personId, outcome, handleSeconds, inFront } = act;
      tx.emit({
        type: 'leg.ended',
        contactId,
        legId,
        personId,
        outcome,
        handleSeconds,
        ...(inFront ? { inFront } : {}),
      });
      clearTimer(tx.db, 'leg-rests', legId);
      return void advances(tx, { type: 'leg-ended', personId, legId });
    }
    case 'bot-begins':
      return void tx.emit({ type: 'bot.started', contactId, botId: act.botId, botVersion: act.version });
    case 'bot-mended':
      return void tx.emit({ type: 'bot.mended', contactId, botVersion: act.version });
    case 'place':
      if (act.place === null) dropAsks(tx.db, contactId);
      return keepPlace(hands, tx, contactId, act.place);
    case 'heard': {
      const { lineId, choiceId, understood, intent } = act;
      return void tx.emit({ type: 'bot.heard', contactId, lineId, choiceId, understood, intent });
    }
    case 'unheard':
      return keepUnheard(tx.db, {
        contactId,
        lineId: act.lineId,
        language: act.language,
        text: withTokens(tx.db, contactId, act.text.slice(0, 300)),
        floorAt: tx.floorAt,
      });
    case 'asked-articles':
      return keepAsked(tx.db, {
        contactId,
        lineId: act.lineId,
        language: act.language,
        text: withTokens(tx.db, contactId, act.text.slice(0, 300)),
        articleId: act.articleId,
        floorAt: tx.floorAt,
      });
    case 'remember':
      if (act.secret) keepPrivate(tx, contactId, act.name, act.value);
      else writeValue(tx.db, contactId, act.name, withTokens(tx.db, contactId, act.value));
      return void tx.emit({ type: 'value.set', contactId, name: act.name });
    case 'pass-fields':
      for (const name of act.names) passField(tx.db, contactId, name);
      return;
    case 'identified':
      return cameToBe(tx, contactId, act);
    case 'language':
      return void tx.emit({ type: 'contact.language', contactId, language: act.language });
    case 'bot-over': {
      const { lineId, how, because, path } = act;
      return void tx.emit({ type: 'bot.finished', contactId, lineId, how, because, path });
    }
    case 'send-code':
      return sendNumberCode(tx, hands.outbox, contactId, readContact(tx.db, contactId)?.language ?? 'en', act.number);
    case 'code-tried':
      return numberCodeTried(tx, contactId, act.number, act.right);
    case 'text':
      if (act.to !== null && act.when === 'now') hands.outbox.text(tx, act.to, act.text);
      else if (act.to !== null) hands.outbox.textAfter(tx, contactId, act.to, act.text);
      return void tx.emit({
        type: 'bot.texted',
        contactId,
        lineId: act.lineId,
        when: act.when,
        sent: act.to !== null,
      });
    case 'ask-outside': {
      const { number, connectorId, ask, request } = act;
      tx.emit({ type: 'bot.asked', contactId, number, connectorId });
      const id = addAsk(tx.db, contactId, number, { connectorId, ask, request }, tx.realAt);
      return tx.onceKept(() => hands.sendAsk(id));
    }
    case 'ask-meaning':
      return tx.onceKept(() => hands.hear(contactId, act.number, act.heard));
    case 'message-left':
      return void tx.emit({
        type: 'message.left',
        contactId,
        queueId: act.leftFor?.queueId ?? null,
        needs: act.leftFor?.needs ?? [],
      });
    case 'hold-as-call': {
      const held = hands.here.router.floor.people.get(act.personId)?.open;
      if ([...(held?.entries() ?? [])].some(([legId, leg]) => legId !== act.legId && leg.channel === 'voice'))
        throw new LaneError('not-now', 'You are in a call. End it first.');
      return void hands.advances(tx, { type: 'holds-call', personId: act.personId, legId: act.legId });
    }
    case 'callback': {
      const { callback } = act;
      writeCallback(tx.db, callback);
      return void tx.emit({ type: 'callback.changed', contactId, callbackId: callback.id, state: callback.state });
    }
    case 'ring':
      return setTimer(tx.db, 'dial-ends', act.callId, 'floor', act.until);
    case 'remind':
      return setTimer(tx.db, act.timer, act.id, 'floor', act.at);
    case 'remind-real':
      return setTimer(tx.db, act.timer, act.id, 'real', tx.realAt + act.seconds * 1000);
    case 'forget':
      return clearTimer(tx.db, act.timer, act.id);
  }
}

function wake({ host, here, advances }: Hands, tx: Tx, contactId: string): void {
  for (const leg of legsOf(host.db, contactId)) {
    const open = here.router.floor.people.get(leg.personId)?.open.get(leg.id);
    if (!open || leg.talkEndedAt !== null || !isText(open.channel)) continue;
    if (open.resting) advances(tx, { type: 'rest', personId: leg.personId, legId: leg.id, resting: false });
    here.watchRest(tx, leg);
  }
}

/** Writes words into the transcript. Private values in them become tokens. */
function write(
  tx: Tx,
  contactId: string,
  from: 'customer' | 'bot' | 'person',
  { text, lineId = null, options = [], ssml = null, mayInterrupt = true, image = null }: Words,
  personId: string | null = null,
): void {
  const { seq } = tx.emit({ type: 'message.written', contactId, from, personId, lineId });
  const kept = withTokens(tx.db, contactId, text);
  wordsWritten(tx.db, contactId, { sender: from, text: kept, options });
  writeMessage(tx.db, {
    seq,
    text: kept,
    options,
    ssml: ssml === null ? null : withTokens(tx.db, contactId, ssml),
    mayInterrupt,
    image,
  });
}

/** The customer's words as they are kept: an answer to a private question is its token, understood or not. */
function customersWords(tx: Tx, contactId: string, text: string, secret: string | null): string {
  const known = withTokens(tx.db, contactId, text);
  if (secret === null || known !== text) return known;
  const kept = privateValuesOf(tx.db, contactId).findLast((v) => v.name === secret);
  return kept ? tokenFor(kept.id) : keepPrivate(tx, contactId, secret, text);
}

function enter({ host, here, advances }: Hands, tx: Tx, contactId: string, act: Entering): void {
  const contact: Contact | undefined = readContact(tx.db, contactId);
  if (!here.router.floor.queues.has(act.queueId)) refreshQueues(host, here, (event) => advances(tx, event));
  const queue = here.router.floor.queues.get(act.queueId);
  if (!queue || !contact) throw new Error(`cannot enter queue ${act.queueId} with contact ${contactId}`);
  const { familiar, channels } = queue.settings;
  const kind = act.kind ?? 'live';
  advances(tx, {
    type: 'enter',
    visit: {
      id: tx.ids('visit'),
      contactId,
      queueId: act.queueId,
      // A promised call is a call, by whatever channel it was asked for.
      channel: kind === 'callback' && channels.includes('voice') ? 'voice' : contact.channel,
      placedAt: act.placedAt,
      handOver: act.handOver,
      priority: act.priority,
      familiarId: familiar ? lastDealtWith(tx.db, contact.customerId, tx.floorAt - familiar.days * 86_400_000) : null,
      kind,
      because: act.because,
      passed: [],
      personId: act.personId ?? null,
      opens: act.opens ?? null,
    },
  });
}
