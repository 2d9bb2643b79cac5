import type { QueueSettings } from '../core/routing/queue';
import { type Db, row, rows, run } from './database';
import { keptIn, keptText } from './kept';
import { eachReadable, readable } from './readable';

export type QueueRecord = QueueSettings & { readonly revision: number; readonly place: number };
type QueueRow = { id: string; name: string; place: number; revision: number; body: string };

const QUEUE_LATEST = `SELECT q.id, q.name, q.place, q.revision, v.body FROM queues q JOIN queue_versions v ON v.queue_id = q.id
  AND v.version = (SELECT max(version) FROM queue_versions WHERE queue_id = q.id) WHERE q.retired_at IS NULL`;

const recordFrom = (r: QueueRow): QueueRecord => ({
  ...(keptIn('queue', r.body) as QueueSettings),
  id: r.id,
  name: r.name,
  place: r.place,
  revision: r.revision,
});

export const readQueues = (db: Db): QueueRecord[] =>
  eachReadable(db, 'queue', rows<QueueRow>(db, `${QUEUE_LATEST} ORDER BY q.place, q.name`), recordFrom);

export const readQueue = (db: Db, id: string): QueueRecord | undefined => {
  const found = row<QueueRow>(db, `${QUEUE_LATEST} AND q.id = ?`, id);
  return found && readable(db, 'queue', found, recordFrom);
};

/** A queue as it was under a settings version: what a visit that began then goes by. */
export const queueAsOf = (db: Db, id: string, version: number): QueueSettings | undefined => {
  const found = row<{ body: string }>(
    db,
    'SELECT body FROM queue_versions WHERE queue_id = ? AND version <= ? ORDER BY version DESC LIMIT 1',
    id,
    version,
  );
  return found && readable(db, 'queue', { id, ...found }, ({ body }) => keptIn('queue', body) as QueueSettings);
};

export const writeQueue = (db: Db, queue: QueueSettings, place: number, version: number): void => {
  run(
    db,
    `INSERT INTO queues (id, name, place, revision) VALUES (?1, ?2, ?3, 1) ON CONFLICT (id) DO UPDATE
      SET name = ?2, revision = revision + 1, retired_at = NULL`,
    queue.id,
    queue.name,
    place,
  );
  run(
    db,
    'INSERT INTO queue_versions (queue_id, version, body) VALUES (?, ?, ?)',
    queue.id,
    version,
    keptText('queue', queue),
  );
};

/** What has been in use is retired: its versions and its name stay for what happened in it. */
export const retireQueue = (db: Db, id: string, realAt: number | null): void =>
  void run(db, 'UPDATE queues SET retired_at = ?, revision = revision + 1 WHERE id = ?', realAt, id);
export function dropQueue(db: Db, id: string): void {
  run(db, 'DELETE FROM queue_versions WHERE queue_id = ?', id);
  run(db, 'DELETE FROM queues WHERE id = ?', id);
}
