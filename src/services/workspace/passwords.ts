import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import pLimit from 'p-limit';
import { LaneError } from '../../core/errors';

/** scrypt at N=2^15, r=8, p=1 (32 MiB): OWASP's password storage guidance, second setting. */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
/** Each takes a thread of its own and 32 MiB for a tenth of a second: two at once, and a line that does not grow. */
const AT_ONCE = 2;
const MOST_WAITING = 40;
const limit = pLimit(AT_ONCE);

const format = (salt: Buffer, key: Buffer) => `scrypt:${salt.toString('base64')}:${key.toString('base64')}`;

async function derive(password: string, salt: Buffer): Promise<Buffer> {
  if (limit.pendingCount >= MOST_WAITING)
    throw new LaneError('slow-down', 'Many people are signing in this moment. Wait a little, then try again.');
  return limit(
    () =>
      new Promise<Buffer>((resolve, reject) =>
        scrypt(password, salt, 32, COST, (error, key) => (error ? reject(error) : resolve(key))),
      ),
  );
}

/**
 * A password as it is stored; derived without holding up the thread that routes contacts. Throws `slow-down` when too
 * many wait for theirs.
 */
export async function hashedPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return format(salt, await derive(password, salt));
}

/** Whether a password is the one that was stored. Throws `slow-down` when too many wait. */
export async function isPassword(password: string, stored: string): Promise<boolean> {
  const [, salt = '', key = ''] = stored.split(':');
  const given = await derive(password, Buffer.from(salt, 'base64'));
  const kept = Buffer.from(key, 'base64');
  return given.length === kept.length && timingSafeEqual(given, kept);
}
