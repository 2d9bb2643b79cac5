import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { readPersonByEmail } from '../../data/people';
import {
  endSession,
  endSessionsOf,
  readPasswordHash,
  sessionPerson,
  writePasswordHash,
  writeSession,
} from '../../data/sessions';
import { hashToken } from '../ground/tokens';
import { type Actor, actorOf } from '../ground/actor';
import type { Host, Tx } from '../ground/host';
import { exactly, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';

const SESSION_MS = 14 * 86_400_000;
/** scrypt at N=2^15, r=8, p=1 (32 MiB): OWASP's password storage guidance, second setting. */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

const schema = exactly(
  object({
    email: requiredText(200, 'The address').email('The address is not an e-mail address'),
    password: string().max(200, 'The password is too long').required('The password is missing'),
  }),
);
const format = (salt: Buffer, key: Buffer) => `scrypt:${salt.toString('base64')}:${key.toString('base64')}`;
const derive = (password: string, salt: Buffer) =>
  new Promise<Buffer>((resolve, reject) =>
    scrypt(password, salt, 32, COST, (error, key) => (error ? reject(error) : resolve(key))),
  );

/** A password as it is stored; derived without holding up the thread that routes contacts. */
export async function hashedPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return format(salt, await derive(password, salt));
}
export const setPassword = (tx: Tx, personId: string, hash: string): void => writePasswordHash(tx.db, personId, hash);

async function matches(password: string, stored: string): Promise<boolean> {
  const [, salt = '', key = ''] = stored.split(':');
  const given = await derive(password, Buffer.from(salt, 'base64'));
  const kept = Buffer.from(key, 'base64');
  return given.length === kept.length && timingSafeEqual(given, kept);
}

export function createSignIn(host: Host) {
  /**
   * Failed tries within 30 s after which the next must wait: few for one account, more for an address that many may
   * share.
   */
  const account = { most: 5, failed: new RateLimiterMemory({ points: 5, duration: 30, keyPrefix: 'account' }) };
  const network = { most: 30, failed: new RateLimiterMemory({ points: 30, duration: 30, keyPrefix: 'network' }) };
  /** Unknown addresses take as long as known ones; made when the first of them is tried. */
  let nobody: Promise<string> | null = null;

  async function guard({ most, failed }: typeof account, key: string): Promise<void> {
    const state = await failed.get(key);
    if (state && state.consumedPoints >= most)
      throw new LaneError(
        'slow-down',
        `Too many failed tries. Wait ${Math.ceil(state.msBeforeNext / 1000)} s, then try again.`,
      );
  }
  return {
    /** Checks address and password; gives a session token. Throws `sign-in-failed` or `slow-down`. */
    async signIn(input: unknown, networkAddress: string): Promise<{ token: string; maxAgeSeconds: number }> {
      const { email, password } = parse(schema, input);
      const watched = [
        [account, email.toLowerCase()],
        [network, networkAddress],
      ] as const;
      for (const [limit, key] of watched) await guard(limit, key);
      const person = readPersonByEmail(host.db, email.toLowerCase());
      const stored = person && readPasswordHash(host.db, person.id);
      const good = await matches(
        password,
        stored ?? (await (nobody ??= hashedPassword(randomBytes(12).toString('hex')))),
      );
      if (!person || !person.active || !good) {
        await Promise.all(watched.map(([limit, key]) => limit.failed.consume(key).catch(() => undefined)));
        throw new LaneError('sign-in-failed', 'The address or the password is not right.');
      }
      await account.failed.delete(email.toLowerCase());
      const token = randomBytes(32).toString('base64url');
      host.transact((tx) => writeSession(tx.db, hashToken(token), person.id, tx.realAt, tx.realAt + SESSION_MS));
      return { token, maxAgeSeconds: SESSION_MS / 1000 };
    },
    /** Who a session token belongs to, or null. */
    actor(token: string | undefined): Actor | null {
      const personId = token ? sessionPerson(host.db, hashToken(token), host.times.real()) : null;
      return personId ? actorOf(host.db, personId) : null;
    },
    signOut: (token: string): void => host.transact((tx) => endSession(tx.db, hashToken(token))),
    /** Ends every session of the person, this one too. */
    signOutEverywhere: (actor: Actor): number => host.transact((tx) => endSessionsOf(tx.db, actor.personId)),
  };
}
