import type { Channel } from '../channels';

/** How a visit ended; null while it goes on. */
export const VISIT_ENDS = [
  'accepted',
  'gave-up',
  'moved-on',
  'callback-asked',
  'message-left',
  'closed-by-us',
] as const;
export type VisitEnd = (typeof VISIT_ENDS)[number];
export const VISIT_END_WORDS: Readonly<Record<VisitEnd, string>> = {
  accepted: 'accepted',
  'gave-up': 'the customer gave up waiting',
  'moved-on': 'moved on',
  'callback-asked': 'a call back was asked for',
  'message-left': 'a message was left',
  'closed-by-us': 'closed by us',
};

/** One entry of a contact into one queue. Instants are floor ms. */
export type VisitFact = {
  readonly id: string;
  readonly contactId: string;
  readonly queueId: string;
  readonly channel: Channel;
  readonly placedAt: number;
  readonly enteredAt: number;
  readonly endedAt: number | null;
  readonly end: VisitEnd | null;
  /** The goal that applied when the visit began, seconds. */
  readonly goalSeconds: number;
};

/**
 * How a contact ended as a whole. `bot` is finished by a bot, `left-bot` the customer left while talking to it,
 * `went-quiet` they wrote no more.
 */
export const CONTACT_ENDS = [
  'bot',
  'left-bot',
  'went-quiet',
  'gave-up',
  'resolved',
  'partner',
  'callback',
  'message',
  'closed-by-us',
] as const;
export type ContactEnd = (typeof CONTACT_ENDS)[number];
export const CONTACT_END_WORDS: Readonly<Record<ContactEnd, string>> = {
  bot: 'finished by a bot',
  'left-bot': 'left in the bot',
  'went-quiet': 'went quiet',
  'gave-up': 'gave up waiting',
  resolved: 'handled',
  partner: 'went to a partner desk',
  callback: 'asked to be called back',
  message: 'left a message',
  'closed-by-us': 'closed by us',
};
