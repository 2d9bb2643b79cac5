import type { Channel } from '../channels';
import type { Figure } from '../bots/model';
import { unable } from './able';
import { expectedWait, inLine } from './expectedwait';
import type { Horizon } from './horizon';
import type { Need } from './needs';
import type { Router } from './router';
import { afterWaiting } from './stages';
import { newVisit } from './visit';

/** What is asked of a queue, for a contact that would come to it now. */
export type FigureAsked = {
  readonly queueId: string;
  readonly channel: Channel;
  /** What the contact is known to need, beside what the queue does. */
  readonly needs: readonly Need[];
  readonly figure: Figure;
  /** Until when somebody may join who is counted among people on duty, free and able. */
  readonly within: Horizon;
};

/**
 * A live figure of a queue for a contact that would come to it now: people on duty who could ever be asked for it until the
 * horizon and know what it needs (`onDuty`), those of them with room (`free`), those to whom it could be offered then, all
 * else held still (`able`), customers waiting, the longest wait and the expected wait, in seconds. Null for a queue that is
 * not there, and for an expected wait that cannot be told.
 */
export function queueFigure(
  router: Router,
  { queueId, channel, needs, figure, within }: FigureAsked,
  now: number,
): number | null {
  const queue = router.floor.queues.get(queueId);
  if (!queue) return null;
  // Whoever left a message, or was promised a call, is not there to wait.
  const waiting = [...router.floor.waiting.values()].filter((v) => v.queue.id === queueId && v.kind === 'live');
  if (figure === 'waiting') return waiting.length;
  if (figure === 'longestWait') return Math.max(0, ...waiting.map((v) => Math.round((now - v.placedAt) / 1000)));
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
      handOver: needs,
      priority: 0,
      familiarId: null,
      kind: 'live',
      because: '',
      passed: [],
    },
    now,
  );
  if (figure === 'expectedWait') {
    const seconds = expectedWait(router, visit, inLine(router, visit) + 1, now);
    // Nothing is said of no wait but where there is none.
    return seconds === null ? null : Math.ceil(seconds);
  }
  const then = afterWaiting(visit, within, now);
  const reasons = [...router.floor.people.values()].map(
    (person) => unable(router.floor, person, then, now)?.why ?? null,
  );
  if (figure === 'able') return reasons.filter((why) => why === null).length;
  if (figure === 'free') return reasons.filter((why) => why === null || why === 'offer-pending').length;
  return reasons.filter(
    (why) => why === null || why === 'offer-pending' || why === 'load' || why === 'channel-most' || why === 'limit',
  ).length;
}
