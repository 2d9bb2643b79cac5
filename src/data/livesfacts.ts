import { type RatingsBy, ratingsBy } from '../core/bots/ratings';
import type { DayRows, FactRow } from '../core/measures/factparts';
import type { SomeContacts } from './contactsofday';
import { scriptOf } from './bots';
import { type Db, rows } from './database';
import { lifeEvents } from './events';

/** What a line of a bot was to a contact. */
type Line = { heard: number; missed: number; left: boolean };
/** What was written within an hour, by the customer, by us, and of that by a person. */
type Written = { in: number; out: number; byPerson: number };
/** What is counted of a contact's life: what was written, and the lines of its bot. */
export type LifeFacts = {
  /** By how many hours after the beginning of the day; of the day alone. */
  readonly written: Map<number, Written>;
  readonly lines: Map<string, Line>;
  /** What the phrasebook understood that the customer wanted. */
  readonly intents: Set<string>;
};

const HOUR_MS = 3_600_000;

/** Goes once through what happened in some contacts, by number; what was written, as far as it was within [from, to). */
export function readLives(db: Db, of: SomeContacts, from: number, to: number): ReadonlyMap<number, LifeFacts> {
  const lives = new Map<number, LifeFacts>();
  for (const { no, event } of lifeEvents(db, of)) {
    let life = lives.get(no);
    if (!life) lives.set(no, (life = { written: new Map(), lines: new Map(), intents: new Set() }));
    const { lines, intents } = life;
    const line = (id: string): Line => {
      const known = lines.get(id) ?? { heard: 0, missed: 0, left: false };
      lines.set(id, known);
      return known;
    };
    if (event.type === 'message.written') {
      if (event.floorAt < from || event.floorAt >= to) continue;
      const hour = Math.floor((event.floorAt - from) / HOUR_MS);
      let written = life.written.get(hour);
      if (!written) life.written.set(hour, (written = { in: 0, out: 0, byPerson: 0 }));
      if (event.from === 'customer') written.in++;
      else written.out++;
      if (event.from === 'person') written.byPerson++;
    } else if (event.type === 'bot.heard') {
      line(event.lineId).heard++;
      if (!event.understood) line(event.lineId).missed++;
      else if (event.intent) intents.add(event.intent.id);
    } else {
      for (const way of event.path ?? []) line(way.slice(0, way.indexOf('>')));
      if (event.lineId !== null && (event.how === 'left' || event.how === 'went-quiet')) line(event.lineId).left = true;
    }
  }
  return lives;
}

/** What was written in each hour of a day that begins at `from`, contact by contact. */
export const messageRows = (
  lives: ReadonlyMap<number, LifeFacts>,
  contacts: DayRows['contacts'],
  from: number,
): FactRow<'messages'>[] =>
  contacts.flatMap(({ no, keys }) =>
    [...(lives.get(no)?.written ?? [])].map(([hour, lengths]) => ({
      no,
      at: from + hour * HOUR_MS,
      keys,
      how: null,
      lengths,
    })),
  );

/** The lines of a bot at which each contact was asked something or sent another way, each once. */
export function lineRows(lives: ReadonlyMap<number, LifeFacts>, contacts: DayRows['contacts']): FactRow<'lines'>[] {
  const byNo = new Map(contacts.map((c) => [c.no, c]));
  return [...lives].flatMap(([no, { lines }]) => {
    const contact = byNo.get(no);
    const bot = contact?.keys.bot[0];
    if (!contact || bot === undefined) return [];
    return [...lines].map(([id, { heard, missed, left }]) => ({
      no,
      at: contact.at,
      keys: { ...contact.keys, line: [`${bot} ${id}`] },
      how: left ? ('left' as const) : ('passed' as const),
      lengths: { heard, missed },
    }));
  });
}

/** How customers rated some contacts, by number: 1 to 5, as the after-contact scene of their bot asked. */
export function readRatings(db: Db, of: SomeContacts): ReadonlyMap<number, number> {
  const scripts = new Map<string, RatingsBy>();
  const asked = (botId: string, version: number): RatingsBy => {
    const key = `${botId} ${version}`;
    let of = scripts.get(key);
    if (!of) {
      const script = scriptOf(db, botId, version);
      scripts.set(key, (of = script ? ratingsBy(script) : new Map()));
    }
    return of;
  };
  const found = rows<{ no: number; botId: string; version: number; name: string; value: string }>(
    db,
    `SELECT c.no, c.bot_id AS botId, c.bot_version AS version, v.name, v.value FROM contacts c
      JOIN contact_values v ON v.contact_id = c.id
      WHERE ${of.where} AND c.bot_id IS NOT NULL AND c.bot_version IS NOT NULL`,
    ...of.values,
  );
  const ratings = new Map<number, number>();
  for (const { no, botId, version, name, value } of found) {
    const rating = asked(botId, version).get(name)?.(value) ?? null;
    if (rating !== null) ratings.set(no, rating);
  }
  return ratings;
}
