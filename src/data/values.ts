import { type Db, rows, run } from './database';
import { rowsOf, rowsWritten } from './contactrows';

export const writeValue = (db: Db, contactId: string, name: string, value: string): void => {
  run(
    db,
    'INSERT INTO contact_values (contact_id, name, value) VALUES (?1, ?2, ?3) ON CONFLICT DO UPDATE SET value = ?3',
    contactId,
    name,
    value,
  );
};

export const valuesOf = (db: Db, contactId: string): { name: string; value: string }[] =>
  rows(db, 'SELECT name, value FROM contact_values WHERE contact_id = ?', contactId);

/** Fields that a bot has passed on: what the Desk may show. */
export const passField = (db: Db, contactId: string, name: string): void => {
  run(db, 'INSERT OR IGNORE INTO passed_fields (contact_id, name) VALUES (?, ?)', contactId, name);
};

export const passedFields = (db: Db, contactId: string): Set<string> =>
  new Set(
    rows<{ name: string }>(db, 'SELECT name FROM passed_fields WHERE contact_id = ?', contactId).map((r) => r.name),
  );

export const writePrivateValue = (db: Db, id: string, contactId: string, name: string, value: string): void => {
  run(db, 'INSERT INTO private_values (id, contact_id, name, value) VALUES (?, ?, ?, ?)', id, contactId, name, value);
  rowsWritten(db, 'private_values', contactId);
};

/** Whether a text that was kept has a token in it, which stands for a private value. */
export const hasTokens = (text: string): boolean => text.includes('⟦');

export type PrivateValue = { readonly id: string; readonly name: string; readonly value: string };

export const privateValuesOf = (db: Db, contactId: string): readonly PrivateValue[] =>
  rowsOf(db, 'private_values', contactId, () =>
    rows<PrivateValue>(db, 'SELECT id, name, value FROM private_values WHERE contact_id = ? ORDER BY rowid', contactId),
  );
