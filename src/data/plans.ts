import type { PlanKind } from '../core/drafts/kinds';
import { row, rows, run, type Db } from './database';
import { historyText, historyValue } from './kept';
import { eachReadable, readable } from './readable';

/**
 * `planned`: it has not begun. `on`: it has, and ends by itself. `done`: nothing more will happen by itself. `failed`: it
 * could not begin or end, for the reason that stands with it.
 */
export type PlanState = 'planned' | 'on' | 'done' | 'failed';

/**
 * A change from an instant on (`fromAt`, floor ms), until another where it has one: what it was made over (`base`), and how
 * the thing is to be (`mine`). `before` and `after` are what its beginning found and made, null until then.
 */
export type Plan = {
  readonly id: string;
  readonly personId: string;
  readonly kind: PlanKind;
  readonly thingId: string;
  readonly label: string;
  readonly note: string;
  readonly base: unknown;
  readonly mine: unknown;
  readonly fromAt: number;
  readonly untilAt: number | null;
  readonly state: PlanState;
  readonly reason: string | null;
  readonly before: unknown;
  readonly after: unknown;
  readonly realAt: number;
};
type Texts = 'base' | 'mine' | 'before' | 'after';
type Stored = Omit<Plan, Texts> & { readonly name: string } & { readonly [T in Texts]: string | null };
const SELECT = `SELECT id, person_id AS personId, kind, thing_id AS thingId, label, label AS name, note, base, mine,
    from_at AS fromAt, until_at AS untilAt, state, reason, before, after, real_at AS realAt FROM plans`;
const opened = ({ name: _name, ...p }: Stored): Plan => ({
  ...p,
  base: historyValue(p.kind, p.base),
  mine: historyValue(p.kind, p.mine),
  before: historyValue(p.kind, p.before),
  after: historyValue(p.kind, p.after),
});

/** All plans, by when they begin. */
export const readPlans = (db: Db): Plan[] =>
  eachReadable(db, 'plan', rows<Stored>(db, `${SELECT} ORDER BY from_at, real_at, id`), opened);
export const readPlan = (db: Db, id: string): Plan | undefined => {
  const found = row<Stored>(db, `${SELECT} WHERE id = ?`, id);
  return found && readable(db, 'plan', found, opened);
};
export const writePlan = (db: Db, p: Plan): void =>
  void run(
    db,
    `INSERT INTO plans (id, person_id, kind, thing_id, label, note, base, mine, from_at, until_at, state, reason, before, after, real_at)
      VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
      ON CONFLICT (id) DO UPDATE SET until_at = excluded.until_at, state = excluded.state, reason = excluded.reason,
        before = excluded.before, after = excluded.after`,
    p.id,
    p.personId,
    p.kind,
    p.thingId,
    p.label,
    p.note,
    historyText(p.kind, p.base),
    historyText(p.kind, p.mine),
    p.fromAt,
    p.untilAt,
    p.state,
    p.reason,
    historyText(p.kind, p.before),
    historyText(p.kind, p.after),
    p.realAt,
  );
export const dropPlan = (db: Db, id: string): void => void run(db, 'DELETE FROM plans WHERE id = ?', id);
