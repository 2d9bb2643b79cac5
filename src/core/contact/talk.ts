import { LaneError } from '../errors';
import type { ContactEnd } from '../measures/facts';
import type { WaitingVisit } from '../routing/floor';
import { USUAL_WRAP_UP, type WrapUp } from '../routing/queue';
import type { LegNow, Line } from './contact';
import type { ContactEvent } from './events';
import { botSays, end, enter, legOf, said, setLeftFor, type Going } from './going';
import { finishLeg, lineTo, wrapUp } from './legs';
import { callLegOver, dial } from './promised';
import { beginScene, afterScene } from './withbot';

/** A person has the contact: from taking it to its filed outcome. */

const wrapUpOf = ({ world }: Going, leg: LegNow): WrapUp => world.queueOfVisit(leg.visitId)?.wrapUp ?? USUAL_WRAP_UP;

/** Somebody took it: a promised call is dialled, and the customer hears who is there. */
export function taken(going: Going, visit: WaitingVisit, legId: string, personId: string): void {
  setLeftFor(going, null);
  if (visit.kind === 'callback') dial(going, legId);
  // Nobody is on the line of a message left by telephone.
  const words =
    visit.kind === 'message' && visit.channel === 'voice' ? '' : said(going, visit.queue.connect.toCustomer);
  if (words) botSays(going, { text: words.replaceAll('{name}', going.world.shownName(personId)) });
}

/** Whether the customer is on the line: not where they left a message by telephone and were not rung back in this turn. */
const isThere = ({ contact, world }: Going, leg: LegNow): boolean =>
  contact.channel !== 'voice' ||
  contact.callback?.callId === leg.id ||
  world.pastVisit(leg.visitId)?.kind !== 'message';

/** A person writes, or speaks on a call. Throws `not-now` where the customer does not hear them. */
export function personSays({ acts }: Going, leg: LegNow, text: string): void {
  if (leg.line !== 'open')
    throw new LaneError(
      'not-now',
      leg.line === 'held'
        ? 'The customer is on hold and does not hear you. Take them off hold first.'
        : 'You are muted; the customer does not hear you. Unmute first.',
    );
  acts.push({ do: 'person-says', personId: leg.personId, text });
}

/** A call is held or muted, or its line opened again. Throws `not-now` where nobody is on the line. */
export function setLine(going: Going, leg: LegNow, line: Line): void {
  const { contact } = going;
  if (contact.channel !== 'voice') throw new LaneError('not-valid', 'Only calls are held or muted.');
  const rings = contact.callback?.callId === leg.id && contact.callback.state === 'dialling';
  if (leg.talkEndedAt !== null || rings || !isThere(going, leg))
    throw new LaneError('not-now', 'Nobody is on the line.');
  lineTo(going, leg, line);
}

/**
 * The talk of a turn is over; a customer who is still there may be asked something by the bot's scene after the
 * contact. `how` is null where the contact goes on elsewhere.
 */
export function endTalk(going: Going, leg: LegNow, how: ContactEnd | null, customerStays = true): void {
  wrapUp(going, leg, how === null);
  if (how) end(going, how);
  const after = how === 'resolved' && customerStays && isThere(going, leg) ? afterScene(going) : null;
  if (after !== null) beginScene(going, after);
  const rule = wrapUpOf(going, leg);
  if (rule.seconds !== null && how !== null)
    going.acts.push({ do: 'remind-real', timer: 'wrap-up-ends', id: leg.id, seconds: rule.seconds });
}

export function finish(going: Going, leg: LegNow, outcome: string | null): void {
  callLegOver(going, leg, outcome);
  finishLeg(going, leg, outcome);
}

/** Whether a turn's wrap-up has lasted as long as its queue says; where it says nothing, it has. */
const hasLasted = ({ world }: Going, leg: LegNow, { seconds }: WrapUp): boolean =>
  seconds === null || world.now - (leg.talkEndedAt ?? world.now) >= seconds * 1000;

/** An outcome is filed, which ends talk and wrap-up; where wrap-up may not end early, its time runs on. */
export function file(going: Going, leg: LegNow, outcome: string): void {
  if (leg.talkEndedAt === null) endTalk(going, leg, 'resolved');
  const now = legOf(going, leg.id) ?? leg;
  const rule = wrapUpOf(going, leg);
  if (!rule.mayFinishEarly && !hasLasted(going, now, rule))
    going.acts.push({ do: 'file', legId: leg.id, personId: leg.personId, outcome });
  else finish(going, now, outcome);
}

/** The person says that wrap-up is over, where the queue leaves that to them. */
export function endWrapUp(going: Going, leg: LegNow): void {
  const rule = wrapUpOf(going, leg);
  if (leg.talkEndedAt === null) throw new LaneError('not-now', 'This conversation goes on; end it first.');
  if (rule.needsOutcome && leg.outcome === null)
    throw new LaneError('not-now', 'This queue asks for an outcome before wrap-up ends.');
  if (!rule.mayFinishEarly && !hasLasted(going, leg, rule))
    throw new LaneError('not-now', `Wrap-up in this queue lasts its ${rule.seconds ?? 0} s.`);
  finish(going, leg, leg.outcome);
}

/** The time of wrap-up is over; where an outcome is asked for and none is filed, it waits for that. */
export function wrapUpOver(going: Going, leg: LegNow): void {
  if (wrapUpOf(going, leg).needsOutcome && leg.outcome === null) return;
  finish(going, leg, leg.outcome);
}

/** The person passes it to another queue: a new visit, whose wait starts now. */
type PassedTo = Pick<Extract<ContactEvent, { type: 'passed-on' }>, 'queueId' | 'personId' | 'groupId'>;
export function passOn(going: Going, leg: LegNow, { queueId, personId = null, groupId = null }: PassedTo): void {
  const { contact, world } = going;
  const queue = world.queues().find((q) => q.id === queueId);
  if (!queue) throw new LaneError('not-found', 'There is no such queue.');
  if (!queue.channels.includes(contact.channel))
    throw new LaneError('not-valid', `${queue.name} does not take this channel.`, [
      { where: 'queueId', what: 'does not take this channel' },
    ]);
  // What was left stays a message, unless its customer has been rung back.
  const kind = isThere(going, leg) ? 'live' : 'message';
  endTalk(going, leg, null);
  finish(going, legOf(going, leg.id) ?? leg, null);
  enter(going, queueId, world.now, 'a person passed it on', {
    kind,
    ...(personId === null ? {} : { personId }),
    ...(groupId === null ? {} : { opens: { to: 'group', groupId } }),
  });
}

/** Its person was switched off: it goes back to its queue at the place it had, or is closed. */
export function letGo(going: Going, leg: LegNow, how: 'return' | 'end'): void {
  const visit = going.world.pastVisit(leg.visitId);
  const back = how === 'return' && leg.talkEndedAt === null ? visit : null;
  const there = isThere(going, leg);
  if (leg.talkEndedAt === null) endTalk(going, leg, back ? null : 'closed-by-us');
  finish(going, legOf(going, leg.id) ?? leg, null);
  // A promised call that is over by that has nobody to go back for.
  if (back && going.contact.endedAt === null)
    enter(going, back.queueId, back.placedAt, 'its person was switched off', {
      handOver: back.handOver,
      priority: back.priority,
      kind: back.kind === 'message' && !there ? 'message' : 'live',
    });
}
