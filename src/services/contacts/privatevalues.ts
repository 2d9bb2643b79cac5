import type { Db } from '../../data/database';
import { privateValuesOf, writePrivateValue } from '../../data/values';
import type { Tx } from '../ground/host';

/**
 * Private values stand in a table of their own; everywhere else (transcripts, events, exports) a token takes their
 * place, which reads `⟦private:ID⟧`. Erasing the row erases the value.
 */
const TOKEN = /⟦private:([a-z0-9_]+)⟧/g;
export const tokenFor = (id: string): string => `⟦private:${id}⟧`;
export const MASK = '•••';

/** Keeps a private value and gives the token that stands for it. */
export function keepPrivate(tx: Tx, contactId: string, name: string, value: string): string {
  const id = tx.ids('private');
  writePrivateValue(tx.db, id, contactId, name, value);
  return tokenFor(id);
}

/**
 * Text with every known private value of the contact replaced by its token. Values under 3 characters are too common
 * to look for.
 */
export const withTokens = (db: Db, contactId: string, text: string): string => tokensFor(db, contactId)(text);

/** The same for many texts of one contact: its values are read once. */
export function tokensFor(db: Db, contactId: string): (text: string) => string {
  const known = privateValuesOf(db, contactId).filter(({ value }) => value.length >= 3);
  return (text) => known.reduce((out, { id, value }) => out.replaceAll(value, tokenFor(id)), text);
}

/** Text for the customer and the person they talk to: tokens turned back into values (an erased one stays masked). */
export function opened(db: Db, contactId: string, text: string): string {
  if (!text.includes('⟦')) return text;
  const values = new Map(privateValuesOf(db, contactId).map((v) => [v.id, v.value]));
  return text.replace(TOKEN, (_, id: string) => values.get(id) ?? MASK);
}

/** Text for everybody else. */
export const masked = (text: string): string => text.replace(TOKEN, MASK);
