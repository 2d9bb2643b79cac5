import { readOutside, type OutsideMessage } from '../../data/outside';
import { needEverywhere, type Actor } from '../ground/actor';
import type { Host } from '../ground/host';

export type { OutsideMessage };

/** The stand-in mailbox: what the product sent outside, for whoever sets people up, since links and codes are in it. */
export const createMailbox = (host: Host) => ({
  view(actor: Actor): OutsideMessage[] {
    needEverywhere(actor, 'people.change');
    return readOutside(host.db, 300);
  },
});
