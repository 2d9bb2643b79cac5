import { writeRows, writeTable } from '../../core/formats/csv';
import { readContact } from '../../data/contacts';
import { type FoundContact, foundContacts } from '../../data/contactsearch';
import { someContacts } from '../../data/contactsofday';
import type { Db } from '../../data/database';
import { readRatings } from '../../data/livesfacts';
import { readDoors } from '../../data/doors';
import { retiredOf } from '../../data/retired';
import { legsOf } from '../../data/legs';
import { privateValuesOf, valuesOf } from '../../data/values';
import { visitsOf } from '../../data/visits';
import { MASK, masked } from '../contacts/privatevalues';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import type { FilePart } from '../people/peoplecsv';
import { askedOf } from './asking';
import { lookFor } from './find';
import { namesOf } from './names';

/** Contacts in one part of a file. */
const PART = 1000;

/** A contact as it is taken out; the published schema is `docs/formats/contact.schema.json`. Instants are ISO 8601, UTC. */
export type ContactOut = {
  readonly id: string;
  readonly channel: string;
  readonly door: string;
  readonly language: string;
  readonly bot: string | null;
  readonly customer: string;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly ended: string | null;
  /** What the customer gave, 1 to 5; how they seemed to feel, and whether that was judged or said; what it came to. */
  readonly rating: number | null;
  readonly mood: string | null;
  readonly moodBy: 'automatic' | 'person' | null;
  readonly summary: string | null;
  readonly visits: readonly {
    readonly queue: string;
    readonly enteredAt: string;
    readonly waitedSeconds: number | null;
    readonly goalSeconds: number;
    readonly ended: string | null;
  }[];
  readonly turns: readonly {
    readonly person: string;
    readonly acceptedAt: string;
    readonly endedAt: string | null;
    readonly handleSeconds: number | null;
    readonly outcome: string | null;
    readonly passedOn: boolean;
  }[];
  /** Private values are masked. */
  readonly values: Readonly<Record<string, string>>;
};

const HEADER = [
  'Contact',
  'Started',
  'Ended',
  'How it ended',
  'Channel',
  'Door',
  'Language',
  'Customer',
  'Queues',
  'Waited (s)',
  'People',
  'Handle time (s)',
  'Outcomes',
  'Rating',
  'Mood',
  'Mood by',
  'Summary',
];
const iso = (at: number): string => new Date(at).toISOString();

/** What doors are called, retired ones as well. */
const doorNames = (db: Db): ReadonlyMap<string, string> =>
  new Map([...readDoors(db), ...retiredOf(db, 'door')].map((d) => [d.id, d.name]));

/**
 * The contacts that are looked for, latest first, as a part of a file: NDJSON, one contact a line with all its visits and
 * turns; or CSV, flat. `after` is what the part before gave as `next`.
 */
export function contactsPart(host: Host, actor: Actor, input: unknown): FilePart {
  mustHold(actor, 'conversations.view');
  mustHold(actor, 'review.export');
  const { format, ...question } = (input ?? {}) as { format?: string };
  const asked = askedOf(host, actor, question);
  const { nos, last } = lookFor(host, asked, PART);
  const found = foundContacts(host.db, nos);
  const first = asked.finding.after === null;
  return {
    text: format === 'ndjson' ? asLines(host, actor, found) : asTable(host, actor, found, first),
    next: last === null ? null : String(last.no),
  };
}

const moodBy = ({ mood, moodSaid }: FoundContact) => (mood === null ? null : moodSaid === 1 ? 'person' : 'automatic');
function ratingsOf(db: Db, found: readonly FoundContact[]): (one: FoundContact) => number | null {
  const ratings = readRatings(db, someContacts(found.map((one) => one.no)));
  return (one) => ratings.get(one.no) ?? null;
}

function asLines(host: Host, actor: Actor, found: readonly FoundContact[]): string {
  const nameOf = namesOf(host, actor);
  const doors = doorNames(host.db);
  const ratings = ratingsOf(host.db, found);
  return found
    .map((one) => `${JSON.stringify({ ...contactOut(host, one, nameOf, doors), rating: ratings(one) })}\n`)
    .join('');
}

function contactOut(
  { db }: Host,
  one: FoundContact,
  nameOf: ReturnType<typeof namesOf>,
  doors: ReadonlyMap<string, string>,
): Omit<ContactOut, 'rating'> {
  const contact = readContact(db, one.id);
  const privates = new Set(privateValuesOf(db, one.id).map((v) => v.name));
  return {
    id: one.id,
    channel: one.channel,
    door: doors.get(contact?.doorId ?? '') ?? '',
    language: contact?.language ?? '',
    bot: contact?.botId ? nameOf('bot', contact.botId) : null,
    customer: one.customer,
    startedAt: iso(one.startedAt),
    endedAt: one.endedAt === null ? null : iso(one.endedAt),
    ended: one.endedHow,
    mood: one.mood,
    moodBy: moodBy(one),
    summary: one.summary === null ? null : masked(one.summary),
    visits: visitsOf(db, one.id).map((v) => ({
      queue: nameOf('queue', v.queueId),
      enteredAt: iso(v.enteredAt),
      waitedSeconds: v.endedAt === null ? null : (v.endedAt - v.placedAt) / 1000,
      goalSeconds: v.goalSeconds,
      ended: v.endedHow,
    })),
    turns: legsOf(db, one.id).map((l) => ({
      person: nameOf('person', l.personId),
      acceptedAt: iso(l.acceptedAt),
      endedAt: l.endedAt === null ? null : iso(l.endedAt),
      handleSeconds: l.handleSeconds,
      outcome: l.outcome,
      passedOn: l.passedOn === 1,
    })),
    values: {
      ...Object.fromEntries(valuesOf(db, one.id).map((v) => [v.name, masked(v.value)])),
      ...Object.fromEntries([...privates].map((name) => [name, MASK])),
    },
  };
}

function asTable(host: Host, actor: Actor, found: readonly FoundContact[], first: boolean): string {
  const nameOf = namesOf(host, actor);
  const doors = doorNames(host.db);
  const named = (key: 'queue' | 'person' | 'outcome', list: string | null) =>
    [...new Set(list ? list.split(',') : [])].map((id) => nameOf(key, id)).join(', ');
  const ratings = ratingsOf(host.db, found);
  const lines = found.map((one) => {
    const contact = readContact(host.db, one.id);
    const waits = visitsOf(host.db, one.id).flatMap((v) =>
      v.endedAt === null ? [] : [(v.endedAt - v.placedAt) / 1000],
    );
    return [
      one.id,
      iso(one.startedAt),
      one.endedAt === null ? '' : iso(one.endedAt),
      one.endedHow ?? '',
      one.channel,
      doors.get(contact?.doorId ?? '') ?? '',
      contact?.language ?? '',
      one.customer,
      named('queue', one.queues),
      waits.length === 0 ? '' : String(Math.max(...waits)),
      named('person', one.people),
      one.handleSeconds === null ? '' : String(one.handleSeconds),
      named('outcome', one.outcomes),
      String(ratings(one) ?? ''),
      one.mood ?? '',
      moodBy(one) ?? '',
      one.summary === null ? '' : masked(one.summary),
    ];
  });
  if (first) return writeTable(HEADER, lines);
  return lines.length === 0 ? '' : `\r\n${writeRows(lines)}`;
}
