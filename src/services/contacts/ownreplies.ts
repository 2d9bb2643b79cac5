import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { unknownPlaceholders } from '../../core/messages/stockreplies';
import { readFields } from '../../data/fields';
import { ownRepliesOf, removeOwnReply, writeOwnReply } from '../../data/ownreplies';
import type { Actor } from '../ground/actor';
import type { Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';

/** As many as are still found at a glance. */
const MOST_OWN = 100;

/** What is sent to keep a reply of one's own, or drop it. */
export const OWN_REPLY_ACTS = {
  'keep-own-reply': exactly(
    object({
      act: oneOf(['keep-own-reply'], 'act'),
      /** Null for a new one. */
      id: string().nullable().defined(),
      title: requiredText(60, 'The title'),
      text: requiredText(2000, 'The text'),
    }),
  ),
  'drop-own-reply': exactly(object({ act: oneOf(['drop-own-reply'], 'act'), id: id('The reply') })),
} as const;

/** Keeps a reply of somebody's own, by the same rules as those of a set. */
export function keepOwnReply(tx: Tx, { personId }: Actor, input: unknown): void {
  const reply = parse(OWN_REPLY_ACTS['keep-own-reply'], input);
  const own = ownRepliesOf(tx.db, personId);
  if (reply.id !== null && !own.some((one) => one.id === reply.id))
    throw new LaneError('not-found', 'This reply is not there any more.');
  if (own.some((one) => one.id !== reply.id && one.title.toLowerCase() === reply.title.toLowerCase()))
    throw new LaneError('not-valid', `You have a reply called ${reply.title} already.`, [
      { where: 'title', what: 'is taken' },
    ]);
  if (reply.id === null && own.length >= MOST_OWN)
    throw new LaneError('too-large', `You may keep at most ${MOST_OWN} replies. Drop one first.`);
  const odd = unknownPlaceholders(
    reply.text,
    readFields(tx.db).map((f) => f.name),
  )[0];
  if (odd !== undefined)
    throw new LaneError('not-valid', `Nothing fills {${odd}}.`, [{ where: 'text', what: `Nothing fills {${odd}}` }]);
  writeOwnReply(tx.db, personId, { ...reply, id: reply.id ?? tx.ids('own') }, tx.floorAt);
}

export function dropOwnReply(tx: Tx, { personId }: Actor, input: unknown): void {
  removeOwnReply(tx.db, personId, parse(OWN_REPLY_ACTS['drop-own-reply'], input).id);
}
