import type { DayRows, FactRow } from '../core/measures/factparts';
import type { Db } from './database';
import { botEvents } from './events';

/** The lines of a bot at which each contact was asked something or sent another way, each once. */
export function lineRows(db: Db, from: number, to: number, contacts: DayRows['contacts']): FactRow<'lines'>[] {
  const byNo = new Map(contacts.map((c) => [c.no, c]));
  type Line = { heard: number; missed: number; left: boolean };
  const linesOf = new Map<number, Map<string, Line>>();
  for (const { no, event } of botEvents(db, from, to)) {
    let lines = linesOf.get(no);
    if (!lines) linesOf.set(no, (lines = new Map()));
    const line = (id: string): Line => {
      const known = lines.get(id) ?? { heard: 0, missed: 0, left: false };
      lines.set(id, known);
      return known;
    };
    if (event.type === 'bot.heard') {
      line(event.lineId).heard++;
      if (!event.understood) line(event.lineId).missed++;
      continue;
    }
    for (const way of event.path ?? []) line(way.slice(0, way.indexOf('>')));
    if (event.lineId !== null && (event.how === 'left' || event.how === 'went-quiet')) line(event.lineId).left = true;
  }
  return [...linesOf].flatMap(([no, lines]) => {
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
