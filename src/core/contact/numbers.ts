import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import type { Reply } from '../bots/conversation';
import { countryOf } from '../messages/country';
import type { ContactNow, ContactWorld } from './contact';

/**
 * A number is used for calls and texts only when it is known to be the customer's: the channel vouches for it, or they
 * have given the code that was sent to it.
 */
type Whose = {
  readonly contact: Pick<ContactNow, 'channel' | 'customer'>;
  readonly world: Pick<ContactWorld, 'isProven'>;
};

/** The number they are on, where the channel has one and vouches for it. */
export const ownNumber = ({ channel, customer }: Whose['contact']): string | null =>
  (channel === 'voice' || channel === 'sms') && customer.vouched ? customer.address : null;

export const isTheirs = ({ contact, world }: Whose, number: string): boolean =>
  number === ownNumber(contact) || world.isProven(number);

/** By whose country a number without one is read: the door's own, else the workspace's. */
export const countryHere = (world: Pick<ContactWorld, 'doorAddress' | 'country'>): CountryCode | undefined =>
  parsePhoneNumberFromString(world.doorAddress())?.country ?? countryOf(world.country);

/** What a bot is told of a number that was given, or of the one they are on (null). */
export function numberReply(
  { contact, world }: { readonly contact: Whose['contact']; readonly world: ContactWorld },
  given: string | null,
): Extract<Reply, { to: 'number' }> {
  if (given === null) {
    const own = ownNumber(contact);
    if (own !== null || (contact.channel !== 'voice' && contact.channel !== 'sms'))
      return { to: 'number', number: own, proven: own !== null };
  }
  const parsed = parsePhoneNumberFromString(given ?? contact.customer.address, countryHere(world));
  const number = parsed?.isPossible() ? parsed.number : null;
  return { to: 'number', number, proven: number !== null && isTheirs({ contact, world }, number) };
}
