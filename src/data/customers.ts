import type { Channel } from '../core/channels';
import { type Db, row, run } from './database';

/** `vouched`: the channel stands in for the address being theirs. Whoever only says so is another customer. */
export type Customer = {
  readonly id: string;
  readonly channel: Channel;
  readonly address: string;
  readonly name: string | null;
  readonly vouched: boolean;
};
type CustomerRow = Omit<Customer, 'vouched'> & { readonly vouched: number };

const CUSTOMERS = 'SELECT id, channel, address, name, vouched FROM customers';
const customerFrom = (found: CustomerRow | undefined): Customer | undefined =>
  found && { ...found, vouched: found.vouched === 1 };

export const customerAt = (db: Db, channel: Channel, address: string, vouched: boolean): Customer | undefined =>
  customerFrom(
    row<CustomerRow>(
      db,
      `${CUSTOMERS} WHERE channel = ? AND address = ? AND vouched = ?`,
      channel,
      address,
      vouched ? 1 : 0,
    ),
  );

export const readCustomer = (db: Db, id: string): Customer | undefined =>
  customerFrom(row<CustomerRow>(db, `${CUSTOMERS} WHERE id = ?`, id));

export const writeCustomer = (db: Db, c: Customer): void => {
  run(
    db,
    `INSERT INTO customers (id, channel, address, name, vouched) VALUES (?1, ?2, ?3, ?4, ?5)
      ON CONFLICT (id) DO UPDATE SET name = ?4`,
    c.id,
    c.channel,
    c.address,
    c.name,
    c.vouched ? 1 : 0,
  );
};
