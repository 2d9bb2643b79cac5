import type { BotEndings, Traffic } from '../core/bots/traffic';
import type { Db } from './database';
import { conversationsEnded } from './events';

/** How conversations with each bot ended since an instant of the floor, by bot id. */
export function endingsSince(db: Db, since: number): Record<string, BotEndings> {
  const endings: Record<string, BotEndings> = {};
  for (const { botId, how } of conversationsEnded(db, since)) {
    const there = endings[botId] ?? { of: 0, person: 0, finished: 0, left: 0 };
    endings[botId] = {
      of: there.of + 1,
      person: there.person + (how === 'handed-over' || how === 'failed' ? 1 : 0),
      finished: there.finished + (how === 'ended' ? 1 : 0),
      left: there.left + (how === 'left' || how === 'went-quiet' ? 1 : 0),
    };
  }
  return endings;
}

/**
 * How customers went through a bot since an instant (floor ms): the ways taken, where they left, how many there were.
 */
export function trafficOf(db: Db, botId: string, since: number): Traffic {
  const found = conversationsEnded(db, since).filter((e) => e.botId === botId);
  const traffic = { ways: {} as Record<string, number>, left: {} as Record<string, number>, of: found.length };
  for (const { how, lineId, path } of found) {
    // A line passed twice by one customer counts once.
    for (const way of new Set(path ?? [])) traffic.ways[way] = (traffic.ways[way] ?? 0) + 1;
    if ((how === 'left' || how === 'went-quiet') && lineId !== null)
      traffic.left[lineId] = (traffic.left[lineId] ?? 0) + 1;
  }
  return traffic;
}
