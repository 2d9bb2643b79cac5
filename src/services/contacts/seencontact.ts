import { LaneError } from '../../core/errors';
import { readContact } from '../../data/contacts';
import { legsOf } from '../../data/legs';
import { visitsOf } from '../../data/visits';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';

/** A contact that an actor may read: one that came to their queues or people. Throws `not-found` for any other. */
export function seenContact(host: Pick<Host, 'db'>, actor: Actor, contactId: string) {
  const contact = readContact(host.db, contactId);
  const { queues, people } = sightOf(host, actor);
  const theirs =
    contact &&
    (queues === null ||
      visitsOf(host.db, contact.id).some((v) => queues.has(v.queueId)) ||
      legsOf(host.db, contact.id).some((l) => people?.has(l.personId)));
  if (!theirs) throw new LaneError('not-found', 'There is no contact with this id, or it never came to your teams.');
  return contact;
}
