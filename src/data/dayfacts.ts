import type { Channel } from '../core/channels';
import type { DayRows, FactRow, OfferEnd, OpenKey, PartEnds } from '../core/measures/factparts';
import type { ContactEnd, VisitEnd } from '../core/measures/facts';
import { journeyBits } from '../core/measures/journeys';
import { type Mood, MOODS } from '../core/mood/mood';
import { type Db, row, rows } from './database';
import { goingOnAt, type SomeContacts, startedIn } from './contactsofday';
import { type FurtherPart, furtherParts } from './journeys';
import { type LifeFacts, lineRows, messageRows, readLives, readRatings } from './livesfacts';
import { MOOD_OF } from './moods';
import { listIn } from './readable';

/**
 * The rows of one day [from, to), floor ms, and the numbers of the contacts that may still change one of them.
 * `openOf` says whether a door was open at an instant, where the log does not.
 */
export type OpenOf = (doorId: string, at: number) => OpenKey;
export type DayFacts = { readonly rows: DayRows; readonly openContacts: readonly number[] };

type ContactRow = {
  readonly no: number;
  readonly doorId: string;
  readonly channel: Channel;
  readonly language: string;
  readonly botId: string | null;
  readonly botVersion: number | null;
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly open: number | null;
};
const CONTACT = `c.no, c.door_id AS doorId, c.channel, c.language, c.bot_id AS botId, c.bot_version AS botVersion,
  c.started_at AS startedAt, c.ended_at AS endedAt, c.open`;
const ENTERED = 'v.entered_at >= ?1 AND v.entered_at < ?2';

type Turn = { readonly personId: string; readonly outcome: string | null; readonly acceptedAt: number };
type VisitRow = {
  readonly no: number;
  readonly visitId: string;
  readonly queueId: string;
  readonly needs: string;
  readonly placedAt: number;
  readonly enteredAt: number;
  readonly visitEndedAt: number | null;
  readonly end: VisitEnd | null;
  readonly goalSeconds: number;
  readonly callback: number;
  readonly message: number;
  readonly toldAt: number | null;
  readonly toldSeconds: number | null;
  /** How many stages of the wait clock had come. */
  readonly stages: number;
};
const VISIT = `v.id AS visitId, v.queue_id AS queueId, v.needs, v.placed_at AS placedAt, v.entered_at AS enteredAt,
  v.ended_at AS visitEndedAt, v.ended_how AS "end", v.goal_seconds AS goalSeconds, v.callback, v.message, v.told_at AS toldAt, v.told_seconds AS toldSeconds,
  json_array_length(v.staged_at) AS stages`;

/** Each contact and visit is read once, whole; what belongs to it says which: columns are most of what a day costs. */
/** `settled`: the log has come a week and more further, so that it is known who came back. */
export function readDayFacts(db: Db, from: number, to: number, openOf: OpenOf, settled: boolean): DayFacts {
  const keys = keysOf(db, openOf);
  const open = new Set<number>();
  const ofDay = startedIn(from, to);
  const started = contactsOf(db, ofDay, settled);
  const contactOf = contactsFrom(db, started);
  const entered = rows<VisitRow>(
    db,
    `SELECT c.no, ${VISIT} FROM visits v JOIN contacts c ON c.id = v.contact_id WHERE ${ENTERED}
      ORDER BY v.entered_at, v.entry`,
    from,
    to,
  );
  const rowsOf = (of: SomeContacts, found: readonly StartedRow[]) => {
    const [lives, ratings] = [readLives(db, of, from, to), readRatings(db, of)];
    const contacts = contactRows(db, of, found, keys, open, { lives, ratings });
    return { lives, contacts, messages: messageRows(lives, contacts, from) };
  };
  const { lives, contacts, messages } = rowsOf(ofDay, started);
  // What is written today in a conversation that began earlier is of today.
  const goingOn = goingOnAt(db, from);
  const earlier = rowsOf(goingOn, contactsOf(db, goingOn, settled));
  return {
    rows: {
      contacts,
      visits: visitRows(db, from, to, entered, contactOf, keys, open),
      offers: offerRows(db, from, to, new Map(entered.map((v) => [v.visitId, v])), contactOf, keys),
      legs: legRows(db, from, to, contactOf, keys),
      lines: lineRows(lives, contacts),
      messages: [...messages, ...earlier.messages],
    },
    openContacts: [...open],
  };
}

type StartedRow = ContactRow & {
  readonly end: ContactEnd | null;
  readonly again: number | null;
  readonly mood: Mood | null;
  /** Whether it begins a journey of which all is there. */
  readonly first: number;
};
/** Who begins another contact within this came back. */
const AGAIN_MS = 7 * 86_400_000;
const contactsOf = (db: Db, of: SomeContacts, settled: boolean): StartedRow[] =>
  rows<StartedRow>(
    db,
    `SELECT ${CONTACT}, c.ended_how AS "end", CASE WHEN ? AND c.ended_at IS NOT NULL THEN coalesce((
        SELECT min(n.started_at) - c.ended_at FROM contacts n
          WHERE n.customer_id = c.customer_id AND n.started_at > c.ended_at AND n.started_at <= c.ended_at + ${AGAIN_MS}
      ), 0) END AS again,
        ? AND c.part_of IS NULL AS first,
        ${MOOD_OF} AS mood
      FROM contacts c WHERE ${of.where} ORDER BY c.started_at, c.no`,
    settled ? 1 : 0,
    settled ? 1 : 0,
    ...of.values,
  );
type ContactOf = (no: number) => ContactRow;
/** Contacts by number: those that started on the day are there, others are read when they are asked for. */
function contactsFrom(db: Db, started: readonly ContactRow[]): ContactOf {
  const known = new Map(started.map((c) => [c.no, c]));
  return (no) => {
    let found = known.get(no);
    if (!found) {
      found = row<ContactRow>(db, `SELECT ${CONTACT} FROM contacts c WHERE c.no = ?`, no);
      if (!found) throw new Error(`there is no contact ${no}`);
      known.set(no, found);
    }
    return found;
  };
}

type Touched = {
  readonly queues: readonly string[];
  readonly turns: readonly Turn[];
  readonly skills: readonly string[];
};
type Keys = (contact: ContactRow, touched: Touched) => FactRow['keys'];
const NOBODY: readonly string[] = [];
const each = (values: readonly string[]): readonly string[] =>
  values.length === 0 ? NOBODY : values.length === 1 ? values : [...new Set(values)].sort();

function keysOf(db: Db, openOf: OpenOf): Keys {
  const teams = teamsAt(db);
  return (c, { queues, turns, skills }) => ({
    channel: [c.channel],
    door: [c.doorId],
    bot: c.botId === null ? NOBODY : [c.botId],
    version: c.botId === null || c.botVersion === null ? NOBODY : [`${c.botId} ${c.botVersion}`],
    line: NOBODY,
    intent: NOBODY,
    language: [c.language],
    queue: each(queues),
    stage: NOBODY,
    person: each(turns.map((t) => t.personId)),
    team: each(turns.flatMap((t) => teams(t.personId, t.acceptedAt) ?? [])),
    outcome: each(turns.flatMap((t) => t.outcome ?? [])),
    skill: each(skills),
    open: [c.open === null ? openOf(c.doorId, c.startedAt) : c.open === 1 ? 'open' : 'shut'],
  });
}

/** Which team somebody was in at an instant. */
function teamsAt(db: Db): (personId: string, at: number) => string | undefined {
  const spells = new Map<string, { readonly fromAt: number; readonly teamId: string }[]>();
  for (const spell of rows<{ personId: string; fromAt: number; teamId: string }>(
    db,
    'SELECT person_id AS personId, from_at AS fromAt, team_id AS teamId FROM team_spells ORDER BY person_id, from_at',
  )) {
    const of = spells.get(spell.personId);
    if (of) of.push(spell);
    else spells.set(spell.personId, [spell]);
  }
  return (personId, at) => spells.get(personId)?.findLast((spell) => spell.fromAt <= at)?.teamId;
}

/** Needs are the same few again and again: each is read once. */
const skillsKnown = new Map<string, readonly string[]>();
function skillsOf(needs: string): readonly string[] {
  let skills = skillsKnown.get(needs);
  if (!skills) {
    skills = (listIn(needs) as { readonly skillId: string }[]).map((need) => need.skillId);
    if (skillsKnown.size > 10_000) skillsKnown.clear();
    skillsKnown.set(needs, skills);
  }
  return skills;
}

/** Rows that are read several to a thing, gathered by it. */
function gathered<K, R>(found: readonly R[], keyOf: (row: R) => K): Map<K, R[]> {
  const by = new Map<K, R[]>();
  for (const row of found) {
    const of = by.get(keyOf(row));
    if (of) of.push(row);
    else by.set(keyOf(row), [row]);
  }
  return by;
}

function contactRows(
  db: Db,
  of: SomeContacts,
  started: readonly StartedRow[],
  keys: Keys,
  open: Set<number>,
  { lives, ratings }: { readonly lives: ReadonlyMap<number, LifeFacts>; readonly ratings: ReadonlyMap<number, number> },
): FactRow<'contacts'>[] {
  const visits = gathered(
    rows<{ no: number; queueId: string; needs: string; endedAt: number | null }>(
      db,
      `SELECT c.no, v.queue_id AS queueId, v.needs, v.ended_at AS endedAt FROM contacts c JOIN visits v ON v.contact_id = c.id
        WHERE ${of.where}`,
      ...of.values,
    ),
    (v) => v.no,
  );
  const turns = gathered(
    rows<Turn & { no: number; endedAt: number | null }>(
      db,
      `SELECT c.no, l.person_id AS personId, l.outcome, l.accepted_at AS acceptedAt, l.ended_at AS endedAt FROM contacts c
        JOIN legs l ON l.contact_id = c.id WHERE ${of.where}`,
      ...of.values,
    ),
    (l) => l.no,
  );
  const further = gathered(furtherParts(db, of), (part) => part.first);
  return started.map((c) => {
    const [mine, theirs] = [visits.get(c.no) ?? [], turns.get(c.no) ?? []];
    if (c.endedAt === null || [...mine, ...theirs].some((one) => one.endedAt === null)) open.add(c.no);
    const parts = further.get(c.no) ?? [];
    for (const part of parts) if (part.endedAt === null) open.add(part.no);
    return {
      no: c.no,
      at: c.startedAt,
      keys: {
        ...keys(c, {
          queues: mine.map((v) => v.queueId),
          turns: theirs,
          skills: mine.flatMap((v) => skillsOf(v.needs)),
        }),
        intent: each([...(lives.get(c.no)?.intents ?? [])]),
      },
      how: c.end,
      lengths: {
        lasted: c.endedAt === null ? null : c.endedAt - c.startedAt,
        again: c.again,
        rating: ratings.get(c.no) ?? null,
        mood: c.mood === null ? null : MOODS.indexOf(c.mood),
        ...(c.first === 1 ? journeyOf(c, theirs, parts) : { journey: null, took: null }),
      },
    };
  });
}

/** How long a journey was that a contact began, and what it took; nothing while some of it is still open. */
function journeyOf(first: ContactRow, turns: readonly Turn[], parts: readonly FurtherPart[]) {
  const all = [first, ...parts];
  const ends = all.flatMap((one) => one.endedAt ?? []);
  if (ends.length < all.length) return { journey: null, took: null };
  const people = new Set([...turns.map((t) => t.personId), ...parts.flatMap((p) => p.people?.split(',') ?? [])]);
  return {
    journey: Math.max(...ends) - first.startedAt,
    took: journeyBits({
      several: parts.length > 0,
      channels: new Set(all.map((one) => one.channel)).size > 1,
      people: people.size > 1,
    }),
  };
}

function visitRows(
  db: Db,
  from: number,
  to: number,
  entered: readonly VisitRow[],
  contactOf: ContactOf,
  keys: Keys,
  open: Set<number>,
): FactRow<'visits'>[] {
  const turns = gathered(
    rows<Turn & { visitId: string; endedAt: number | null }>(
      db,
      `SELECT l.visit_id AS visitId, l.person_id AS personId, l.outcome, l.accepted_at AS acceptedAt, l.ended_at AS endedAt
        FROM visits v JOIN legs l ON l.contact_id = v.contact_id AND l.visit_id = v.id WHERE ${ENTERED}`,
      from,
      to,
    ),
    (l) => l.visitId,
  );
  return entered.map((v) => {
    const theirs = turns.get(v.visitId) ?? [];
    const contact = contactOf(v.no);
    if (v.visitEndedAt === null || contact.endedAt === null || theirs.some((l) => l.endedAt === null)) open.add(v.no);
    const wasTold = v.end === 'accepted' && v.callback === 0 && v.message === 0;
    const since = (instant: number) => (v.visitEndedAt === null ? null : v.visitEndedAt - instant);
    return {
      no: v.no,
      at: v.enteredAt,
      keys: {
        ...keys(contact, { queues: [v.queueId], turns: theirs, skills: skillsOf(v.needs) }),
        stage: [`${v.queueId} ${v.stages}`],
      },
      how: howEnded(v),
      lengths: {
        waited: since(v.placedAt),
        stayed: since(v.enteredAt),
        goal: v.goalSeconds * 1000,
        told: wasTold && v.toldSeconds !== null ? v.toldSeconds * 1000 : null,
        followed: wasTold && v.toldAt !== null ? since(v.toldAt) : null,
      },
    };
  });
}

/** How a visit ended; calls that were promised and messages end in ways of their own. */
function howEnded(v: VisitRow): PartEnds['visits'] | null {
  if (v.end === null) return null;
  if (v.callback === 1) return v.end === 'accepted' ? 'rung-reached' : 'rung-not';
  if (v.message === 0) return v.end;
  if (v.end !== 'accepted' || v.visitEndedAt === null) return 'message-not';
  return v.visitEndedAt - v.placedAt <= v.goalSeconds * 1000 ? 'message-met' : 'message-late';
}

function offerRows(
  db: Db,
  from: number,
  to: number,
  visits: ReadonlyMap<string, VisitRow>,
  contactOf: ContactOf,
  keys: Keys,
): FactRow<'offers'>[] {
  return rows<{ visitId: string; personId: string; madeAt: number; endedAt: number | null; end: OfferEnd | null }>(
    db,
    `SELECT o.visit_id AS visitId, o.person_id AS personId, o.made_at AS madeAt, o.ended_at AS endedAt,
        o.ended_how AS "end"
      FROM visits v JOIN offers o ON o.visit_id = v.id WHERE ${ENTERED}
      ORDER BY v.entered_at, v.entry, o.made_at, o.id`,
    from,
    to,
  ).flatMap((o) => {
    const visit = visits.get(o.visitId);
    if (!visit) return [];
    return [
      {
        no: visit.no,
        at: visit.enteredAt,
        keys: keys(contactOf(visit.no), {
          queues: [visit.queueId],
          turns: [{ personId: o.personId, outcome: null, acceptedAt: o.madeAt }],
          skills: skillsOf(visit.needs),
        }),
        how: o.end,
        lengths: { lasted: o.endedAt === null ? null : o.endedAt - o.madeAt },
      },
    ];
  });
}

function legRows(db: Db, from: number, to: number, contactOf: ContactOf, keys: Keys): FactRow<'legs'>[] {
  return rows<
    Pick<VisitRow, 'no' | 'queueId' | 'needs' | 'placedAt' | 'goalSeconds' | 'callback' | 'message'> &
      Turn & {
        legEndedAt: number;
        talkEndedAt: number | null;
        handleSeconds: number | null;
        firstReplyAt: number | null;
        passedOn: number;
        inFront: number;
        askedAt: number | null;
      }
  >(
    db,
    `SELECT c.no, v.queue_id AS queueId, v.needs, v.placed_at AS placedAt, v.goal_seconds AS goalSeconds, v.callback, v.message,
        l.person_id AS personId, l.outcome, l.accepted_at AS acceptedAt, l.ended_at AS legEndedAt,
        l.talk_ended_at AS talkEndedAt, l.handle_seconds AS handleSeconds, l.first_reply_at AS firstReplyAt,
        l.passed_on AS passedOn, l.in_front AS inFront,
        -- By the visit's few offers, not by all that the person ever had: hence the plus.
        (SELECT min(o.made_at) FROM offers o WHERE o.visit_id = l.visit_id AND +o.person_id = l.person_id) AS askedAt
      FROM legs l JOIN visits v ON v.id = l.visit_id JOIN contacts c ON c.id = v.contact_id
      WHERE l.ended_at >= ?1 AND l.ended_at < ?2 ORDER BY l.ended_at, l.accepted_at, l.id`,
    from,
    to,
  ).map((l) => {
    // A customer who is rung back, or left a message, does not wait: these have figures of their own.
    const waits = l.callback === 0 && l.message === 0;
    const contact = contactOf(l.no);
    return {
      no: l.no,
      at: l.legEndedAt,
      keys: keys(contact, { queues: [l.queueId], turns: [l], skills: skillsOf(l.needs) }),
      how: l.passedOn === 1 ? 'passed-on' : 'kept',
      lengths: {
        handled: l.handleSeconds === null ? null : Math.round(l.handleSeconds * 1000),
        wrapped: l.talkEndedAt === null ? null : l.legEndedAt - l.talkEndedAt,
        waited: waits ? l.acceptedAt - l.placedAt : null,
        goal: l.goalSeconds * 1000,
        asked: waits && l.askedAt !== null ? l.askedAt - l.placedAt : null,
        replied: contact.channel === 'voice' || l.firstReplyAt === null ? null : l.firstReplyAt - l.acceptedAt,
        held: l.legEndedAt - l.acceptedAt,
        fronted: l.inFront === 1 && l.handleSeconds !== null ? Math.round(l.handleSeconds * 1000) : null,
      },
    };
  });
}
