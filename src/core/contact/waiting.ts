import { ALL_OFFERED, beginCallback, type CallbackTalk, continueCallback, type TalkAct } from '../callbacks/dialogue';
import { numberFormat } from '../formatters';
import type { StageAct } from '../routing/clock';
import type { WaitingVisit } from '../routing/floor';
import { spokenWait } from '../routing/expectedwait';
import type { Onward } from '../routing/onward';
import { stagesOf } from '../routing/stages';
import type { Asking } from './contact';
import { botSays, end, said, setAsking, type Going } from './going';
import type { CustomerInput } from './events';
import { ownNumber } from './numbers';
import { promise } from './promised';
import { talkWords } from './talkwords';
import { builtIn, CHOICES, KEPT, LEAVE_IT, NOT_KNOWN, PRESS, THANKS } from './words';

/** What customers hear, are asked and choose while they wait, in their language. */

/** How long somebody may take over each answer about a call back, seconds of the floor. */
const ANSWER_SECONDS = 45;
/** How many windows they may choose from. */
const WINDOWS = 3;

const inUnits = (amount: number, unit: 'minute' | 'second', language: string): string =>
  numberFormat(language, { style: 'unit', unit, unitDisplay: 'long', maximumFractionDigits: 1 }).format(amount);

/** Fills in the expected wait, spoken as minutes or seconds, and the place in line. */
function filled({ contact, world, acts }: Going, visit: WaitingVisit, text: string): string {
  if (!text.includes('{')) return text;
  const { language } = contact;
  const { place, seconds } = world.ahead(visit);
  const spoken = seconds === null ? null : spokenWait(seconds);
  if (spoken !== null && text.includes('{wait}')) acts.push({ do: 'told', visitId: visit.id, seconds: spoken });
  const wait =
    spoken === null
      ? builtIn(NOT_KNOWN, language)
      : spoken >= 60
        ? inUnits(spoken / 60, 'minute', language)
        : inUnits(spoken, 'second', language);
  return text.replaceAll('{wait}', wait).replaceAll('{place}', String(place));
}

/** A stage of the wait clock says or asks something. */
export function stage(going: Going, visit: WaitingVisit, act: StageAct): void {
  if (act.does !== 'say' && act.does !== 'ask') return;
  // They are talking about a call back: nothing is said into it.
  if (going.contact.asking?.kind === 'callback' && visit.choosingUntil !== null) return;
  const { language, channel } = going.contact;
  const text = filled(going, visit, said(going, act.wording));
  if (act.does === 'say') {
    if (text) botSays(going, { text });
    return;
  }
  const options = act.choices.map((c) => ({ key: c.key, label: builtIn(CHOICES[c.what], language) }));
  const keys =
    channel === 'voice'
      ? options.map((o) => builtIn(PRESS, language).replace('{key}', o.key).replace('{what}', o.label)).join(', ')
      : options.map((o) => `${o.key} ${o.label}`).join(', ');
  botSays(going, {
    text: [text, `${keys.replace(/^./, (c) => c.toUpperCase())}.`].filter(Boolean).join(' '),
    options,
  });
}

/** The question that stands for a waiting visit: the last one that its stages asked. */
const standing = (visit: WaitingVisit): Extract<StageAct, { does: 'ask' }> | null =>
  stagesOf(visit)
    .slice(0, visit.stage)
    .flatMap((s) => s.acts)
    .filter((a): a is Extract<StageAct, { does: 'ask' }> => a.does === 'ask')
    .at(-1) ?? null;

type AskingCallback = Extract<Asking, { readonly kind: 'callback' }>;
type Turn = { readonly talk: CallbackTalk | null; readonly acts: readonly TalkAct[] };

/** Carries on with the talk about a call back; `visit` is the place in line that the customer still has. */
function goOn(going: Going, visit: WaitingVisit | null, asking: AskingCallback, turn: Turn): void {
  const { acts, world } = going;
  setAsking(going, turn.talk ? { ...asking, talk: turn.talk } : null);
  for (const act of turn.acts) {
    if (act.do === 'send-code' || act.do === 'code-tried') acts.push(act);
    else if (act.do === 'say') botSays(going, { text: act.text, options: act.options });
    else if (act.do === 'promise') {
      if (visit) acts.push({ do: 'leave', visitId: visit.id, how: 'callback-asked' });
      promise(going, {
        ...act,
        queueId: asking.queueId,
        placedAt: asking.placedAt,
        needs: asking.needs ?? [],
        priority: asking.priority ?? 0,
        most: null,
      });
    } else if (visit) {
      botSays(going, { text: builtIn(KEPT, going.contact.language) });
      acts.push({ do: 'chose', visitId: visit.id });
    } else end(going, 'closed-by-us');
  }
  if (turn.talk && visit)
    acts.push({ do: 'still-choosing', visitId: visit.id, until: world.now + ANSWER_SECONDS * 1000 });
}

function offerCallback(going: Going, visit: WaitingVisit, stillWaiting: boolean): void {
  const { contact, world } = going;
  const own = ownNumber(contact);
  const turn = beginCallback(
    own,
    world.callWindows(visit.queue, WINDOWS),
    talkWords(going, visit.queue, ALL_OFFERED, true),
  );
  if (!turn.talk) return;
  const asking: AskingCallback = {
    kind: 'callback',
    talk: turn.talk,
    placedAt: visit.placedAt,
    queueId: visit.queue.id,
    needs: visit.handOver,
    priority: visit.basePriority,
  };
  goOn(going, stillWaiting ? visit : null, asking, turn);
}

function takeMessage(going: Going, text: string): void {
  botSays(going, { text: text || builtIn(LEAVE_IT, going.contact.language) });
  setAsking(going, { kind: 'message' });
}

/**
 * The router sends it on: last words, a message, a call back, a partner. Gives false when a bot's scene is to take
 * over.
 */
export function sentOn(going: Going, visit: WaitingVisit, onward: Onward): boolean {
  setAsking(going, null);
  switch (onward.to) {
    case 'end': {
      const words = said(going, onward.wording);
      if (words) botSays(going, { text: words });
      end(going, 'closed-by-us');
      return true;
    }
    case 'message':
      takeMessage(going, said(going, onward.wording));
      return true;
    case 'callback':
      offerCallback(going, visit, false);
      return true;
    case 'scene':
      return false;
    default:
      return true;
  }
}

/** The customer answers while they wait; gives whether it was an answer to something asked. */
export function answers(going: Going, input: CustomerInput): boolean {
  const { contact, world, acts } = going;
  const { asking, visit } = contact;
  if (asking?.kind === 'message') {
    // A message by voice is words spoken; keys are not one.
    if (input.type === 'key') return true;
    setAsking(going, null);
    botSays(going, { text: builtIn(THANKS, contact.language) });
    end(going, 'message');
    return true;
  }
  if (asking?.kind === 'callback') {
    const queue = visit?.queue ?? world.queues().find((q) => q.id === asking.queueId);
    if (queue && (visit === null || visit.choosingUntil !== null)) {
      goOn(going, visit, asking, continueCallback(asking.talk, input, talkWords(going, queue, ALL_OFFERED, true)));
      return true;
    }
    // They took too long and went on waiting, or somebody has them now.
    setAsking(going, null);
  }
  const act = visit && !visit.callback && visit.offers.length === 0 ? standing(visit) : null;
  if (!visit || !act) return false;
  const word = (input.type === 'key' ? input.key : input.text).trim().toLowerCase();
  const chosen = act.choices.find(
    (c) => c.key === word || builtIn(CHOICES[c.what], contact.language).toLowerCase() === word,
  );
  if (!chosen) return false;
  if (chosen.what === 'keep') acts.push({ do: 'chose', visitId: visit.id });
  else if (chosen.what === 'callback') offerCallback(going, visit, true);
  else {
    acts.push({ do: 'leave', visitId: visit.id, how: 'message-left' });
    takeMessage(going, '');
  }
  return true;
}

/** The music that plays for a waiting caller, or null. */
export function musicFor(visit: WaitingVisit | null): string | null {
  if (!visit || visit.callback || visit.channel !== 'voice' || visit.choosingUntil !== null) return null;
  const played = stagesOf(visit)
    .slice(0, visit.stage)
    .flatMap((s) => s.acts)
    .filter((a) => a.does === 'play')
    .at(-1);
  return played?.does === 'play' ? played.music : null;
}
