import { invitationByToken } from '../../data/invitations';
import { type OutsideMessage, readOutside } from '../../data/outside';
import { readPerson, readPersonByEmail } from '../../data/people';
import { readWays } from '../../data/reach';
import { personOfPasswordLink } from '../../data/sessions';
import { type Actor, isAbove, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { hashToken } from '../ground/tokens';

export type { OutsideMessage };

/** What the functions of this file are given first. */
export type MailboxDeps = { readonly host: Host };

/** The most messages shown. */
const MOST = 300;
/** Links that make somebody of whoever follows them, and codes, said together or digit by digit. */
const LINKS = /\S*\/(?:invitation|password)\/(\S+)/g;
const CODES = /\b\d(?: ?\d){3,}\b/g;
const HIDDEN = '•••';

/** Whoever a message is for: by its address as it is now, and by the links in it, whatever the address is by now. */
function receivers({ host: { db, times } }: MailboxDeps, ways: ReadonlyMap<string, readonly string[]>) {
  return ({ address, body }: OutsideMessage): string[] =>
    [
      ...(ways.get(address) ?? []),
      readPersonByEmail(db, address.toLowerCase())?.id ?? [],
      ...[...body.matchAll(LINKS)].flatMap(([, token = '']) => [
        personOfPasswordLink(db, hashToken(token), times.real()) ?? [],
        invitationByToken(db, hashToken(token))?.personId ?? [],
      ]),
    ].flat();
}

/**
 * What the product sent outside, newest first. Links and codes for somebody who holds more than the reader are not shown:
 * with them the reader would hold as much.
 */
export function viewMailbox(deps: MailboxDeps, actor: Actor): OutsideMessage[] {
  mustHoldEverywhere(actor, 'people.change');
  const { db } = deps.host;
  const ways = new Map<string, string[]>();
  for (const way of readWays(db)) ways.set(way.address, [...(ways.get(way.address) ?? []), way.personId]);
  const personsOf = receivers(deps, ways);
  return readOutside(db, MOST).map((message) => {
    const above = personsOf(message).some((personId) => {
      const person = readPerson(db, personId);
      return person !== undefined && isAbove(db, actor, person);
    });
    return above ? { ...message, body: message.body.replace(LINKS, HIDDEN).replace(CODES, HIDDEN) } : message;
  });
}

/** The stand-in mailbox, for whoever sets people up. */
export const createMailbox = (deps: MailboxDeps) => bind(deps, { view: viewMailbox });
