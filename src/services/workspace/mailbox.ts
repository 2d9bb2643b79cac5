import { type OutsideMessage, readOutside } from '../../data/outside';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';

export type { OutsideMessage };

/** What the functions of this file are given first. */
export type MailboxDeps = { readonly host: Host };

export function viewMailbox({ host }: MailboxDeps, actor: Actor): OutsideMessage[] {
  mustHoldEverywhere(actor, 'people.change');
  return readOutside(host.db, 300);
}

/** The stand-in mailbox: what the product sent outside, for whoever sets people up, since links and codes are in it. */
export const createMailbox = (deps: MailboxDeps) => bind(deps, { view: viewMailbox });
