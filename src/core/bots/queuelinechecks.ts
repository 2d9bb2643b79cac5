import type { Channel } from '../channels';
import { advice, type CheckWorld, type Found, put, stops } from './faults';
import type { CallBack, HandOver, Step } from './model';

/** Lines that leave work with a queue: a hand-over, a call that is promised, a message. */

type CheckedQueue = NonNullable<ReturnType<CheckWorld['queues']['get']>>;

/** Channels that the queue does not take, or on which nobody is `able` at any stage, by default nobody of the queue. */
function queueFaults(
  doing: string,
  queue: CheckedQueue | undefined,
  channels: readonly Channel[],
  able = (channel: Channel) => queue?.able(channel, [], null) ?? false,
): Found[] {
  if (!queue) return [];
  const lost = channels.filter((c) => !queue.channels.includes(c));
  const nobody = channels.filter((c) => queue.channels.includes(c) && !able(c));
  return [
    ...(lost.length > 0
      ? [stops('hand-over', `${doing} ${queue.name}, which does not take ${lost.join(' or ')}.`)]
      : []),
    ...(nobody.length > 0
      ? [stops('hand-over', `${doing} ${queue.name}, where nobody is able at any stage for ${nobody.join(' or ')}.`)]
      : []),
  ];
}

/** What is wrong with a message that a line takes: it waits, and is answered, on the channel it came by. */
export const messageFaults = (step: Extract<Step, { verb: 'take-message' }>, world: CheckWorld): Found[] =>
  queueFaults('leaves the message with', world.queues.get(step.queueId), world.channels);

/** What is wrong with calls that a line promises. */
export function callBackFaults(step: CallBack, world: CheckWorld): Found[] {
  const found = [
    ...fieldFaults(step, world),
    ...queueFaults('promises calls by', world.queues.get(step.queueId), ['voice']),
  ];
  if (!step.soon && step.windows === 0)
    found.push(
      stops('choices', 'offers no time to call at all.', put('Offer as soon as possible', { ...step, soon: true })),
    );
  if (step.otherwise === null)
    found.push(
      stops(
        'no-catch-all',
        'has no way for when nothing comes of it.',
        put('Go on with the next line when nothing comes of it', { ...step, otherwise: { to: 'next' } }),
      ),
    );
  return found;
}

/** What is wrong with whom a line hands over to. */
export function handOverFaults(step: HandOver, world: CheckWorld): Found[] {
  const { target } = step;
  const queue = world.queues.get(target.queueId);
  const able = (channel: Channel, needs: HandOver['needs']) =>
    // An outside number takes calls whatever they need.
    target.to === 'partner' || (queue?.able(channel, needs, target.to === 'group' ? target.groupId : null) ?? false);
  const found = queueFaults('hands over to', queue, world.channels, (c) => able(c, []));
  if (queue) {
    const taken = world.channels.filter((c) => queue.channels.includes(c) && able(c, []));
    if (taken.some((c) => !able(c, step.needs)))
      found.push(
        stops(
          'hand-over',
          `hands over to ${queue.name}, where nobody is able at any stage with what this line needs.`,
          put('Need nothing more than the queue does', { ...step, needs: [] }),
        ),
      );
    if (queue.closedWhile.length > 0)
      found.push(
        stops(
          'hand-over',
          `hands over to ${queue.name}, which is closed while ${queue.closedWhile.join(' and ')} is open.`,
        ),
      );
  }
  return [...found, ...fieldFaults(step, world)];
}

/** What is passed to people and is not there, or is seen by nobody. */
function fieldFaults(step: HandOver | CallBack, world: CheckWorld): Found[] {
  const found: Found[] = [];
  for (const name of step.fields) {
    const field = world.fields.find((f) => f.name === name);
    if (!field)
      found.push(
        stops(
          'gone',
          `passes ${name}, which is not a field any more.`,
          put(`Leave ${name} out`, { ...step, fields: step.fields.filter((f) => f !== name) }),
        ),
      );
    else if (!field.shown) found.push(advice('field-unshown', `passes ${field.label}, which no Desk shows.`));
  }
  return found;
}
