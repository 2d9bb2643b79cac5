import type { Channel } from '../core/channels';
import { type Db, row, run } from './database';

export type Customer = {
  readonly id: string;
  readonly channel: Channel;
  readonly address: string;
  readonly name: string | null;
};

export const customerAt = (db: Db, channel: Channel, address: string): Customer | undefined =>
  row<Customer>(
    db,
    'SELECT id, channel, address, name FROM customers WHERE channel = ? AND address = ?',
    channel,
    address,
  );

export const readCustomer = (db: Db, id: string): Customer | undefined =>
  row<Customer>(db, 'SELECT id, channel, address, name FROM customers WHERE id = ?', id);

export const writeCustomer = (db: Db, c: Customer): void => {
  run(
    db,
    'INSERT INTO customers (id, channel, address, name) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (id) DO UPDATE SET name = ?4',
    c.id,
    c.channel,
    c.address,
    c.name,
  );
};
