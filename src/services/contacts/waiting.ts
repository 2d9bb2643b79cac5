import { parsePhoneNumberFromString } from 'libphonenumber-js';
import { countryOf } from '../../core/messages/country';
import {
  beginCallback,
  type CallbackTalk,
  continueCallback,
  type TalkAct,
  type TalkInput,
  type TalkWords,
} from '../../core/callbacks/dialogue';
import { callWindows } from '../../core/callbacks/windows';
import { localised, type Localised } from '../../core/localised';
import type { StageAct, WaitChoice } from '../../core/routing/clock';
import { expectedWait, spokenWait } from '../../core/routing/expectedwait';
import type { WaitingVisit } from '../../core/routing/floor';
import type { Onward } from '../../core/routing/onward';
import { before } from '../../core/routing/roster';
import { stagesOf } from '../../core/routing/stages';
import { readAsking, writeAsking } from '../../data/askings';
import { type Contact, readContact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import { readDoor } from '../../data/doors';
import { readAllHours } from '../../data/hours';
import type { MessageOption } from '../../data/messages';
import { readWorkspace } from '../../data/workspace';
import type { Host, Tx } from '../ground/host';
import type { Callbacks } from './callbacks';
import type { LiveFloor } from './livefloor';

/** How long somebody may take over each answer about a callback, seconds of the floor. */
const ANSWER_SECONDS = 45;
const CHOICES: Readonly<Record<WaitChoice, Localised>> = {
  keep: { en: 'keep waiting', es: 'seguir esperando', fr: 'patienter', pl: 'czekać dalej' },
  callback: { en: 'be called back', es: 'que me llamen', fr: 'être rappelé', pl: 'poprosić o telefon' },
  message: { en: 'leave a message', es: 'dejar un mensaje', fr: 'laisser un message', pl: 'zostawić wiadomość' },
};
const PRESS: Localised = {
  en: 'press {key} to {what}',
  es: 'pulse {key} para {what}',
  fr: 'appuyez sur {key} pour {what}',
  pl: 'naciśnij {key}, aby {what}',
};
const LEAVE_IT: Localised = {
  en: 'Please leave your message now.',
  es: 'Deje su mensaje ahora.',
  fr: 'Laissez votre message maintenant.',
  pl: 'Proszę zostawić wiadomość.',
};
const THANKS: Localised = {
  en: 'Thank you, we have your message. Goodbye.',
  es: 'Gracias, tenemos su mensaje. Hasta pronto.',
  fr: 'Merci, votre message est enregistré. Au revoir.',
  pl: 'Dziękujemy za wiadomość. Do usłyszenia.',
};
const NOT_KNOWN: Localised = { en: 'a few minutes', es: 'unos minutos', fr: 'quelques minutes', pl: 'kilka minut' };
const built = (words: Localised, language: string) => localised(words, language, ['en']);

/** What a contact is being asked beside its bot: about a callback, or for a message. Undoable until it is over. */
export type Asking =
  | { readonly kind: 'callback'; readonly talk: CallbackTalk; readonly placedAt: number; readonly queueId: string }
  | { readonly kind: 'message' };
type Write = (tx: Tx, contactId: string, text: string, options?: readonly MessageOption[]) => void;

/** What customers hear, are asked and choose while they wait, in their language. */
export type Waiting = ReturnType<typeof createWaiting>;
export function createWaiting(host: Host, floor: LiveFloor, callbacks: Callbacks, write: Write) {
  const languages = () => readWorkspace(host.db)?.languages ?? ['en'];
  const said = (contact: Contact, wording: Localised): string => localised(wording, contact.language, languages());

  /** Fills in the expected wait, spoken as minutes or seconds, and the place in line. */
  function filled(visit: WaitingVisit, text: string, now: number, language: string): string {
    if (!text.includes('{')) return text;
    const others = [...floor.router.floor.waiting.values()].filter(
      (v) => v.queue.id === visit.queue.id && v.channel === visit.channel,
    );
    const place = 1 + others.filter((v) => v !== visit && before(v, visit) < 0).length;
    const seconds = expectedWait(floor.router, visit.queue, visit.channel, place, now);
    const spoken = seconds === null ? null : spokenWait(seconds);
    const unit = new Intl.NumberFormat(language, {
      style: 'unit',
      unit: spoken !== null && spoken >= 60 ? 'minute' : 'second',
      unitDisplay: 'long',
      maximumFractionDigits: 1,
    });
    const wait = spoken === null ? built(NOT_KNOWN, language) : unit.format(spoken >= 60 ? spoken / 60 : spoken);
    return text.replaceAll('{wait}', wait).replaceAll('{place}', String(place));
  }

  function optionsOf(contact: Contact, act: Extract<StageAct, { does: 'ask' }>): MessageOption[] {
    return act.choices.map((c) => ({ key: c.key, label: built(CHOICES[c.what], contact.language) }));
  }

  function perform(tx: Tx, visit: WaitingVisit, act: StageAct): void {
    const contact = readContact(tx.db, visit.contactId);
    if (!contact || (act.does !== 'say' && act.does !== 'ask')) return;
    const text = filled(visit, said(contact, act.wording), tx.floorAt, contact.language);
    if (act.does === 'say') {
      if (text) write(tx, contact.id, text);
      return;
    }
    const options = optionsOf(contact, act);
    const keys =
      contact.channel === 'voice'
        ? options
            .map((o) => built(PRESS, contact.language).replace('{key}', o.key).replace('{what}', o.label))
            .join(', ')
        : options.map((o) => `${o.key} ${o.label}`).join(', ');
    write(tx, contact.id, [text, `${keys.replace(/^./, (c) => c.toUpperCase())}.`].filter(Boolean).join(' '), options);
  }

  /** The question that stands for a waiting visit: the last one that its stages asked. */
  const standing = (visit: WaitingVisit): Extract<StageAct, { does: 'ask' }> | null =>
    stagesOf(visit)
      .slice(0, visit.stage)
      .flatMap((s) => s.acts)
      .filter((a): a is Extract<StageAct, { does: 'ask' }> => a.does === 'ask')
      .at(-1) ?? null;

  function talkWords(contact: Contact, visit: Pick<WaitingVisit, 'queue'>): TalkWords {
    const workspace = readWorkspace(host.db);
    const ofDoor = parsePhoneNumberFromString(readDoor(host.db, contact.doorId)?.address ?? '')?.country;
    return {
      language: contact.language,
      languages: languages(),
      wording: visit.queue.callback.wording,
      zone: workspace?.zone ?? 'UTC',
      country: ofDoor ?? countryOf(workspace?.country ?? ''),
    };
  }

  function carryOut(
    tx: Tx,
    contact: Contact,
    visit: WaitingVisit | null,
    asking: Extract<Asking, { kind: 'callback' }>,
    turn: { talk: CallbackTalk | null; acts: readonly TalkAct[] },
  ): void {
    writeAsking(tx.db, contact.id, turn.talk ? { ...asking, talk: turn.talk } : null);
    for (const act of turn.acts) {
      if (act.do === 'say') write(tx, contact.id, act.text, act.options);
      else if (act.do === 'promise') {
        if (visit) floor.leave(tx, visit.id, 'callback-asked');
        callbacks.promise(tx, {
          contactId: contact.id,
          queueId: asking.queueId,
          placedAt: asking.placedAt,
          number: act.number,
          window: act.window,
        });
      } else if (visit) floor.run(tx, { type: 'chose', visitId: visit.id });
      else tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'closed-by-us' });
    }
    if (turn.talk && visit)
      floor.run(tx, { type: 'still-choosing', visitId: visit.id, until: tx.floorAt + ANSWER_SECONDS * 1000 });
  }

  function offerCallback(tx: Tx, contact: Contact, visit: WaitingVisit, stillWaiting: boolean): void {
    const customer = readCustomer(tx.db, contact.customerId);
    const words = talkWords(contact, visit);
    const own = contact.channel === 'voice' || contact.channel === 'sms' ? (customer?.address ?? null) : null;
    const hoursId = visit.queue.hoursId ?? readDoor(tx.db, contact.doorId)?.hoursId ?? null;
    const hours = readAllHours(tx.db).find((h) => h.id === hoursId) ?? null;
    const turn = beginCallback(own, callWindows(hours, tx.floorAt, 3), words);
    if (turn.talk)
      carryOut(
        tx,
        contact,
        stillWaiting ? visit : null,
        { kind: 'callback', talk: turn.talk, placedAt: visit.placedAt, queueId: visit.queue.id },
        turn,
      );
  }
  function takeMessage(tx: Tx, contact: Contact, wording: Localised): void {
    write(tx, contact.id, said(contact, wording) || built(LEAVE_IT, contact.language));
    writeAsking(tx.db, contact.id, { kind: 'message' });
  }

  return {
    perform,
    /**
     * What the router sends on: the last words, a message, a callback, an outside desk. Gives false when a bot's
     * scene is to take over.
     */
    onward(tx: Tx, visit: WaitingVisit, onward: Onward): boolean {
      const contact = readContact(tx.db, visit.contactId);
      if (!contact) return true;
      writeAsking(tx.db, contact.id, null);
      switch (onward.to) {
        case 'end': {
          const words = said(contact, onward.wording);
          if (words) write(tx, contact.id, words);
          tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'closed-by-us' });
          return true;
        }
        case 'message':
          takeMessage(tx, contact, onward.wording);
          return true;
        case 'callback':
          offerCallback(tx, contact, visit, false);
          return true;
        case 'scene':
          return false;
        default:
          return true;
      }
    },
    /** The customer answers while they wait; gives whether it was an answer to something asked. */
    answers(tx: Tx, contact: Contact, input: TalkInput): boolean {
      const asking = readAsking<Asking>(tx.db, contact.id);
      const visit = [...floor.router.floor.waiting.values()].find((v) => v.contactId === contact.id) ?? null;
      if (asking?.kind === 'message') {
        // A message by voice is words spoken; keys are not one.
        if (input.type === 'key') return true;
        writeAsking(tx.db, contact.id, null);
        write(tx, contact.id, built(THANKS, contact.language));
        tx.emit({ type: 'contact.ended', contactId: contact.id, how: 'message' });
        return true;
      }
      if (asking?.kind === 'callback') {
        const queue = visit?.queue ?? floor.router.floor.queues.get(asking.queueId)?.settings;
        if (queue && (visit === null || visit.choosingUntil !== null)) {
          carryOut(tx, contact, visit, asking, continueCallback(asking.talk, input, talkWords(contact, { queue })));
          return true;
        }
        // They took too long and went on waiting, or somebody has them now.
        writeAsking(tx.db, contact.id, null);
      }
      const act = visit && !visit.callback && visit.offers.length === 0 ? standing(visit) : null;
      if (!visit || !act) return false;
      const word = (input.type === 'key' ? input.key : input.text).trim().toLowerCase();
      const chosen = act.choices.find(
        (c) => c.key === word || built(CHOICES[c.what], contact.language).toLowerCase() === word,
      );
      if (!chosen) return false;
      if (chosen.what === 'keep') floor.run(tx, { type: 'chose', visitId: visit.id });
      else if (chosen.what === 'callback') offerCallback(tx, contact, visit, true);
      else {
        floor.leave(tx, visit.id, 'message-left');
        takeMessage(tx, contact, {});
      }
      return true;
    },
    /** The music that plays for a waiting contact, or null. */
    musicOf(contactId: string): string | null {
      const visit = [...floor.router.floor.waiting.values()].find((v) => v.contactId === contactId);
      if (!visit || visit.callback || visit.channel !== 'voice') return null;
      const played = stagesOf(visit)
        .slice(0, visit.stage)
        .flatMap((s) => s.acts)
        .filter((a) => a.does === 'play')
        .at(-1);
      return played?.does === 'play' ? played.music : null;
    },
  };
}
