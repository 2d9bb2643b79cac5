import { randomBytes } from 'node:crypto';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { type Person, readPerson, readPersonByEmail } from '../../data/people';
import { endPasswordLinks, personOfPasswordLink, writePasswordHash, writePasswordLink } from '../../data/sessions';
import { readWorkspace } from '../../data/workspace';
import type { Outbox } from '../ground/outbox';
import { hashToken } from '../ground/tokens';
import { bind } from '../ground/bind';
import type { Host, Tx } from '../ground/host';
import { exactly, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { hashedPassword } from './passwords';
import type { Sessions } from './sessions';

/** How long a link works. */
const LINK_MS = 3_600_000;
const askSchema = exactly(
  object({ email: requiredText(200, 'The address').email('The address is not an e-mail address') }),
);
export const password = string()
  .min(10, 'A password has at least 10 characters')
  .max(200, 'The password is too long')
  .required('The password is missing');
const setSchema = exactly(object({ token: requiredText(100, 'The token'), password }));

/** What the functions of this file are given first. */
export type NewPasswordDeps = {
  readonly host: Host;
  readonly outbox: Outbox;
  readonly sessions: Sessions;
  readonly linkTo: (path: string) => string;
  /** How often one address may ask: three mails in a quarter of an hour. */
  readonly asked: RateLimiterMemory;
};

/** Makes a link for somebody; gives its path. Call inside a transaction. */
export function passwordLink(tx: Tx, person: Pick<Person, 'id'>): string {
  const token = randomBytes(24).toString('base64url');
  writePasswordLink(tx.db, hashToken(token), person.id, tx.realAt + LINK_MS);
  return `/password/${token}`;
}

/**
 * Sends a link to somebody who forgot their password. Whoever asks learns nothing: known, unknown and switched-off
 * addresses are answered alike. Throws `slow-down` when an address is asked for too often.
 */
export async function forgotPassword(
  { host, outbox, linkTo, asked }: NewPasswordDeps,
  input: unknown,
): Promise<{ done: true }> {
  const email = parse(askSchema, input).email.toLowerCase();
  await asked.consume(email).catch(() => {
    throw new LaneError('slow-down', 'A link was asked for several times. Look into the mailbox, or wait a while.');
  });
  host.transact((tx) => {
    const person = readPersonByEmail(tx.db, email);
    if (!person?.active) return;
    const company = readWorkspace(tx.db)?.name ?? 'Usher Lane';
    outbox.mail(
      tx,
      person.email,
      `Another password at ${company}`,
      `Hello ${person.name},\n\nSomebody asked for another password for your account at ${company}. ` +
        `Choose one within an hour:\n\n${linkTo(passwordLink(tx, person))}\n\nIf it was not you, do ` +
        `nothing: the password stays as it is.`,
    );
  });
  return { done: true };
}

function personOf({ host }: NewPasswordDeps, token: string): Person {
  const personId = personOfPasswordLink(host.db, hashToken(token), host.times.real());
  const person = personId === null ? undefined : readPerson(host.db, personId);
  if (!person?.active)
    throw new LaneError('closed', 'This link has run out or was used already. Ask for another on the sign-in page.');
  return person;
}

/** Whom a link is for; throws `closed` when it does not work any more. */
export function viewPasswordLink(deps: NewPasswordDeps, token: string): { name: string; email: string } {
  const { name, email } = personOf(deps, token);
  return { name, email };
}

/** Sets the password and ends every session of the person; the link works once. */
export async function setNewPassword(deps: NewPasswordDeps, input: unknown): Promise<{ email: string }> {
  const asked = parse(setSchema, input);
  personOf(deps, asked.token);
  const hash = await hashedPassword(asked.password);
  return deps.host.transact((tx) => {
    // Asked again inside: two at once must not both use it.
    const person = personOf(deps, asked.token);
    writePasswordHash(tx.db, person.id, hash);
    endPasswordLinks(tx.db, person.id);
    deps.sessions.endAll(tx, person.id);
    return { email: person.email };
  });
}

export const createNewPassword = (deps: Omit<NewPasswordDeps, 'asked'>) =>
  bind(
    { ...deps, asked: new RateLimiterMemory({ points: 3, duration: 900, keyPrefix: 'forgot' }) },
    { ask: forgotPassword, view: viewPasswordLink, set: setNewPassword },
  );
