import { type Db, row, rows, run } from './database';

/** A key of a channel that is a server. Only a digest of it is kept. Real ms; `usedAt` is exact to the minute. */
export type DoorKey = {
  readonly id: string;
  readonly doorId: string;
  readonly name: string;
  readonly madeAt: number;
  readonly madeBy: string;
  readonly usedAt: number | null;
};

const KEYS =
  'SELECT id, door_id AS doorId, name, made_at AS madeAt, made_by AS madeBy, used_at AS usedAt FROM door_keys';

/** Keys that work, oldest first. */
export const doorKeys = (db: Db): DoorKey[] => rows(db, `${KEYS} WHERE ended_at IS NULL ORDER BY made_at, id`);

export const readDoorKey = (db: Db, id: string): DoorKey | undefined =>
  row(db, `${KEYS} WHERE id = ? AND ended_at IS NULL`, id);

export const doorKeyBy = (db: Db, keyHash: string): DoorKey | undefined =>
  row(db, `${KEYS} WHERE key_hash = ? AND ended_at IS NULL`, keyHash);

export const writeDoorKey = (db: Db, key: Omit<DoorKey, 'usedAt'>, keyHash: string): void => {
  run(
    db,
    'INSERT INTO door_keys (id, door_id, name, key_hash, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?)',
    key.id,
    key.doorId,
    key.name,
    keyHash,
    key.madeAt,
    key.madeBy,
  );
};

export const endDoorKey = (db: Db, id: string, realAt: number): void => {
  run(db, 'UPDATE door_keys SET ended_at = ? WHERE id = ?', realAt, id);
};

export const markKeyUsed = (db: Db, id: string, realAt: number): void => {
  run(db, 'UPDATE door_keys SET used_at = ? WHERE id = ?', realAt, id);
};
