import type { Channel } from '../core/channels';
import type { ContactEnd, ContactFact, Facts, LegFact, VisitFact } from '../core/measures/facts';
import { type GoalCount, SHORT_SECONDS } from '../core/measures/servicelevel';
import { row, rows, type Db } from './database';

/** A range of floor time [from, to) in UTC ms, and what else narrows Review; null means all. */
export type FactFilter = {
  readonly from: number;
  readonly to: number;
  readonly queueId: string | null;
  readonly channel: Channel | null;
};

/**
 * What measures are made of: visits by entry, legs by end, contacts by start. Contacts do not know a queue, so they
 * follow the channel only.
 */
export function readFacts(db: Db, f: FactFilter): Facts {
  const params = [f.from, f.to, f.queueId, f.channel];
  const visits = rows<VisitFact>(
    db,
    `SELECT id, contact_id AS contactId, queue_id AS queueId, channel, placed_at AS placedAt,
        entered_at AS enteredAt, ended_at AS endedAt, ended_how AS "end", goal_seconds AS goalSeconds
      FROM visits WHERE entered_at >= ?1 AND entered_at < ?2 AND (?3 IS NULL OR queue_id = ?3)
        AND (?4 IS NULL OR channel = ?4)`,
    ...params,
  );
  const legs = rows<Omit<LegFact, 'passedOn'> & { passedOn: number }>(
    db,
    `SELECT l.id, l.contact_id AS contactId, l.visit_id AS visitId, l.person_id AS personId,
        v.queue_id AS queueId, v.channel, l.accepted_at AS acceptedAt,
      v.placed_at AS placedAt, l.ended_at AS endedAt, l.handle_seconds AS handleSeconds,
        l.first_reply_at AS firstReplyAt, l.passed_on AS passedOn, v.goal_seconds AS goalSeconds
      FROM legs l JOIN visits v ON v.id = l.visit_id WHERE l.ended_at >= ?1 AND l.ended_at < ?2
        AND (?3 IS NULL OR v.queue_id = ?3) AND (?4 IS NULL OR v.channel = ?4)`,
    ...params,
  ).map((l) => ({ ...l, passedOn: l.passedOn === 1 }));
  const contacts = rows<ContactFact>(
    db,
    `SELECT id, channel, door_id AS doorId, started_at AS startedAt, ended_at AS endedAt, ended_how AS "end"
    FROM contacts WHERE started_at >= ?1 AND started_at < ?2 AND (?3 IS NULL OR channel = ?3)`,
    f.from,
    f.to,
    f.channel,
  );
  return { visits, legs, contacts };
}

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
    FROM visits WHERE entered_at >= ?1
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
/** One line each for the contacts behind a figure, in the order of `ids`. Queue and person ids are joined by commas. */
export function contactLines(db: Db, ids: readonly string[]): ContactLine[] {
  const found = rows<ContactLine>(
    db,
    `SELECT c.id, c.channel, c.started_at AS startedAt, c.ended_how AS endedHow,
      (SELECT group_concat(queue_id) FROM visits WHERE contact_id = c.id) AS queues,
        (SELECT group_concat(person_id) FROM legs WHERE contact_id = c.id) AS people,
      (SELECT max(ended_at - placed_at) / 1000.0 FROM visits WHERE contact_id = c.id) AS waited
      FROM contacts c WHERE c.id IN (SELECT value FROM json_each(?))`,
    JSON.stringify(ids),
  );
  const byId = new Map(found.map((line) => [line.id, line]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}
