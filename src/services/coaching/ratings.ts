import { array, boolean, object } from 'yup';
import { LaneError } from '../../core/errors';
import { type Mark, MARKS, scoreOf } from '../../core/people/coaching';
import { dropRating, readCoachingRules, readRating, writeRating } from '../../data/coaching';
import { legsOf } from '../../data/legs';
import { seenContact } from '../contacts/seencontact';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { differ, exactly, id, oneOf, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import { coached } from '../ground/coached';

const rateSchema = exactly(
  object({
    contactId: id('The contact'),
    personId: id('The person'),
    marks: array(exactly(object({ pointId: id('The point'), mark: oneOf<Mark>(MARKS, 'A mark') })))
      .max(20, 'At most 20 points')
      .test('differ', 'A point is marked twice', (marks) => differ(marks, 'pointId'))
      .required('The marks are missing'),
    words: text(2000, 'What is said').defined(),
    shared: boolean().required('It must be said who reads it'),
  }),
);
const dropSchema = exactly(object({ id: id('The rating') }));

/** Rates how somebody handled a contact; one's own rating before it is replaced. */
export function rateContact(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const { contactId, personId, marks, words, shared } = parse(rateSchema, input);
  mustHold(actor, 'conversations.view');
  seenContact(host, actor, contactId);
  coached(host, actor, personId);
  if (!legsOf(host.db, contactId).some((leg) => leg.personId === personId && leg.endedAt !== null))
    throw new LaneError('not-valid', 'They never had this contact, or still have it.', [
      { where: 'personId', what: 'is not over with it' },
    ]);
  return host.transact((tx) => {
    const points = new Map(readCoachingRules(tx.db).points.map((point) => [point.id, point.name]));
    const marked = marks.map(({ pointId, mark }) => {
      const name = points.get(pointId);
      if (name === undefined)
        throw new LaneError('changed-meanwhile', 'The points were changed since you opened this. Look at it again.');
      return { pointId, name, mark };
    });
    if (scoreOf(marked) === null)
      throw new LaneError('not-valid', 'At least one point must be marked.', [{ where: 'marks', what: 'say nothing' }]);
    const ratingId = tx.ids('rating');
    writeRating(tx.db, {
      id: ratingId,
      contactId,
      personId,
      authorId: actor.personId,
      at: tx.floorAt,
      marks: marked,
      words,
      shared,
    });
    return { id: ratingId };
  });
}

/** Takes a rating of one's own away. */
export function dropCoachRating(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const asked = parse(dropSchema, input);
  return host.transact((tx) => {
    const rating = readRating(tx.db, asked.id);
    if (!rating) throw new LaneError('not-found', 'There is no such rating any more.');
    coached(host, actor, rating.personId);
    if (rating.authorId !== actor.personId) throw new LaneError('not-allowed', 'Only who gave a rating takes it away.');
    dropRating(tx.db, asked.id);
    return { id: asked.id };
  });
}
