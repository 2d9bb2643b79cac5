import { type Db, rows, run } from './database';

export type LaterText = { readonly id: number; readonly address: string; readonly text: string };

export const keepLaterText = (db: Db, contactId: string, address: string, text: string): void => {
  run(db, 'INSERT INTO later_texts (contact_id, address, text) VALUES (?, ?, ?)', contactId, address, text);
};

export function takeLaterTexts(db: Db, contactId: string): LaterText[] {
  const found = rows<LaterText>(
    db,
    'SELECT id, address, text FROM later_texts WHERE contact_id = ? ORDER BY id',
    contactId,
  );
  if (found.length > 0) run(db, 'DELETE FROM later_texts WHERE contact_id = ?', contactId);
  return found;
}
