import { randomBytes } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { DatabaseRefused, keyFile } from '../data/databasefile';

const BYTES = 32;

/**
 * The key from which this server's tokens are made, kept beside the database and not in it, so that reading the database
 * makes nobody's token. Made when there is none. Throws DatabaseRefused when what is there is no key.
 */
export function serverKey(folder: string): Uint8Array {
  const file = keyFile(folder);
  try {
    writeFileSync(file, randomBytes(BYTES).toString('base64url'), { mode: 0o600, flag: 'wx' });
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error;
  }
  const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'base64url');
  if (key.length !== BYTES)
    throw new DatabaseRefused(
      `${file} is not this server’s key. Put back the one that belongs to this database; or remove it, and conversations ` +
        `that are going on have to be started anew.`,
    );
  return key;
}
