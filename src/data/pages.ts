import { type Db, row, run } from './database';

/** The page that somebody wrote from, without what stands after its `#`, and where they are, as their browser says. */
export type Page = { readonly address: string; readonly place: string | null };

export const pageOf = (db: Db, contactId: string): Page | null =>
  row<Page>(db, 'SELECT address, place FROM pages WHERE contact_id = ?', contactId) ?? null;

export const writePage = (db: Db, contactId: string, { address, place }: Page): void => {
  run(db, 'INSERT INTO pages (contact_id, address, place) VALUES (?, ?, ?)', contactId, address, place);
};

/** The site of a page: scheme, host and port. */
export const originOf = ({ address }: Page): string => new URL(address).origin;
