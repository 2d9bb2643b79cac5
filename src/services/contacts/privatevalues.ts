import type { Db } from '../../data/database';
import { hasTokens, privateValuesOf, writePrivateValue } from '../../data/values';
import type { Tx } from '../ground/host';

/**
 * Private values stand in a table of their own; everywhere else (transcripts, events, exports) a token takes their
 * place, which reads `⟦private:ID⟧`. Erasing the row erases the value.
 */
const TOKEN = /⟦private:([a-z0-9_]+)⟧/g;
export const tokenFor = (id: string): string => `⟦private:${id}⟧`;
export const MASK = '•••';
const LONG_ENOUGH = 3;

/** Values that are looked for in what is written: shorter ones are too common. */
const lookedFor = (db: Db, contactId: string) =>
  privateValuesOf(db, contactId).filter(({ value }) => value.length >= LONG_ENOUGH);

/** Keeps a private value and gives the token that stands for it. */
export function keepPrivate(tx: Tx, contactId: string, name: string, value: string): string {
  const id = tx.ids('private');
  writePrivateValue(tx.db, id, contactId, name, value);
  return tokenFor(id);
}

/** Text with every private value of the contact that is looked for replaced by its token. */
export const withTokens = (db: Db, contactId: string, text: string): string => tokensFor(db, contactId)?.(text) ?? text;

/** The same for many texts of one contact: its values are read once. Null when there are none to look for. */
export function tokensFor(db: Db, contactId: string): ((text: string) => string) | null {
  const values = lookedFor(db, contactId);
  if (values.length === 0) return null;
  return (text) => values.reduce((out, { id, value }) => out.replaceAll(value, tokenFor(id)), text);
}

/** Text for the customer and the person they talk to: tokens turned back into values (an erased one stays masked). */
export function opened(db: Db, contactId: string, text: string): string {
  if (!hasTokens(text)) return text;
  const values = new Map(privateValuesOf(db, contactId).map((v) => [v.id, v.value]));
  return text.replace(TOKEN, (_, id: string) => values.get(id) ?? MASK);
}

/** Text for everybody else. */
export const masked = (text: string): string => text.replace(TOKEN, MASK);
