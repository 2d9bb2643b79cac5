import type { Sayer } from '../../core/differences';
import type { Db } from '../../data/database';
import type { HistoryEntry } from '../../data/history';
import { nameOf } from '../../data/names';
import { type Person, readPerson } from '../../data/people';
import { readWorkspace } from '../../data/workspace';
import { type Actor, sees } from '../ground/actor';

/** Kinds whose thing is a person, or what only their team shares. */
const ABOUT_PEOPLE: ReadonlySet<string> = new Set(['person', 'levels', 'for-now', 'way', 'invitation', 'shift']);
/** Of everything else, what somebody with some teams only may read. */
const FOR_EVERYBODY: ReadonlySet<string> = new Set([
  'queue',
  'door',
  'hours',
  'bot',
  'bot-live',
  'bot-words',
  'duty-profile',
]);

/** Somebody reading History: what they may see of it, and how its ids and instants are said. */
export type HistoryReader = {
  readonly person: (id: string) => Person | undefined;
  /** People outside the reader's teams, and what only they share, stay out of sight. */
  readonly mayRead: (e: HistoryEntry) => boolean;
  readonly say: Sayer;
};

/** People and names are read as they are met, each once: a page of History meets few of all there are. */
export function readerOf(db: Db, actor: Actor): HistoryReader {
  const person = asMet((id: string) => readPerson(db, id));
  const name = asMet((id: string) => nameOf(db, id) ?? id);
  const clock = new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: readWorkspace(db)?.zone ?? 'UTC',
  });
  return {
    person,
    mayRead: (e) => {
      if (actor.teams === 'all') return true;
      if (!ABOUT_PEOPLE.has(e.kind)) return FOR_EVERYBODY.has(e.kind);
      const about = person(e.thingId);
      return about ? sees(actor, about) : actor.teams.includes(e.thingId);
    },
    say: { name, time: (at) => clock.format(at) },
  };
}

/** What `read` gives of each, read when it is first met. */
function asMet<T>(read: (id: string) => T): (id: string) => T {
  const known = new Map<string, T>();
  return (id) => {
    if (!known.has(id)) known.set(id, read(id));
    return known.get(id) as T;
  };
}
