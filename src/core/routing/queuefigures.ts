import type { Channel } from '../channels';
import type { Figure } from '../bots/model';
import { unable } from './able';
import { expectedWait } from './expectedwait';
import type { Router } from './router';
import { newVisit } from './visit';

/**
 * Live figures of a queue on a channel: people on duty who take its contacts and know what it asks for (`onDuty`), those of
 * them with room (`free`), those to whom one could be offered this moment (`able`), visits waiting, the longest wait and the
 * expected wait, in seconds. Null for a queue that is not there, and for an expected wait that cannot be given.
 */
export function queueFigure(
  router: Router,
  queueId: string,
  channel: Channel,
  figure: Figure,
  now: number,
): number | null {
  const queue = router.floor.queues.get(queueId);
  if (!queue) return null;
  const waiting = [...router.floor.waiting.values()].filter((v) => v.queue.id === queueId);
  if (figure === 'waiting') return waiting.length;
  if (figure === 'longestWait') return Math.max(0, ...waiting.map((v) => Math.round((now - v.placedAt) / 1000)));
  if (figure === 'expectedWait') {
    const seconds = expectedWait(
      router,
      queue.settings,
      channel,
      waiting.filter((v) => v.channel === channel).length + 1,
      now,
    );
    return seconds === null ? null : Math.round(seconds);
  }
  const { visit } = newVisit(
    queue.settings,
    queue.version,
    0,
    {
      id: 'asked',
      contactId: 'asked',
      queueId,
      channel,
      placedAt: now,
      handOver: [],
      priority: 0,
      familiarId: null,
      callback: false,
      because: '',
      passed: [],
    },
    now,
  );
  const reasons = [...router.floor.people.values()].map(
    (person) => unable(router.floor, person, visit, now)?.why ?? null,
  );
  if (figure === 'able') return reasons.filter((why) => why === null).length;
  if (figure === 'free') return reasons.filter((why) => why === null || why === 'offer-pending').length;
  return reasons.filter(
    (why) => why === null || why === 'offer-pending' || why === 'load' || why === 'channel-most' || why === 'limit',
  ).length;
}
