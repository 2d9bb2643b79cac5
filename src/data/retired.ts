import { RETIRED_KINDS, type RetiredKind } from '../core/removing/kinds';
import { type Db, row, rows } from './database';

const TABLES = { queue: 'queues', door: 'doors', bot: 'bots' } as const satisfies Record<RetiredKind, string>;

/** What is retired: its name stays for what happened with it. */
export type Retired = {
  readonly kind: RetiredKind;
  readonly id: string;
  readonly name: string;
  readonly realAt: number;
};

/** Retired things, latest first. */
export const readRetired = (db: Db): Retired[] =>
  rows<Retired>(
    db,
    `${RETIRED_KINDS.map(
      (kind) =>
        `SELECT '${kind}' AS kind, id, name, retired_at AS realAt FROM ${TABLES[kind]} WHERE retired_at IS NOT NULL`,
    ).join(' UNION ALL ')} ORDER BY realAt DESC, name`,
  );
export const retiredOf = (db: Db, kind: RetiredKind): Retired[] => readRetired(db).filter((r) => r.kind === kind);

/**
 * Whether something has happened with a thing since an instant (floor ms). From the beginning it looks at every contact
 * there is, where nothing has: for a thread of its own.
 */
const USED: Readonly<Record<RetiredKind, string>> = {
  queue:
    'SELECT 1 FROM visits WHERE entered_at >= ?2 AND queue_id = ?1 UNION ALL SELECT 1 FROM callbacks WHERE asked_at >= ?2 AND queue_id = ?1',
  door: 'SELECT 1 FROM contacts WHERE started_at >= ?2 AND door_id = ?1',
  bot: 'SELECT 1 FROM contacts WHERE started_at >= ?2 AND bot_id = ?1',
};
export const wasUsedSince = (db: Db, kind: RetiredKind, id: string, since: number): boolean =>
  row(db, `${USED[kind]} LIMIT 1`, id, since) !== undefined;
