import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { legsOf } from '../../data/legs';
import { type CoachNote, dropNote, noteTalked, readNote, writeNote } from '../../data/coaching';
import { seenContact } from '../contacts/seencontact';
import { type Actor, mustHold } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { coached } from '../ground/coached';

const noteSchema = exactly(
  object({
    personId: string().max(80).nullable().defined('Whom it is about is missing'),
    contactId: string().max(80).nullable().defined('Which contact it is about is missing'),
    words: requiredText(2000, 'The note'),
    shared: boolean().required('It must be said who reads it'),
    toTalk: boolean().required('It must be said whether it is to be talked about'),
  }),
);
const dropSchema = exactly(object({ id: id('The note') }));
const talkedSchema = exactly(object({ id: id('The note'), talked: boolean().required('Whether it was is missing') }));

/** Writes a note about somebody, about a contact, or about what somebody did in a contact. */
export function writeCoachNote(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const { personId, contactId, ...note } = parse(noteSchema, input);
  if (personId === null && contactId === null)
    throw new LaneError('not-valid', 'A note is about a person or a contact.');
  if (personId === null && (note.shared || note.toTalk))
    throw new LaneError('not-valid', 'Only what is about somebody can be read by them, or be talked about with them.', [
      { where: 'personId', what: 'is missing' },
    ]);
  if (personId !== null) coached(host, actor, personId);
  if (contactId !== null) {
    mustHold(actor, 'conversations.view');
    seenContact(host, actor, contactId);
    if (personId !== null && !legsOf(host.db, contactId).some((leg) => leg.personId === personId))
      throw new LaneError('not-valid', 'They never had this contact.', [{ where: 'personId', what: 'never had it' }]);
  }
  return host.transact((tx) => {
    const noteId = tx.ids('note');
    writeNote(tx.db, {
      ...note,
      id: noteId,
      personId,
      contactId,
      authorId: actor.personId,
      at: tx.floorAt,
      talkedAt: null,
    });
    return { id: noteId };
  });
}

/** A note that the actor may deal with: about whom they coach, or about a contact that they may read. */
function noteOf(host: Host, tx: Tx, actor: Actor, noteId: string): CoachNote {
  const note = readNote(tx.db, noteId);
  if (!note) throw new LaneError('not-found', 'There is no such note any more.');
  if (note.personId !== null) coached(host, actor, note.personId);
  else seenContact(host, actor, note.contactId ?? '');
  return note;
}

/** Takes a note of one's own away. */
export function dropCoachNote(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const asked = parse(dropSchema, input);
  return host.transact((tx) => {
    if (noteOf(host, tx, actor, asked.id).authorId !== actor.personId)
      throw new LaneError('not-allowed', 'Only who wrote a note takes it away.');
    dropNote(tx.db, asked.id);
    return { id: asked.id };
  });
}

/** Says that something has been talked about, or (undone) that it has not. */
export function markTalked(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.coach');
  const asked = parse(talkedSchema, input);
  return host.transact((tx) => {
    if (!noteOf(host, tx, actor, asked.id).toTalk)
      throw new LaneError('not-valid', 'This note is not one to talk about.');
    noteTalked(tx.db, asked.id, asked.talked ? tx.floorAt : null);
    return { id: asked.id };
  });
}
