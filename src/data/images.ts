import { row, rows, run, type Db } from './database';

/** A picture as it is kept. */
export type Image = { readonly id: string; readonly type: string; readonly bytes: Buffer };

export const writeImage = (db: Db, { id, type, bytes }: Image): void => {
  run(db, 'INSERT INTO images (id, type, bytes) VALUES (?, ?, ?) ON CONFLICT DO NOTHING', id, type, bytes);
};
export const readImage = (db: Db, id: string): Image | undefined =>
  row<Image>(db, 'SELECT id, type, bytes FROM images WHERE id = ?', id);
export const imageIds = (db: Db): string[] => rows<{ id: string }>(db, 'SELECT id FROM images').map((i) => i.id);
