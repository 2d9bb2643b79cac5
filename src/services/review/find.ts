import { type DaySpan, type FactDay, NONE } from '../../core/measures/columns';
import { passing } from '../../core/measures/narrowing';
import { MOODS } from '../../core/mood/mood';
import { around, haveWords, searchedWords } from '../../core/wordsearch';
import {
  contactsOfCustomersLike,
  type FoundContact,
  foundContacts,
  ofCustomersLike,
  startOf,
  textsOf,
} from '../../data/contactsearch';
import { someContacts } from '../../data/contactsofday';
import { readRatings } from '../../data/livesfacts';
import { masked } from '../contacts/privatevalues';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf, spansOf } from './asking';
import { type AskedView, askedView } from './askedview';
import { factDays } from './factdays';
import { namesOf } from './names';

/** Contacts on a page of those found. */
const PAGE = 50;
/** Contacts whose words are read at once, and how long one question goes on looking. */
const BATCH = 200;
const LOOKS_MS = 3000;
/** So many customers are looked up first. */
const MOST_CUSTOMERS = 2000;

export type FoundLine = Omit<FoundContact, 'no' | 'customerId' | 'queues' | 'people' | 'outcomes'> & {
  /** What the customer gave, 1 to 5. */
  readonly rating: number | null;
  readonly queues: string;
  readonly people: string;
  readonly outcomes: string;
  /** What stands around the words looked for. */
  readonly said: string | null;
};
export type FindView = AskedView & {
  readonly lines: readonly FoundLine[];
  /** The contact after which to look further, by its number; null where all have been looked at. */
  readonly further: number | null;
  /** How far back it has been looked, floor ms; null where all of the range has been. */
  readonly lookedBackTo: number | null;
};

/** Contacts by who, what was said and how they went, latest first. Private values are never found by what they are. */
export function findContacts(host: Host, actor: Actor, input: unknown): FindView {
  mustHold(actor, 'conversations.view');
  const asked = askedOf(host, actor, input);
  const { finding } = asked;
  const words = searchedWords(finding.words ?? '');
  const { nos: found, last } = lookFor(host, asked, PAGE);
  const said = words.length > 0 ? textsOf(host.db, found) : null;
  const nameOf = namesOf(host, actor);
  const ratings = readRatings(host.db, someContacts(found));
  const named = (key: 'queue' | 'person' | 'outcome', list: string | null) =>
    [...new Set(list ? list.split(',') : [])].map((id) => nameOf(key, id)).join(', ');
  return {
    ...askedView(host, actor, asked),
    lines: foundContacts(host.db, found).map(({ no, customerId: _customer, ...line }) => ({
      ...line,
      queues: named('queue', line.queues),
      people: named('person', line.people),
      outcomes: named('outcome', line.outcomes),
      rating: ratings.get(no) ?? null,
      summary: line.summary === null ? null : masked(line.summary),
      said: (said?.get(no) ?? []).map((text) => around(masked(text), words)).find((text) => text !== null) ?? null,
    })),
    further: last?.no ?? null,
    lookedBackTo: last?.at ?? null,
  };
}

type Place = { readonly no: number; readonly at: number };

/**
 * The numbers of contacts that are looked for, latest first: so many at most, and no longer than one question may look.
 * `last` is the contact up to which it was looked; null where all of the range was.
 */
export function lookFor(
  host: Host,
  asked: Asked,
  most: number,
): { readonly nos: readonly number[]; readonly last: Place | null } {
  const began = performance.now();
  const nos: number[] = [];
  let last: Place | null = null;
  for (const { one, fits } of matching(host, asked)) {
    if (nos.length === most || (last !== null && performance.now() - began > LOOKS_MS)) return { nos, last };
    last = one;
    if (fits) nos.push(one.no);
  }
  return { nos, last: null };
}

/** Contacts of the range, latest first, each with whether it is one that is looked for. */
function* matching(host: Host, asked: Asked): Generator<{ readonly one: Place; readonly fits: boolean }> {
  const { finding } = asked;
  const words = searchedWords(finding.words ?? '');
  const spans = spansOf(asked.now);
  const only = finding.customer ? contactsOf(host, finding.customer, spans) : null;
  for (const batch of candidates(host, factDays(host, spans), asked, only)) {
    const nos = batch.map((c) => c.no);
    // Where nearly everybody is like that, it is looked contact by contact.
    const like = finding.customer && only === null ? ofCustomersLike(host.db, nos, finding.customer) : null;
    const theirs = like ? nos.filter((no) => like.has(no)) : nos;
    const texts = words.length > 0 ? textsOf(host.db, theirs) : null;
    const fitting = new Set(texts ? theirs.filter((no) => haveWords(texts.get(no) ?? [], words)) : theirs);
    for (const one of batch) yield { one, fits: fitting.has(one.no) };
  }
}

const contactsOf = (host: Host, typed: string, spans: readonly DaySpan[]): ReadonlySet<number> | null =>
  contactsOfCustomersLike(host.db, typed, {
    from: spans[0]?.from ?? 0,
    to: spans.at(-1)?.to ?? 0,
    most: MOST_CUSTOMERS,
  });

/** Contacts of the range that pass, latest first, some at a time; only those after one where it is looked further. */
function* candidates(
  { db }: Host,
  days: readonly FactDay[],
  { now: { narrowing }, finding }: Asked,
  only: ReadonlySet<number> | null,
): Generator<readonly Place[]> {
  let batch: Place[] = [];
  // A year is gone through in thousands of parts: each begins on the day at which the one before ended.
  const since = finding.after === null ? null : startOf(db, finding.after);
  let skipping = finding.after !== null;
  for (const day of [...days].reverse()) {
    if (since !== null && day.from > since) continue;
    const part = day.part('contacts');
    const mask = passing(part, narrowing);
    const [no, at, lasted, how] = [part.numbers('no'), part.numbers('at'), part.numbers('lasted'), part.coded('how')];
    const [moods, ratings] = [part.numbers('mood'), part.numbers('rating')];
    const mood = finding.mood === null ? null : MOODS.indexOf(finding.mood);
    for (let i = part.rows - 1; i >= 0; i--) {
      const one = no[i] as number;
      if (skipping) {
        skipping = one !== finding.after;
        continue;
      }
      if ((mask !== null && mask[i] === 0) || (only !== null && !only.has(one))) continue;
      if (finding.ended && how.entries[how.codes[i] as number]?.[0] !== finding.ended) continue;
      const length = lasted[i] as number;
      if (finding.minutes > 0 && (length === NONE || length < finding.minutes * 60_000)) continue;
      if (mood !== null && moods[i] !== mood) continue;
      // What was not rated is larger than any rating.
      if (finding.rated !== null && (ratings[i] as number) > finding.rated) continue;
      batch.push({ no: one, at: part.from + (at[i] as number) });
      if (batch.length === BATCH) {
        yield batch;
        batch = [];
      }
    }
  }
  if (batch.length > 0) yield batch;
}
