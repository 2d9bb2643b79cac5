import type { Channel } from '../core/channels';
import type { ContactEnd } from '../core/measures/facts';
import { type GoalCount, SHORT_SECONDS } from '../core/measures/servicelevel';
import { row, rows, type Db } from './database';

/**
 * What the service level since an instant is made of, by queue and channel, without loading the visits: `inGoal`,
 * `isShortGiveUp` and `serviceLevel` of `core/measures` in SQL (a test compares the two).
 */
export const goalCountsSince = (
  db: Db,
  from: number,
): (GoalCount & { readonly queueId: string; readonly channel: Channel })[] =>
  rows<GoalCount & { queueId: string; channel: Channel }>(
    db,
    `SELECT queue_id AS queueId, channel, count(*) AS "all",
      sum(ended_how = 'accepted' AND ended_at - placed_at <= goal_seconds * 1000) AS good
    FROM visits WHERE entered_at >= ?1 AND callback = 0 AND message = 0
      AND (ended_how = 'accepted' OR (ended_how = 'gave-up' AND ended_at - entered_at > ?2 * 1000))
    GROUP BY queue_id, channel`,
    from,
    SHORT_SECONDS,
  );

/** When the log begins, floor ms; null when nothing has happened yet. */
export const firstContactAt = (db: Db): number | null =>
  row<{ at: number | null }>(db, 'SELECT min(started_at) AS at FROM contacts')?.at ?? null;

export type ContactLine = {
  readonly id: string;
  readonly channel: Channel;
  readonly startedAt: number;
  readonly endedHow: ContactEnd | null;
  readonly queues: string | null;
  readonly people: string | null;
  readonly waited: number | null;
};
/** One line each for the contacts behind a figure, in the order of their numbers. Queue and person ids are joined by commas. */
export function contactLines(db: Db, nos: readonly number[]): ContactLine[] {
  const found = rows<ContactLine & { no: number }>(
    db,
    `SELECT c.no, c.id, c.channel, c.started_at AS startedAt, c.ended_how AS endedHow,
      (SELECT group_concat(queue_id) FROM visits WHERE contact_id = c.id) AS queues,
        (SELECT group_concat(person_id) FROM legs WHERE contact_id = c.id) AS people,
      (SELECT max(ended_at - placed_at) / 1000.0 FROM visits WHERE contact_id = c.id) AS waited
      FROM contacts c WHERE c.no IN (SELECT value FROM json_each(?))`,
    JSON.stringify(nos),
  );
  const byNo = new Map(found.map(({ no, ...line }) => [no, line]));
  return nos.flatMap((no) => byNo.get(no) ?? []);
}
