import { ALL_OFFERED, beginCallback, type CallbackTalk, continueCallback, type TalkAct } from '../callbacks/dialogue';
import { goodbye } from '../bots/sentences';
import type { StageAct } from '../routing/clock';
import type { WaitingVisit } from '../routing/floor';
import type { Need } from '../routing/needs';
import { spokenWait } from '../routing/expectedwait';
import type { Onward } from '../routing/onward';
import type { QueueSettings } from '../routing/queue';
import { stagesOf } from '../routing/stages';
import { LOOPS } from '../sound/loops';
import type { Asking } from './contact';
import { botSays, end, said, setAsking, setLeftFor, type Going } from './going';
import type { CustomerInput } from './events';
import { ownNumber } from './numbers';
import { promise } from './promised';
import { talkWords } from './talkwords';
import { askOptions, withAnswers, withWait } from './waitwords';
import { builtIn, CHOICES, KEPT, LEAVE_IT, THANKS } from './words';

/** What customers hear, are asked and choose while they wait, in their language. */

/** How long somebody may take over each answer about a call back, seconds of the floor. */
const ANSWER_SECONDS = 45;
/** How long somebody who writes may take, where they have no place in line. */
const WRITING_SECONDS = 600;
/** How many windows they may choose from. */
const WINDOWS = 3;

/** Fills in the expected wait and the place in line; what they are told of the wait is kept. */
function filled({ contact, world, acts }: Going, visit: WaitingVisit, text: string): string {
  if (!text.includes('{')) return text;
  const ahead = world.ahead(visit);
  if (ahead.seconds !== null && text.includes('{wait}'))
    acts.push({ do: 'told', visitId: visit.id, seconds: spokenWait(ahead.seconds) });
  return withWait(text, ahead, contact.language);
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
  botSays(going, { text: withAnswers(text, act, channel, language), options: askOptions(act, language) });
}

/** The question that stands for a waiting visit: the last one that its stages asked. */
const standing = (visit: WaitingVisit): Extract<StageAct, { does: 'ask' }> | null =>
  stagesOf(visit)
    .slice(0, visit.stage)
    .flatMap((s) => s.acts)
    .filter((a): a is Extract<StageAct, { does: 'ask' }> => a.does === 'ask')
    .at(-1) ?? null;

/** What a call back keeps of a place in line. */
const placeOf = (visit: WaitingVisit) => ({
  queueId: visit.queue.id,
  placedAt: visit.placedAt,
  needs: visit.handOver,
  priority: visit.basePriority,
});

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
    } else {
      botSays(going, { text: goodbye(going.contact.language) });
      end(going, 'closed-by-us');
    }
  }
  if (!turn.talk) return;
  if (visit) acts.push({ do: 'still-choosing', visitId: visit.id, until: world.now + ANSWER_SECONDS * 1000 });
  else waitForWords(going);
}

/** Somebody without a place in line has so long for their next words. */
export function waitForWords(
  { contact, world, acts }: Going,
  seconds = contact.channel === 'voice' ? ANSWER_SECONDS : WRITING_SECONDS,
): void {
  acts.push({ do: 'remind', timer: 'bot-waits', id: contact.id, at: world.now + seconds * 1000 });
}

/** Offers a call back by a queue's people; `visit` is the place in line that the customer still has. */
export function offerCallback(
  going: Going,
  asked: Pick<AskingCallback, 'queueId' | 'placedAt' | 'needs' | 'priority'>,
  visit: WaitingVisit | null,
): void {
  const { contact, world } = going;
  const queue = world.queues().find((q) => q.id === asked.queueId);
  const turn = beginCallback(
    ownNumber(contact),
    world.callWindows(queue ?? { hoursId: null }, WINDOWS),
    talkWords(going, queue, ALL_OFFERED, visit !== null),
  );
  if (turn.talk) goOn(going, visit, { kind: 'callback', talk: turn.talk, ...asked }, turn);
}

/** A message is asked for, which becomes work for a queue. */
export function takeMessage(going: Going, queueId: string, text: string, needs: readonly Need[] = []): void {
  botSays(going, { text: text || builtIn(LEAVE_IT, going.contact.language) });
  setAsking(going, { kind: 'message', queueId, needs });
  waitForWords(going);
}

/** Nothing came from somebody who has no place in line and was asked something. */
export function silent(going: Going): void {
  const { contact, world } = going;
  const { asking } = contact;
  if (asking === null || contact.visit || contact.endedAt !== null) return;
  if (asking.kind === 'callback') {
    const queue = world.queues().find((q) => q.id === asking.queueId);
    const words = talkWords(going, queue, ALL_OFFERED, false);
    return goOn(going, null, asking, continueCallback(asking.talk, { type: 'silence' }, words));
  }
  setAsking(going, null);
  botSays(going, { text: goodbye(contact.language) });
  end(going, 'closed-by-us');
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
      takeMessage(going, visit.queue.id, said(going, onward.wording), visit.handOver);
      return true;
    case 'callback':
      offerCallback(going, placeOf(visit), null);
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
    acts.push({ do: 'forget', timer: 'bot-waits', id: contact.id });
    if (asking.queueId !== undefined && input.text.trim() !== '')
      setLeftFor(going, { queueId: asking.queueId, needs: asking.needs ?? [] });
    botSays(going, { text: builtIn(THANKS, contact.language) });
    end(going, 'message');
    return true;
  }
  if (asking?.kind === 'callback') {
    if (visit === null || visit.choosingUntil !== null) {
      const queue = visit?.queue ?? world.queues().find((q) => q.id === asking.queueId);
      if (!visit) acts.push({ do: 'forget', timer: 'bot-waits', id: contact.id });
      const words = talkWords(going, queue, ALL_OFFERED, visit !== null);
      goOn(going, visit, asking, continueCallback(asking.talk, input, words));
      return true;
    }
    // They took too long and went on waiting, or somebody has them now.
    setAsking(going, null);
  }
  const act = visit && visit.kind === 'live' && visit.offers.length === 0 ? standing(visit) : null;
  if (!visit || !act) return false;
  const word = (input.type === 'key' ? input.key : input.text).trim().toLowerCase();
  const chosen = act.choices.find(
    (c) => c.key === word || builtIn(CHOICES[c.what], contact.language).toLowerCase() === word,
  );
  if (!chosen) return false;
  if (chosen.what === 'callback') offerCallback(going, placeOf(visit), visit);
  else {
    acts.push({ do: 'leave', visitId: visit.id, how: 'message-left' });
    takeMessage(going, visit.queue.id, '', visit.handOver);
  }
  return true;
}

/** The music that plays for a caller who is held: that of the queue's wait clock, where it has some. */
export function musicOnHold(queue: Pick<QueueSettings, 'clocks'> | null): string {
  const played = (queue?.clocks.voice ?? []).flatMap((s) => s.acts).find((a) => a.does === 'play');
  return played?.does === 'play' ? played.music : (LOOPS[0]?.id ?? '');
}

/** The music that plays for a waiting caller, or null. */
export function musicFor(visit: WaitingVisit | null): string | null {
  if (!visit || visit.kind !== 'live' || visit.channel !== 'voice' || visit.choosingUntil !== null) return null;
  const played = stagesOf(visit)
    .slice(0, visit.stage)
    .flatMap((s) => s.acts)
    .filter((a) => a.does === 'play')
    .at(-1);
  return played?.does === 'play' ? played.music : null;
}
