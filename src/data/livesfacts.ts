import { type RatingsBy, ratingsBy } from '../core/bots/ratings';
import type { DayRows, FactRow } from '../core/measures/factparts';
import { scriptOf } from './bots';
import { type Db, rows } from './database';
import { lifeEvents } from './events';

/** What a line of a bot was to a contact. */
type Line = { heard: number; missed: number; left: boolean };
/** What is counted of a contact's life: how much was said by either side, and the lines of its bot. */
export type LifeFacts = {
  messagesIn: number;
  messagesOut: number;
  readonly lines: Map<string, Line>;
  /** What the phrasebook understood that the customer wanted. */
  readonly intents: Set<string>;
};

/** Goes once through what happened in the contacts that started in [from, to), by number. */
export function readLives(db: Db, from: number, to: number): ReadonlyMap<number, LifeFacts> {
  const lives = new Map<number, LifeFacts>();
  for (const { no, event } of lifeEvents(db, from, to)) {
    let life = lives.get(no);
    if (!life) lives.set(no, (life = { messagesIn: 0, messagesOut: 0, lines: new Map(), intents: new Set() }));
    const { lines, intents } = life;
    const line = (id: string): Line => {
      const known = lines.get(id) ?? { heard: 0, missed: 0, left: false };
      lines.set(id, known);
      return known;
    };
    if (event.type === 'message.written') {
      if (event.from === 'customer') life.messagesIn++;
      else life.messagesOut++;
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

/** How customers rated contacts that started in [from, to), by number: 1 to 5, as the after-contact scene of their bot asked. */
export function readRatings(db: Db, from: number, to: number): ReadonlyMap<number, number> {
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
      WHERE c.started_at >= ? AND c.started_at < ? AND c.bot_id IS NOT NULL AND c.bot_version IS NOT NULL`,
    from,
    to,
  );
  const ratings = new Map<number, number>();
  for (const { no, botId, version, name, value } of found) {
    const rating = asked(botId, version).get(name)?.(value) ?? null;
    if (rating !== null) ratings.set(no, rating);
  }
  return ratings;
}
