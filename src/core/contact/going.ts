import { isText } from '../channels';
import type { ContactEnd } from '../measures/facts';
import { type Localised, localised } from '../localised';
import type { ContactAct, Words } from './acts';
import type { Asking, ContactNow, ContactWorld, LegNow, ReadyBot } from './contact';

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

/** What was said becomes work of its own for a queue. */
export function messageLeft({ world, acts }: Going, queueId: string, text: string): void {
  const queue = world.queues().find((q) => q.id === queueId);
  acts.push({ do: 'message-left', queueId, channel: queue?.channels.find(isText) ?? null, text });
}

/** The contact is over; it stays as it ended first. */
export function end({ contact, world, acts }: Going, how: ContactEnd): void {
  if (contact.endedAt !== null) return;
  contact.endedAt = world.now;
  acts.push({ do: 'end', how });
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
  more: { readonly [K in 'handOver' | 'priority' | 'callback' | 'personId' | 'opens']?: Entering[K] } = {},
): void {
  acts.push({ do: 'enter', queueId, placedAt, because, handOver: [], priority: 0, ...more });
}
type Entering = Extract<Going['acts'][number], { readonly do: 'enter' }>;

export const talkingLeg = ({ contact }: Going): LegNow | undefined => contact.legs.find((l) => l.talkEndedAt === null);
export const legOf = ({ contact }: Going, legId: string): LegNow | undefined =>
  contact.legs.find((l) => l.id === legId);
