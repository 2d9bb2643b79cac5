import type { BotEndings, Traffic } from '../core/bots/traffic';
import { type Db, rows } from './database';

/** How conversations with each bot ended since an instant of the floor, by bot id. */
export function endingsSince(db: Db, since: number): Record<string, BotEndings> {
  const found = rows<{ botId: string; how: string; n: number }>(
    db,
    `SELECT c.bot_id AS botId, json_extract(e.body, '$.how') AS how, count(*) AS n
      FROM events e JOIN contacts c ON c.id = e.contact_id WHERE e.type = 'bot.finished'
        AND e.floor_at >= ? AND c.bot_id IS NOT NULL GROUP BY 1, 2`,
    since,
  );
  const endings: Record<string, BotEndings> = {};
  for (const { botId, how, n } of found) {
    const there = endings[botId] ?? { of: 0, person: 0, finished: 0, left: 0 };
    endings[botId] = {
      of: there.of + n,
      person: there.person + (how === 'handed-over' || how === 'failed' ? n : 0),
      finished: there.finished + (how === 'ended' ? n : 0),
      left: there.left + (how === 'left' || how === 'went-quiet' ? n : 0),
    };
  }
  return endings;
}

/**
 * How customers went through a bot since an instant (floor ms): the ways taken, where they left, how many there were.
 */
export function trafficOf(db: Db, botId: string, since: number): Traffic {
  const found = rows<{ how: string; lineId: string | null; path: string | null }>(
    db,
    `SELECT json_extract(e.body, '$.how') AS how, json_extract(e.body, '$.lineId') AS lineId, json_extract(e.body, '$.path') AS path
    FROM events e JOIN contacts c ON c.id = e.contact_id WHERE e.type = 'bot.finished' AND e.floor_at >= ? AND c.bot_id = ?`,
    since,
    botId,
  );
  const traffic = { ways: {} as Record<string, number>, left: {} as Record<string, number>, of: found.length };
  for (const { how, lineId, path } of found) {
    // A line passed twice by one customer counts once.
    for (const way of new Set(JSON.parse(path ?? '[]') as string[])) traffic.ways[way] = (traffic.ways[way] ?? 0) + 1;
    if ((how === 'left' || how === 'went-quiet') && lineId !== null)
      traffic.left[lineId] = (traffic.left[lineId] ?? 0) + 1;
  }
  return traffic;
}
