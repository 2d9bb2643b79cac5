import type { Connector } from '../core/bots/connectors';
import { type Db, row, run } from './database';
import { documents } from './documents';

export const CONNECTORS = documents<Omit<Connector, 'id' | 'name'>>('connector');

/** A small table that a look-up can read; the first column is what it is found by. */
export const TABLES = documents<{ readonly columns: readonly string[]; readonly rows: readonly (readonly string[])[] }>(
  'table',
);

/** Hosts outside that connectors may ask, by name, as the owner has allowed them. */
export const ALLOWED_HOSTS = documents<{ readonly hosts: readonly string[] }>('allowed-hosts');

export const THE_HOSTS = 'hosts';

/** Whether the owner lets connectors ask a host, now. */
export const isAllowedHost = (db: Db, host: string): boolean =>
  ALLOWED_HOSTS.one(db, THE_HOSTS)?.hosts.includes(host) ?? false;

/** How the simulated system behaves that whoever started the server has registered. */
export const STAND_IN = documents<{ readonly mood: 'usual' | 'slow' | 'fails' }>('stand-in-system');

export const THE_STAND_IN = 'stand-in-system';

export const writeSecret = (db: Db, connectorId: string, secret: string | null): void => {
  if (secret === null) run(db, 'DELETE FROM connector_secrets WHERE connector_id = ?', connectorId);
  else
    run(
      db,
      'INSERT INTO connector_secrets (connector_id, secret) VALUES (?1, ?2) ON CONFLICT (connector_id) DO UPDATE SET secret = ?2',
      connectorId,
      secret,
    );
};

export const secretOf = (db: Db, connectorId: string): string | null =>
  row<{ secret: string }>(db, 'SELECT secret FROM connector_secrets WHERE connector_id = ?', connectorId)?.secret ??
  null;
