import type { StateSpell } from '../core/measures/timeused';
import type { DutyState } from '../core/people/duty';
import { type Db, row, rows } from './database';

type StateRow = {
  readonly at: number;
  readonly duty: DutyState | null;
  readonly reason: string | null;
  readonly reachable: number | null;
};
/** What the log says, and what was brought in beside it. */
const STATE = `SELECT at, duty, reason, reachable FROM (
    SELECT person_id, at, seq, duty, reason, reachable FROM person_states
    UNION ALL SELECT person_id, at, 0, duty, reason, NULL FROM past_states
  ) WHERE person_id = ?`;

/** How somebody was in [from, to), spell by spell. Before anything was said of them they were off duty and within reach. */
export function statesOf(db: Db, personId: string, from: number, to: number): StateSpell[] {
  const before = (of: 'duty' | 'reachable') =>
    row<StateRow>(db, `${STATE} AND at < ? AND ${of} IS NOT NULL ORDER BY at DESC, seq DESC LIMIT 1`, personId, from);
  const duty = before('duty');
  let now = {
    duty: duty?.duty ?? ('off' as DutyState),
    reason: duty?.reason ?? null,
    reachable: before('reachable')?.reachable !== 0,
  };
  const spells: StateSpell[] = [];
  let since = from;
  const until = (at: number) => {
    if (at > since) spells.push({ from: since, to: at, ...now });
    since = Math.max(since, at);
  };
  for (const change of rows<StateRow>(db, `${STATE} AND at >= ? AND at < ? ORDER BY at, seq`, personId, from, to)) {
    until(change.at);
    now =
      change.duty === null
        ? { ...now, reachable: change.reachable !== 0 }
        : { ...now, duty: change.duty, reason: change.reason };
  }
  until(to);
  return spells;
}
