import { object, string } from 'yup';
import { localDate } from '../../core/hours/weekly';
import { daySpan } from '../../core/measures/calendar';
import { type CoachingRules, type Marked, scoreOf } from '../../core/people/coaching';
import { holds } from '../../core/people/rights';
import {
  type CoachDraw,
  type CoachNote,
  type CoachRating,
  drawsOfContact,
  drawsOfMonth,
  notesOfContact,
  notesOfPerson,
  ratingsOfContact,
  ratingsOfPerson,
  readCoachingRules,
  talksOpen,
} from '../../data/coaching';
import { readPeople } from '../../data/people';
import { readTeams } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import { seenContact } from '../contacts/seencontact';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { monthAfter, monthOf } from '../../core/hours/dates';
import { isMonth } from './months';
import { coached, coachedIn, coaches } from '../ground/coached';

/** Notes of one person that a page shows; and months over which it looks back. */
const MOST_NOTES = 50;
const MONTHS = 6;

export type NoteView = Omit<CoachNote, 'authorId'> & {
  readonly author: string;
  readonly person: string | null;
  readonly mine: boolean;
};
export type RatingView = Omit<CoachRating, 'authorId'> & {
  readonly author: string;
  readonly person: string;
  readonly score: number | null;
  readonly mine: boolean;
};
export type DrawView = Omit<CoachDraw, 'no'> & { readonly person: string };

type Named = (personId: string) => string;
const namesFor = (host: Pick<Host, 'db'>, actor: Actor): Named => {
  const { names } = sightOf(host, actor);
  return (personId) => names.get(personId) ?? 'somebody';
};
const noteView =
  (actor: Actor, name: Named) =>
  ({ authorId, ...note }: CoachNote): NoteView => ({
    ...note,
    author: name(authorId),
    person: note.personId === null ? null : name(note.personId),
    mine: authorId === actor.personId,
  });
const ratingView =
  (actor: Actor, name: Named) =>
  ({ authorId, ...rating }: CoachRating): RatingView => ({
    ...rating,
    author: name(authorId),
    person: name(rating.personId),
    score: scoreOf(rating.marks),
    mine: authorId === actor.personId,
  });
const drawView =
  (name: Named) =>
  ({ no: _no, ...draw }: CoachDraw): DrawView => ({ ...draw, person: name(draw.personId) });

/** What coaches said of a contact; null for whom it is not. */
export type ContactCoachingView = {
  /** Those who had it, and whom the reader coaches. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly points: CoachingRules['points'];
  readonly notes: readonly NoteView[];
  readonly ratings: readonly RatingView[];
  readonly drawn: readonly DrawView[];
};
const contactSchema = exactly(object({ id: string().max(80).required('The contact is missing') }));

export function viewContactCoaching(host: Host, actor: Actor, input: unknown): ContactCoachingView {
  mustHold(actor, 'people.coach');
  const { id: contactId } = parse(contactSchema, input);
  mustHold(actor, 'conversations.view');
  seenContact(host, actor, contactId);
  const name = namesFor(host, actor);
  const people = readPeople(host.db);
  const theirs = new Set(people.filter((person) => coaches(actor, person)).map((person) => person.id));
  return {
    people: coachedIn(host, actor, contactId),
    points: readCoachingRules(host.db).points,
    notes: notesOfContact(host.db, contactId)
      .filter((note) => note.personId === null || theirs.has(note.personId))
      .map(noteView(actor, name)),
    ratings: ratingsOfContact(host.db, contactId)
      .filter((rating) => theirs.has(rating.personId))
      .map(ratingView(actor, name)),
    drawn: drawsOfContact(host.db, contactId)
      .filter((draw) => theirs.has(draw.personId))
      .map(drawView(name)),
  };
}

/** How somebody's ratings went: by month, and by point over the last three of them. */
export type Ratings = {
  readonly months: readonly { readonly month: string; readonly count: number; readonly score: number | null }[];
  readonly points: readonly { readonly name: string; readonly count: number; readonly score: number | null }[];
};
/** Months up to one, oldest first, with their instants. */
type MonthSpan = { readonly month: string; readonly from: number; readonly to: number };
function monthsUpTo({ db }: Pick<Host, 'db'>, month: string): MonthSpan[] {
  const zone = readWorkspace(db)?.zone ?? 'UTC';
  return Array.from({ length: MONTHS }, (_, i) => monthAfter(month, i + 1 - MONTHS)).map((one) => {
    const { from, to } = monthOf(one);
    return { month: one, from: daySpan(from, zone).from, to: daySpan(to, zone).to };
  });
}

function ratingsThrough(
  host: Pick<Host, 'db'>,
  personId: string,
  months: readonly MonthSpan[],
): Ratings & { all: CoachRating[] } {
  const all = ratingsOfPerson(host.db, personId, months[0]?.from ?? 0, months.at(-1)?.to ?? 0);
  const mean = (scores: readonly (number | null)[]) => {
    const known = scores.filter((score) => score !== null);
    return known.length === 0 ? null : known.reduce((n, score) => n + score, 0) / known.length;
  };
  const recent = all.filter((rating) => rating.at >= (months.at(-3)?.from ?? 0)).flatMap((r) => r.marks);
  const names = [...new Set(recent.map((mark) => mark.name))];
  return {
    all,
    months: months.map(({ month, from, to }) => {
      const given = all.filter((rating) => rating.at >= from && rating.at < to);
      return { month, count: given.length, score: mean(given.map((rating) => scoreOf(rating.marks))) };
    }),
    points: names.map((name) => {
      const marks: Marked[] = recent.filter((mark) => mark.name === name && mark.mark !== 'none');
      return { name, count: marks.length, score: scoreOf(marks) };
    }),
  };
}

/** What coaches said of a person, what is to be talked about with them, and how their ratings went. */
export type PersonCoachingView = Ratings & {
  readonly id: string;
  readonly name: string;
  readonly notes: readonly NoteView[];
  readonly ratings: readonly RatingView[];
  /** Drawn for this month and not rated yet. */
  readonly due: readonly DrawView[];
};
const personSchema = exactly(object({ id: string().max(80).required('The person is missing') }));
const monthNow = (host: Host): string =>
  localDate(host.times.floor(), readWorkspace(host.db)?.zone ?? 'UTC').slice(0, 7);

export function viewPersonCoaching(host: Host, actor: Actor, input: unknown): PersonCoachingView {
  mustHold(actor, 'people.coach');
  const person = coached(host, actor, parse(personSchema, input).id);
  const name = namesFor(host, actor);
  const month = monthNow(host);
  const { all, ...through } = ratingsThrough(host, person.id, monthsUpTo(host, month));
  return {
    ...through,
    id: person.id,
    name: person.name,
    notes: notesOfPerson(host.db, person.id, MOST_NOTES).map(noteView(actor, name)),
    ratings: all.slice(0, MOST_NOTES).map(ratingView(actor, name)),
    due: drawsOfMonth(host.db, month)
      .filter((draw) => draw.personId === person.id && !draw.rated)
      .map(drawView(name)),
  };
}

/** What somebody is told of what coaches wrote about them: what was shared with them, and no more. */
export type OwnCoachingView = {
  readonly notes: readonly NoteView[];
  readonly ratings: readonly RatingView[];
};
export function viewOwnCoaching(host: Host, actor: Actor): OwnCoachingView {
  mustHold(actor, 'desk.work');
  const name = (personId: string) => readPeople(host.db).find((p) => p.id === personId)?.shownName ?? 'somebody';
  const { all } = ratingsThrough(host, actor.personId, monthsUpTo(host, monthNow(host)));
  return {
    notes: notesOfPerson(host.db, actor.personId, MOST_NOTES)
      .filter((note) => note.shared)
      .map(noteView(actor, name)),
    ratings: all.filter((rating) => rating.shared).map(ratingView(actor, name)),
  };
}

/** Everybody whom the reader coaches in a month, and what is to be rated. */
export type CoachingView = {
  readonly month: string;
  readonly thisMonth: string;
  readonly people: readonly {
    readonly id: string;
    readonly name: string;
    readonly team: string;
    readonly drawn: number;
    readonly rated: number;
    /** Ratings of this month, their mean, and that of the three months before. */
    readonly ratings: number;
    readonly score: number | null;
    readonly before: number | null;
    readonly toTalk: number;
  }[];
  readonly due: readonly DrawView[];
  readonly rules: CoachingRules & { readonly revision: number };
  readonly mayChangeRules: boolean;
  readonly mayRead: boolean;
};
const allSchema = exactly(object({ month: isMonth.optional() }));

/** Goes through everybody's ratings: for a thread of its own. */
export function viewCoaching(host: Host, actor: Actor, input: unknown): CoachingView {
  mustHold(actor, 'people.coach');
  const thisMonth = monthNow(host);
  const month = parse(allSchema, input).month ?? thisMonth;
  const name = namesFor(host, actor);
  const teams = new Map(readTeams(host.db).map((team) => [team.id, team.name]));
  const talks = talksOpen(host.db);
  const back = monthsUpTo(host, month);
  const whom = readPeople(host.db).filter((person) => coaches(actor, person));
  const theirs = new Set(whom.map((person) => person.id));
  const draws = drawsOfMonth(host.db, month).filter((draw) => theirs.has(draw.personId));
  return {
    month,
    thisMonth,
    people: whom.flatMap((person) => {
      const mine = draws.filter((draw) => draw.personId === person.id);
      const { months } = ratingsThrough(host, person.id, back);
      const now = months.at(-1);
      const earlier = months.slice(-4, -1).filter((one) => one.score !== null);
      const many = earlier.reduce((n, one) => n + one.count, 0);
      const toTalk = talks.get(person.id) ?? 0;
      // Whoever is gone is named for as long as there is something to say.
      if (!person.active && mine.length === 0 && (now?.count ?? 0) === 0 && toTalk === 0) return [];
      return [
        {
          id: person.id,
          name: person.name,
          team: teams.get(person.teamId) ?? '',
          drawn: mine.length,
          rated: mine.filter((draw) => draw.rated).length,
          ratings: now?.count ?? 0,
          score: now?.score ?? null,
          before: many === 0 ? null : earlier.reduce((n, one) => n + (one.score ?? 0) * one.count, 0) / many,
          toTalk,
        },
      ];
    }),
    due: draws
      .filter((draw) => !draw.rated)
      .map(drawView(name))
      .sort((a, b) => (a.person < b.person ? -1 : a.person > b.person ? 1 : a.startedAt - b.startedAt)),
    rules: readCoachingRules(host.db),
    mayChangeRules: actor.teams === 'all',
    mayRead: holds(actor, 'conversations.view'),
  };
}
