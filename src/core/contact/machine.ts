import { LaneError } from '../errors';
import type { ContactAct } from './acts';
import { begins, firstWords } from './coming';
import type { ContactNow, ContactWorld, LegNow } from './contact';
import { end, enter, legOf, talkingLeg, type Going } from './going';
import type { ContactEvent } from './events';
import { callByHand, callDue, pickUp, rangOut, ringBack, stands } from './promised';
import { endTalk, endWrapUp, file, letGo, passOn, personSays, setLine, taken, wrapUpOver } from './talk';
import { answers, sentOn, silent, stage } from './waiting';
import { beginScene, botTakes, dropBot, hasScene, isWithBot, leaveBot } from './withbot';

/**
 * One thing that happens to a contact: gives what the driver must carry out, in order, and changes `contact` in place.
 * The same contact, world and event always give the same acts. Throws LaneError where a person or the customer asks for
 * what cannot be now; then nothing may be carried out.
 */
export function step(contact: ContactNow, world: ContactWorld, event: ContactEvent): readonly ContactAct[] {
  const going: Going = { contact, world, acts: [] };
  happen(going, event);
  return going.acts;
}

function happen(going: Going, event: ContactEvent): void {
  const { contact } = going;
  switch (event.type) {
    case 'begins':
      return begins(going, event);
    case 'customer-says':
      return customerSays(going, event.input);
    case 'customer-leaves':
      return customerLeaves(going);
    case 'customer-picks-up':
      return pickUp(going, event.answered);
    case 'person-says':
      return personSays(going, held(going, event.legId), event.text);
    case 'line':
      return setLine(going, held(going, event.legId), event.line);
    case 'talk-ends':
      return endTalk(going, held(going, event.legId), event.how);
    case 'outcome':
      return file(going, held(going, event.legId), event.outcome);
    case 'wrap-up-ends':
      return endWrapUp(going, held(going, event.legId));
    case 'wrap-up-over': {
      const leg = legOf(going, event.legId);
      if (leg) wrapUpOver(going, leg);
      return;
    }
    case 'passed-on':
      return passOn(going, held(going, event.legId), event);
    case 'person-gone':
      return letGo(going, held(going, event.legId), event.how);
    case 'call-off':
    case 'call-now':
      return callByHand(going, event.type);
    case 'stage':
      return stage(going, event.visit, event.act);
    case 'sent-on':
      if (!sentOn(going, event.visit, event.onward) && event.onward.to === 'scene')
        toScene(going, event.visit, event.onward);
      return;
    case 'taken':
      return taken(going, event.visit, event.legId, event.personId);
    case 'outside-call-over':
      return end(going, 'partner');
    case 'silence':
      if (contact.asking?.kind === 'first-words') return firstWords(going, contact.asking, null);
      return isWithBot(contact) ? botTakes(going, { type: 'silence' }) : silent(going);
    case 'slow':
      if (contact.place?.asked) botTakes(going, { type: 'slow', number: contact.place.asked.number });
      return;
    case 'answer':
      return botTakes(going, { type: 'reply', number: event.number, reply: event.reply });
    case 'bot-gone':
      return dropBot(going, event.because);
    case 'ring-back':
      return ringBack(going, held(going, event.legId));
    case 'call-due':
      return callDue(going);
    case 'rang-out':
      return rangOut(going, event.callId);
  }
}

function held(going: Going, legId: string): LegNow {
  const leg = legOf(going, legId);
  if (!leg) throw new LaneError('not-found', 'This contact is not with you any more.');
  return leg;
}

/** The customer writes, speaks or presses a key. While a bot listens it answers; else the words wait for a person. */
function customerSays(going: Going, input: Extract<ContactEvent, { readonly type: 'customer-says' }>['input']): void {
  const { contact, acts } = going;
  if (isWithBot(contact)) return botTakes(going, input);
  if (contact.endedAt !== null) throw new LaneError('closed', 'This conversation has ended.');
  if (contact.asking?.kind === 'first-words') return firstWords(going, contact.asking, input);
  if (talkingLeg(going)?.line === 'held')
    throw new LaneError('not-now', 'You are on hold; nobody hears you until they come back.');
  acts.push({ do: 'customer-said', text: input.type === 'key' ? input.key : input.text, secret: null });
  if (!answers(going, input)) acts.push({ do: 'wake' });
}

/** The customer hangs up or closes the window. */
function customerLeaves(going: Going): void {
  const { contact, acts } = going;
  leaveBot(going);
  if (contact.endedAt !== null) return;
  const leg = talkingLeg(going);
  if (leg) return endTalk(going, leg, 'resolved', false);
  // Somebody who was promised a call has hung up, not given up.
  if (stands(contact.callback)) return;
  // Nor has somebody who left a message.
  if (contact.visit?.kind === 'message') return;
  if (contact.outsideCallId !== null) return void acts.push({ do: 'outside-call-over', callId: contact.outsideCallId });
  if (contact.visit) acts.push({ do: 'leave', visitId: contact.visit.id, how: 'gave-up' });
  end(going, contact.visit ? 'gave-up' : 'left-bot');
}

function toScene(
  going: Going,
  visit: Extract<ContactEvent, { readonly type: 'sent-on' }>['visit'],
  { botId, sceneId }: { readonly botId: string; readonly sceneId: string },
): void {
  const { contact, world, acts } = going;
  const version = world.liveVersion(botId);
  if (version !== null && hasScene(world.bot(botId, version), sceneId)) {
    contact.bot = { id: botId, version };
    acts.push({ do: 'bot-begins', botId, version });
    beginScene(going, sceneId);
    return;
  }
  // A scene that is gone leads nowhere, so the contact stays with people.
  enter(going, visit.queue.id, visit.placedAt, 'the scene it was sent to is gone', {
    handOver: visit.handOver,
    priority: visit.basePriority,
  });
}
