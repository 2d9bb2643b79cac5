import { randomBytes, timingSafeEqual } from 'node:crypto';
import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { readPersonByEmail } from '../../data/people';
import { readPasswordHash } from '../../data/sessions';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, requiredText } from '../ground/schemas';
import type { Seal } from '../ground/tokens';
import { parse } from '../ground/validate';
import { hashedPassword, isPassword } from './passwords';
import type { Place, Sessions } from './sessions';
import { createTries, type Tries } from './tries';

const schema = exactly(
  object({
    email: requiredText(200, 'The address').email('The address is not an e-mail address'),
    password: string().max(200, 'The password is too long').required('The password is missing'),
  }),
);

/** What the functions of this file are given first. */
export type SignInDeps = {
  readonly host: Host;
  readonly sessions: Sessions;
  readonly seal: Seal;
  readonly tries: Tries;
  /** Unknown addresses take as long as known ones; made when the first of them is tried. */
  readonly nobody: () => Promise<string>;
};

/** Somebody who signs in; `mark` is what a browser holds in which the account was signed in to before. */
export type SigningIn = Place & { readonly mark: string | null };
export type SignedIn = { readonly token: string; readonly maxAgeSeconds: number; readonly mark: string };

function isMark(mark: string | null, expected: string): boolean {
  const [given, wanted] = [Buffer.from(mark ?? ''), Buffer.from(expected)];
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/**
 * Checks address and password; gives a session token, and a mark for the browser. A try is counted before the password
 * is looked at. Throws `sign-in-failed` or `slow-down`.
 */
export async function signIn(
  { host, sessions, seal, tries, nobody }: SignInDeps,
  input: unknown,
  from: SigningIn,
): Promise<SignedIn> {
  const asked = parse(schema, input);
  const account = asked.email.toLowerCase();
  const mark = seal(`browser of ${account}`);
  const tried = { account, network: from.network, known: isMark(from.mark, mark) };
  await tries.count(tried);
  const person = readPersonByEmail(host.db, account);
  const stored = person && readPasswordHash(host.db, person.id);
  const good = await isPassword(asked.password, stored ?? (await nobody()));
  if (!person || !good) throw new LaneError('sign-in-failed', 'The address or the password is not right.');
  return host.transact((tx) => {
    // Looked at again: while the password was derived the account may have been switched off, or the password changed.
    const still = readPersonByEmail(tx.db, account);
    if (!still?.active || readPasswordHash(tx.db, still.id) !== stored)
      throw new LaneError('sign-in-failed', 'The address or the password is not right.');
    tx.onceKept(() => void tries.right(tried));
    return { ...sessions.begin(tx, still.id, from), mark };
  });
}

export function createSignIn(deps: Pick<SignInDeps, 'host' | 'sessions' | 'seal'>) {
  let nobody: Promise<string> | null = null;
  return bind(
    {
      ...deps,
      tries: createTries(),
      nobody: () => (nobody ??= hashedPassword(randomBytes(12).toString('hex'))),
    },
    { signIn },
  );
}
