import { randomBytes } from 'node:crypto';
import { array, object } from 'yup';
import { LaneError } from '../../core/errors';
import {
  endInvitations,
  invitationByToken,
  lastInvitation,
  withPassword,
  writeInvitation,
} from '../../data/invitations';
import { readPerson } from '../../data/people';
import { writePasswordHash } from '../../data/sessions';
import { readWorkspace } from '../../data/workspace';
import type { Outbox } from '../ground/outbox';
import { hashToken } from '../ground/tokens';
import { type Actor, mustHold, mustNotBeAbove, mustSee, mustReach } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, noteChange } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { password } from '../workspace/newpassword';
import { hashedPassword } from '../workspace/passwords';

/** How long an invitation works. */
export const INVITATION_MS = 7 * 86_400_000;
const idsSchema = exactly(
  object({
    personIds: array(id('The person'))
      .min(1, 'Nobody is chosen')
      .max(2000, 'At most 2000 people')
      .required('The people are missing'),
  }),
);
const acceptSchema = exactly(
  object({
    token: requiredText(100, 'The token'),
    password,
  }),
);

export type InvitationView = { readonly name: string; readonly email: string; readonly company: string };

/** What the functions of this file are given first. */
export type InvitationsDeps = {
  readonly host: Host;
  readonly outbox: Outbox;
  readonly linkTo: (path: string) => string;
};

function open({ host }: InvitationsDeps, token: string, realAt: number) {
  const found = invitationByToken(host.db, hashToken(token));
  const person = found && readPerson(host.db, found.personId);
  if (!found || !person) throw new LaneError('not-found', 'This link is not known. Ask for a new invitation.');
  if (found.endedHow === 'accepted')
    throw new LaneError('closed', 'This invitation was accepted already. Sign in with your password.');
  if (found.endedAt !== null)
    throw new LaneError('closed', 'This invitation was withdrawn or replaced by a newer one.');
  if (found.until <= realAt) throw new LaneError('closed', 'This invitation has run out. Ask for a new one.');
  if (!person.active) throw new LaneError('closed', 'This account is switched off.');
  return { invitation: found, person };
}

/** Sends one, replacing any before; call inside a transaction. Somebody who is not there is passed over. */
export function invite({ outbox, linkTo }: InvitationsDeps, tx: Tx, personId: string): void {
  const person = readPerson(tx.db, personId);
  if (!person) return;
  const token = randomBytes(24).toString('base64url');
  endInvitations(tx.db, person.id, 'replaced', tx.realAt);
  writeInvitation(
    tx.db,
    { id: tx.ids('invitation'), personId: person.id, sentAt: tx.realAt, until: tx.realAt + INVITATION_MS },
    hashToken(token),
  );
  const company = readWorkspace(tx.db)?.name ?? 'Usher Lane';
  outbox.mail(
    tx,
    person.email,
    `Your account at ${company}`,
    `Hello ${person.name},\n\nYou have an account in Usher Lane at ${company}. Choose a password ` +
      `within seven days:\n\n${linkTo(`/invitation/${token}`)}\n\nIf you did not expect this, do ` +
      `nothing.`,
  );
}

/** Sends invitations to people who have not set a password yet; the others are left alone. Gives how many were sent. */
export function sendInvitation(deps: InvitationsDeps, actor: Actor, input: unknown): { sent: number } {
  mustHold(actor, 'people.change');
  const { personIds } = parse(idsSchema, input);
  return deps.host.transact((tx) => {
    const done = withPassword(tx.db);
    let sent = 0;
    for (const personId of personIds) {
      const person = mustSee(actor, readPerson(tx.db, personId));
      mustReach(actor, person.teamId);
      mustNotBeAbove(tx.db, actor, person);
      if (done.has(person.id) || !person.active) continue;
      invite(deps, tx, person.id);
      noteChange(tx, actor, 'invitation', person.id, null, { sentTo: person.email }, { label: person.name });
      sent++;
    }
    if (sent > 0) announce(tx, 'invitation', personIds[0] ?? '');
    return { sent };
  });
}

export function withdrawInvitation({ host }: InvitationsDeps, actor: Actor, input: unknown): { sent: number } {
  mustHold(actor, 'people.change');
  const { personIds } = parse(idsSchema, input);
  return host.transact((tx) => {
    let ended = 0;
    for (const personId of personIds) {
      const person = mustSee(actor, readPerson(tx.db, personId));
      mustReach(actor, person.teamId);
      const last = lastInvitation(tx.db, person.id);
      if (!last || last.endedAt !== null) continue;
      endInvitations(tx.db, person.id, 'withdrawn', tx.realAt);
      noteChange(tx, actor, 'invitation', person.id, { sentTo: person.email }, null, { label: person.name });
      ended++;
    }
    if (ended > 0) announce(tx, 'invitation', personIds[0] ?? '');
    return { sent: ended };
  });
}

/** Whom a link is for; throws `closed` or `not-found` when it does not work any more. */
export function viewInvitation(deps: InvitationsDeps, token: string): InvitationView {
  const { person } = open(deps, token, deps.host.times.real());
  return { name: person.name, email: person.email, company: readWorkspace(deps.host.db)?.name ?? 'Usher Lane' };
}

/** Sets the password; the link works once. */
export async function acceptInvitation(deps: InvitationsDeps, input: unknown): Promise<{ email: string }> {
  const { token, password } = parse(acceptSchema, input);
  // The link first: deriving a password is dear, and only whoever holds a link may ask for it.
  open(deps, token, deps.host.times.real());
  const hash = await hashedPassword(password);
  return deps.host.transact((tx) => {
    const { person } = open(deps, token, tx.realAt);
    writePasswordHash(tx.db, person.id, hash);
    endInvitations(tx.db, person.id, 'accepted', tx.realAt);
    announce(tx, 'invitation', person.id);
    return { email: person.email };
  });
}

/**
 * Invitations by mail: sent, sent again, withdrawn, and accepted once with a password. `linkTo` makes a path a link.
 */
export const createInvitations = (deps: InvitationsDeps) =>
  bind(deps, {
    invite,
    send: sendInvitation,
    withdraw: withdrawInvitation,
    view: viewInvitation,
    accept: acceptInvitation,
  });

export type Invitations = ReturnType<typeof createInvitations>;
