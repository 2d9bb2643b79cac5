import { object } from 'yup';
import type { CustomerFile } from '../../core/customers/file';
import { contactsOfCustomer } from '../../data/contacts';
import { nameAmong, notesOn } from '../../data/customers';
import { tiesAround } from '../../data/customerties';
import { readFieldsEver } from '../../data/fields';
import { messagesOf } from '../../data/messages';
import { nameOf } from '../../data/names';
import { privateValuesOf, valuesOf } from '../../data/values';
import { opened } from '../contacts/privatevalues';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { parse } from '../ground/validate';
import { customerHere } from './access';

const fileSchema = exactly(object({ id: id('The customer') }));
const instant = (at: number): string => new Date(at).toISOString();

/** All that is kept of one customer, private values open: for themselves. For a thread of its own. */
export function customerFile(
  { db }: Host,
  actor: Actor,
  asked: unknown,
): { readonly name: string; readonly text: string } {
  mustHoldEverywhere(actor, 'customers.erase');
  const all = customerHere(db, parse(fileSchema, asked).id);
  const [main] = all;
  const labels = new Map(readFieldsEver(db).map((f) => [f.name, f.label]));
  const file: CustomerFile = {
    format: 'usher-lane-customer',
    version: 1,
    name: nameAmong(all),
    language: all.find((c) => c.language !== null)?.language ?? null,
    knownBy: all.map(({ channel, address, name, vouched }) => ({ channel, address, name, proven: vouched })),
    joined: tiesAround(db, main?.id ?? '').map(({ how, at }) => ({ how, at: instant(at) })),
    notes: notesOn(
      db,
      all.map((c) => c.id),
    ).map(({ words, at }) => ({ words, at: instant(at) })),
    contacts: contactsOfCustomer(db, main?.id ?? '', 1e6).map((c) => ({
      id: c.id,
      channel: c.channel,
      door: nameOf(db, c.doorId) ?? '',
      startedAt: instant(c.startedAt),
      endedAt: c.endedAt === null ? null : instant(c.endedAt),
      fields: [...valuesOf(db, c.id), ...privateValuesOf(db, c.id)].map(({ name, value }) => ({
        label: labels.get(name) ?? name,
        value: opened(db, c.id, value),
      })),
      messages: messagesOf(db, c.id).map((m) => ({
        from: m.sender,
        at: instant(m.floorAt),
        text: opened(db, c.id, m.text),
      })),
    })),
  };
  return { name: 'customer.json', text: `${JSON.stringify(file, null, 1)}\n` };
}
