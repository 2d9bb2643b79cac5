import type { ContactEnd } from '../measures/facts';
import { type Localised, localised } from '../localised';
import type { ContactAct, Words } from './acts';
import type { Asking, ContactNow, ContactWorld, LeftFor, LegNow, ReadyBot } from './contact';

/** A step in progress. */
export type Going = { readonly contact: ContactNow; readonly world: ContactWorld; readonly acts: ContactAct[] };

/** The bot that the contact is with or was with. */
export const botOf = ({ contact, world }: Going): ReadyBot | null =>
  contact.bot && world.bot(contact.bot.id, contact.bot.version);

/** What the parts of a contact's step have in common. Each says what to do and notes what is so from now on. */

export const botSays = ({ acts }: Going, words: Words): void => void acts.push({ do: 'bot-says', ...words });

/** Wording in the contact's language, or in the first of the workspace's. */
export const said = ({ contact, world }: Going, wording: Localised): string =>
  localised(wording, contact.language, world.languages);

/** A message was left with the customer's words, which is work for a queue; or somebody deals with it (null). */
export function setLeftFor({ contact, acts }: Going, leftFor: LeftFor | null): void {
  if (contact.leftFor === null && leftFor === null) return;
  contact.leftFor = leftFor;
  acts.push({ do: 'message-left', leftFor });
}

/**
 * The contact is over; it stays as it ended first. A message that nobody has dealt with stands in line instead, by the
 * channel it came by; where no queue takes that, it ends as a message.
 */
export function end(going: Going, how: ContactEnd): void {
  const { contact, world, acts } = going;
  if (contact.endedAt !== null) return;
  const { leftFor } = contact;
  if (leftFor) {
    setLeftFor(going, null);
    const taking = world.queues().filter((q) => q.channels.includes(contact.channel));
    const queue = taking.find((q) => q.id === leftFor.queueId) ?? taking[0];
    if (queue)
      return enter(going, queue.id, world.now, 'a message was left', { kind: 'message', handOver: leftFor.needs });
  }
  contact.endedAt = world.now;
  acts.push({ do: 'end', how: leftFor ? 'message' : how });
}

export function setAsking({ contact, acts }: Going, asking: Asking | null): void {
  if (contact.asking === null && asking === null) return;
  contact.asking = asking;
  acts.push({ do: 'asking', asking });
}

/** It stands in line, newly or at the place it had. */
export function enter(
  { acts }: Going,
  queueId: string,
  placedAt: number,
  because: string,
  more: { readonly [K in 'handOver' | 'priority' | 'kind' | 'personId' | 'opens']?: Entering[K] } = {},
): void {
  acts.push({ do: 'enter', queueId, placedAt, because, handOver: [], priority: 0, ...more });
}
type Entering = Extract<Going['acts'][number], { readonly do: 'enter' }>;

export const talkingLeg = ({ contact }: Going): LegNow | undefined => contact.legs.find((l) => l.talkEndedAt === null);
export const legOf = ({ contact }: Going, legId: string): LegNow | undefined =>
  contact.legs.find((l) => l.id === legId);
