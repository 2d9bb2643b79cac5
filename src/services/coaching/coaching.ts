import { bind } from '../ground/bind';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import type { Reading } from '../readings';
import { setMood } from '../contacts/moods';
import { viewContactCoaching, viewOwnCoaching, viewPersonCoaching } from './coachingviews';
import { drawContacts } from './draws';
import { dropCoachNote, markTalked, writeCoachNote } from './notes';
import { dropCoachRating, rateContact } from './ratings';
import { saveCoachingRules, undoableCoaching } from './rules';

/** Notes of coaches, ratings of conversations, and contacts drawn for it. */
export const createCoaching = (host: Host, reading: Reading) => ({
  undoable: undoableCoaching,
  ...bind(host, {
    contact: viewContactCoaching,
    person: viewPersonCoaching,
    own: viewOwnCoaching,
    saveRules: saveCoachingRules,
    writeNote: writeCoachNote,
    dropNote: dropCoachNote,
    markTalked,
    rate: rateContact,
    dropRating: dropCoachRating,
    setMood,
  }),
  draw: (actor: Actor, input: unknown) => drawContacts({ host, reading }, actor, input),
});
