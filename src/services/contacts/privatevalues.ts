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

/** Contacts whose values are remembered at most. */
const MOST_KNOWN = 2000;
type Kept = readonly { readonly id: string; readonly value: string }[];
/** Every message is searched for its contact's values, so they are remembered; keeping another forgets them. */
const known = new WeakMap<Db, Map<string, Kept>>();

function lookedFor(db: Db, contactId: string): Kept {
  let contacts = known.get(db);
  if (!contacts || contacts.size > MOST_KNOWN) known.set(db, (contacts = new Map()));
  let values = contacts.get(contactId);
  if (!values) {
    values = privateValuesOf(db, contactId).filter(({ value }) => value.length >= 3);
    contacts.set(contactId, values);
  }
  return values;
}

/** Keeps a private value and gives the token that stands for it. */
export function keepPrivate(tx: Tx, contactId: string, name: string, value: string): string {
  const id = tx.ids('private');
  const forget = () => void known.get(tx.db)?.delete(contactId);
  forget();
  tx.ifUndone(forget);
  writePrivateValue(tx.db, id, contactId, name, value);
  return tokenFor(id);
}

/**
 * Text with every known private value of the contact replaced by its token. Values under 3 characters are too common
 * to look for.
 */
export const withTokens = (db: Db, contactId: string, text: string): string => tokensFor(db, contactId)?.(text) ?? text;

/** The same for many texts of one contact: its values are read once. Null when there are none to look for. */
export function tokensFor(db: Db, contactId: string): ((text: string) => string) | null {
  const values = lookedFor(db, contactId);
  if (values.length === 0) return null;
  return (text) => values.reduce((out, { id, value }) => out.replaceAll(value, tokenFor(id)), text);
}

/** Text for the customer and the person they talk to: tokens turned back into values (an erased one stays masked). */
export function opened(db: Db, contactId: string, text: string): string {
  if (!text.includes('⟦')) return text;
  const values = new Map(privateValuesOf(db, contactId).map((v) => [v.id, v.value]));
  return text.replace(TOKEN, (_, id: string) => values.get(id) ?? MASK);
}

/** Whether a text that was kept stands for a private value somewhere. */
export const hasTokens = (text: string): boolean => text.includes('⟦');

/** Text for everybody else. */
export const masked = (text: string): string => text.replace(TOKEN, MASK);
