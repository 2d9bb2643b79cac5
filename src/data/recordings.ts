import { type Db, row, run } from './database';
import { documents } from './documents';

/** A file of sound as it is kept, once by its digest. */
export type Sound = { readonly id: string; readonly type: string; readonly bytes: Buffer };

export const writeSound = (db: Db, { id, type, bytes }: Sound): void => {
  run(db, 'INSERT INTO sounds (id, type, bytes) VALUES (?, ?, ?) ON CONFLICT DO NOTHING', id, type, bytes);
};
export const readSound = (db: Db, id: string): Sound | undefined =>
  row<Sound>(db, 'SELECT id, type, bytes FROM sounds WHERE id = ?', id);

/** Words as somebody recorded them, or music to wait by; `seconds` is how long the file plays. */
export type Recording = { readonly soundId: string; readonly seconds: number } & (
  { readonly kind: 'words'; readonly language: string; readonly text: string } | { readonly kind: 'music' }
);
export const RECORDINGS = documents<Recording>('recording');
