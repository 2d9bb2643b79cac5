import { isKeptApart, KEPT_APART, type KeptApart, type RetiredKind } from '../core/removing/kinds';
import { type Db, row, rows, run } from './database';
import { historyText, historyValue } from './kept';

/** Where things of each kind are that are in use; of the first three retired ones as well, marked. */
const MARKED = { queue: 'queues', door: 'doors', bot: 'bots' } as const;
const LIVE: Readonly<Record<KeptApart, string>> = {
  group: "SELECT id FROM documents WHERE kind = 'group'",
  partner: "SELECT id FROM documents WHERE kind = 'partner'",
  skill: 'SELECT id FROM skills',
  team: 'SELECT id FROM teams',
  field: 'SELECT id FROM fields',
};

/** What is retired: its name stays for what happened with it. */
export type Retired = {
  readonly kind: RetiredKind;
  readonly id: string;
  readonly name: string;
  readonly realAt: number;
};

/** Retired things, latest first. What History has brought back is not one of them. */
export const readRetired = (db: Db): Retired[] =>
  rows<Retired>(
    db,
    `${[
      ...Object.entries(MARKED).map(
        ([kind, table]) =>
          `SELECT '${kind}' AS kind, id, name, retired_at AS realAt FROM ${table} WHERE retired_at IS NOT NULL`,
      ),
      ...KEPT_APART.map(
        (kind) =>
          `SELECT kind, id, name, real_at AS realAt FROM retired_things WHERE kind = '${kind}' AND id NOT IN (${LIVE[kind]})`,
      ),
    ].join(' UNION ALL ')} ORDER BY realAt DESC, name`,
  );
export const retiredOf = (db: Db, kind: RetiredKind): Retired[] => readRetired(db).filter((r) => r.kind === kind);

/** Keeps a thing that is retired as History has it. */
export const keepRetired = (db: Db, kind: KeptApart, id: string, name: string, value: unknown, realAt: number): void =>
  void run(
    db,
    `INSERT INTO retired_things (kind, id, name, value, real_at) VALUES (?1, ?2, ?3, ?4, ?5)
      ON CONFLICT DO UPDATE SET name = ?3, value = ?4, real_at = ?5`,
    kind,
    id,
    name,
    historyText(kind, value),
    realAt,
  );
/**
 * A retired thing as it was; null where it was none. It stays kept: once it is there again it is not retired, and is
 * so again when bringing it back is undone.
 */
export function retiredValue(db: Db, kind: KeptApart, id: string): unknown {
  const kept = row<{ value: string }>(db, 'SELECT value FROM retired_things WHERE kind = ? AND id = ?', kind, id);
  return kept ? historyValue(kind, kept.value) : null;
}
/** Forgets what was kept of a thing: it is deleted. */
export const forgetRetired = (db: Db, kind: KeptApart, id: string): void =>
  void run(db, 'DELETE FROM retired_things WHERE kind = ? AND id = ?', kind, id);

/**
 * Whether something has happened with a thing since an instant (floor ms). From the beginning it looks at every contact
 * there is, where nothing has: for a thread of its own.
 */
const USED: Readonly<Record<RetiredKind, string>> = {
  queue:
    'SELECT 1 FROM visits WHERE entered_at >= ?2 AND queue_id = ?1 UNION ALL SELECT 1 FROM callbacks WHERE asked_at >= ?2 AND queue_id = ?1',
  door: 'SELECT 1 FROM contacts WHERE started_at >= ?2 AND door_id = ?1',
  bot: 'SELECT 1 FROM contacts WHERE started_at >= ?2 AND bot_id = ?1',
  group: 'SELECT 1 FROM offers WHERE group_id = ?1 AND made_at >= ?2',
  partner: 'SELECT 1 FROM partner_calls WHERE partner_id = ?1 AND started_at >= ?2',
  skill: `SELECT 1 FROM own_levels WHERE skill_id = ?1 UNION ALL SELECT 1 FROM team_skills WHERE skill_id = ?1
    UNION ALL SELECT 1 FROM visits WHERE entered_at >= ?2 AND instr(needs, '"' || ?1 || '"') > 0`,
  // Whoever was in it was moved out by a change of theirs.
  team: `SELECT 1 FROM history WHERE kind = 'person' AND ?2 >= 0 AND (instr(before, '"' || ?1 || '"') > 0 OR instr(after, '"' || ?1 || '"') > 0)`,
  field: 'SELECT 1 FROM contact_values WHERE ?2 >= 0 AND name = (SELECT name FROM fields WHERE id = ?1)',
};
export const wasUsedSince = (db: Db, kind: RetiredKind, id: string, since: number): boolean =>
  row(db, `${USED[kind]} LIMIT 1`, id, since) !== undefined;
/** Whether it takes little enough to look since an instant: of the others, looking once before is enough. */
export const isSoonLooked = (kind: RetiredKind): boolean =>
  !isKeptApart(kind) || kind === 'group' || kind === 'partner';
