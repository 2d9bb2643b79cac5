import type { Offered, TalkWords } from '../callbacks/dialogue';
import type { QueueSettings } from '../routing/queue';
import type { Going } from './going';
import { countryHere, isTheirs } from './numbers';

/** What the talk about a call back goes by: the customer's channel and language, and the queue that will call. */
export const talkWords = (
  { contact, world }: Pick<Going, 'contact' | 'world'>,
  queue: Pick<QueueSettings, 'callback'> | undefined,
  offered: Offered,
  inLine: boolean,
): TalkWords => ({
  channel: contact.channel,
  language: contact.language,
  languages: world.languages,
  wording: queue?.callback.wording ?? {},
  offered,
  inLine,
  zone: world.zone,
  country: countryHere(world),
  isProven: (number) => isTheirs({ contact, world }, number),
  isCode: (number, code) => world.isCode(number, code),
});
