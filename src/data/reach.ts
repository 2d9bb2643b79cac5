import { row, rows, run, type Db } from './database';

export const WAY_KINDS = ['extension', 'outside', 'messaging'] as const;
export type WayKind = (typeof WAY_KINDS)[number];
/**
 * A way to reach a person beside the Desk. Several people may share an address, each with their own rights to it.
 * Real ms.
 */
export type ReachWay = {
  readonly id: string;
  readonly personId: string;
  readonly kind: WayKind;
  readonly address: string;
  readonly mayCall: boolean;
  readonly maySendText: boolean;
  readonly mayReceiveText: boolean;
  readonly codeHash: string | null;
  readonly codeUntil: number | null;
  readonly tries: number;
  readonly verifiedAt: number | null;
};
type WayRow = Omit<ReachWay, 'mayCall' | 'maySendText' | 'mayReceiveText'> & {
  mayCall: number;
  maySendText: number;
  mayReceiveText: number;
};
const WAYS = `SELECT id, person_id AS personId, kind, address, may_call AS mayCall, may_send_text AS maySendText,
      may_receive_text AS mayReceiveText, code_hash AS codeHash, code_until AS codeUntil, tries, verified_at AS
      verifiedAt FROM reach_ways`;
const wayFrom = (r: WayRow): ReachWay => ({
  ...r,
  mayCall: r.mayCall === 1,
  maySendText: r.maySendText === 1,
  mayReceiveText: r.mayReceiveText === 1,
});

export const waysOf = (db: Db, personId: string): ReachWay[] =>
  rows<WayRow>(db, `${WAYS} WHERE person_id = ? ORDER BY kind, address`, personId).map(wayFrom);
export const readWays = (db: Db): ReachWay[] => rows<WayRow>(db, `${WAYS} ORDER BY kind, address`).map(wayFrom);
export const readWay = (db: Db, id: string): ReachWay | undefined => {
  const found = row<WayRow>(db, `${WAYS} WHERE id = ?`, id);
  return found && wayFrom(found);
};
export const writeWay = (db: Db, w: ReachWay): void => {
  run(
    db,
    `INSERT INTO reach_ways (id, person_id, kind, address, may_call, may_send_text, may_receive_text,
        code_hash, code_until, tries, verified_at) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10,
        ?11)
      ON CONFLICT (id) DO UPDATE SET may_call = ?5, may_send_text = ?6, may_receive_text = ?7,
        code_hash = ?8, code_until = ?9, tries = ?10, verified_at = ?11`,
    w.id,
    w.personId,
    w.kind,
    w.address,
    w.mayCall ? 1 : 0,
    w.maySendText ? 1 : 0,
    w.mayReceiveText ? 1 : 0,
    w.codeHash,
    w.codeUntil,
    w.tries,
    w.verifiedAt,
  );
};
export const removeWay = (db: Db, id: string): void => {
  run(db, 'DELETE FROM reach_ways WHERE id = ?', id);
};
