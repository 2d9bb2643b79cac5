import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { type Mood, moodOf, MOODS } from '../../core/mood/mood';
import { readContact } from '../../data/contacts';
import type { Db } from '../../data/database';
import { lexiconOf } from '../../data/lexicons';
import { ownWords } from '../../data/messages';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, oneOf } from '../ground/schemas';
import { parse } from '../ground/validate';
import { masked } from './privatevalues';
import { seenContact } from './seencontact';

/** Words of so many messages are judged: of a conversation of months, the last ones say how it ended. */
const MOST_MESSAGES = 200;

/**
 * How the customer of a contact felt, by what they said themselves; null where nothing can be told: they said
 * nothing, or in a language of which there is no lexicon. What they chose of what they were offered is not their own word.
 */
export function judgedMood(db: Db, contactId: string): Mood | null {
  const lexicon = lexiconOf(readContact(db, contactId)?.language ?? '');
  if (!lexicon) return null;
  return moodOf(ownWords(db, contactId).slice(-MOST_MESSAGES).map(masked), lexicon);
}

const schema = exactly(
  object({
    contactId: id('The contact'),
    /** Null: what was judged holds again. */
    mood: oneOf<Mood>(MOODS, 'A mood').nullable().defined(),
  }),
);

/** Says how the customer of a contact felt, where that was judged wrongly; the figures of its day go by it. */
export function setMood(host: Host, actor: Actor, input: unknown): void {
  mustHold(actor, 'people.coach');
  const { contactId, mood } = parse(schema, input);
  mustHold(actor, 'conversations.view');
  const contact = seenContact(host, actor, contactId);
  if (contact.endedAt === null) throw new LaneError('not-valid', 'This conversation is still going on.');
  host.transact((tx) => {
    tx.emit({ type: 'mood.said', ofContactId: contactId, says: mood, personId: actor.personId });
  });
}
