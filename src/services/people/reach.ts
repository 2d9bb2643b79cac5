import { randomInt } from 'node:crypto';
import { parsePhoneNumberFromString } from 'libphonenumber-js';
import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { type Person, readPerson, writeVoiceWay } from '../../data/people';
import { type ReachWay, readWay, removeWay, WAY_KINDS, type WayKind, waysOf, writeWay } from '../../data/reach';
import type { Outbox } from '../ground/outbox';
import { hashToken } from '../ground/tokens';
import { type Actor, mustHold, mustSee, mustReach, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import { recordChange } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';

const CODE_MS = 10 * 60_000;
const MOST_TRIES = 5;
const waySchema = exactly(
  object({
    id: string().nullable().defined(),
    personId: id('The person'),
    kind: oneOf<WayKind>(WAY_KINDS, 'The kind'),
    address: requiredText(60, 'The address'),
    mayCall: boolean().required('mayCall is missing'),
    maySendText: boolean().required('maySendText is missing'),
    mayReceiveText: boolean().required('mayReceiveText is missing'),
  }),
);
const idSchema = exactly(object({ id: id('The way') }));
const codeSchema = exactly(
  object({
    id: id('The way'),
    code: string()
      .matches(/^\d{6}$/, 'The code has six digits')
      .required('The code is missing'),
  }),
);
const chooseSchema = exactly(object({ wayId: string().nullable().defined() }));

export type WayLine = Pick<
  ReachWay,
  'id' | 'personId' | 'kind' | 'address' | 'mayCall' | 'maySendText' | 'mayReceiveText'
> & { readonly verified: boolean; readonly codeSent: boolean };
const line = (w: ReachWay, now: number): WayLine => ({
  id: w.id,
  personId: w.personId,
  kind: w.kind,
  address: w.address,
  mayCall: w.mayCall,
  maySendText: w.maySendText,
  mayReceiveText: w.mayReceiveText,
  verified: w.verifiedAt !== null,
  codeSent: w.verifiedAt === null && w.codeUntil !== null && w.codeUntil > now,
});

/** How an address is kept: outside numbers in E.164, extensions as digits, accounts as they are. Throws `not-valid`. */
function addressOf(kind: WayKind, address: string): string {
  const wrong = (what: string) =>
    new LaneError('not-valid', `This is not ${what}.`, [{ where: 'address', what: `is not ${what}` }]);
  if (kind === 'extension') {
    if (!/^\d{2,8}$/.test(address)) throw wrong('an extension of 2 to 8 digits');
    return address;
  }
  if (kind === 'messaging') {
    if (!/^@?[\p{L}\p{N}._-]{2,40}$/u.test(address)) throw wrong('a messaging account');
    return address.startsWith('@') ? address : `@${address}`;
  }
  // Possible, not assigned: numbers kept for fiction and new ranges must pass.
  const parsed = parsePhoneNumberFromString(address);
  if (!parsed?.isPossible()) throw wrong('a telephone number with its country code, beginning with +');
  return parsed.number;
}

/** What the functions of this file are given first. */
export type ReachDeps = { readonly host: Host; readonly outbox: Outbox };

function mine({ host }: ReachDeps, actor: Actor, wayId: string, db = host.db): { way: ReachWay; person: Person } {
  const way = readWay(db, wayId);
  const person = way && readPerson(db, way.personId);
  // Another team's way reads as none.
  if (!way || !person || !sees(actor, person)) throw new LaneError('not-found', 'This way is not there any more.');
  if (person.id !== actor.personId) {
    mustSee(actor, person);
    mustReach(actor, person.teamId);
  }
  return { way, person };
}

const shown = (w: ReachWay) => ({
  kind: w.kind,
  address: w.address,
  mayCall: w.mayCall,
  maySendText: w.maySendText,
  mayReceiveText: w.mayReceiveText,
});

function chooseFor(tx: Tx, person: Person, wayId: string | null): void {
  const way = wayId === null ? null : readWay(tx.db, wayId);
  if (wayId !== null && (!way || way.personId !== person.id))
    throw new LaneError('not-found', 'This way is not there any more.');
  if (way && way.verifiedAt === null) throw new LaneError('not-now', `${way.address} is not verified yet.`);
  if (way && !way.mayCall) throw new LaneError('not-allowed', `${way.address} may not be used for calls.`);
  writeVoiceWay(tx.db, person.id, wayId);
}

/** Ways of one person, for whoever may see them. */
export function viewWays({ host }: ReachDeps, actor: Actor, personId: string): WayLine[] {
  if (personId !== actor.personId) {
    mustHold(actor, 'people.view');
    mustSee(actor, readPerson(host.db, personId));
  }
  return waysOf(host.db, personId).map((w) => line(w, host.times.real()));
}

export function saveWayOf({ host }: ReachDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const w = parse(waySchema, input);
  return host.transact((tx) => {
    const person = mustSee(actor, readPerson(tx.db, w.personId));
    mustReach(actor, person.teamId);
    const address = addressOf(w.kind, w.address);
    const before = w.id === null ? undefined : readWay(tx.db, w.id);
    if (w.id !== null && before?.personId !== person.id)
      throw new LaneError('not-found', 'This way is not there any more.');
    if (before && (before.kind !== w.kind || before.address !== address))
      throw new LaneError('not-valid', 'Another address is another way: add it and remove this one.', [
        { where: 'address', what: 'cannot change' },
      ]);
    if (!before && waysOf(tx.db, person.id).some((x) => x.kind === w.kind && x.address === address))
      throw new LaneError('not-valid', `${person.name} already has ${address}.`, [
        { where: 'address', what: 'is there already' },
      ]);
    // An extension belongs to the house; only ways outside it must be shown to be theirs.
    const after: ReachWay = {
      id: before?.id ?? tx.ids('way'),
      personId: person.id,
      kind: w.kind,
      address,
      mayCall: w.mayCall,
      maySendText: w.maySendText,
      mayReceiveText: w.mayReceiveText,
      codeHash: before?.codeHash ?? null,
      codeUntil: before?.codeUntil ?? null,
      tries: before?.tries ?? 0,
      verifiedAt: before?.verifiedAt ?? (w.kind === 'extension' ? tx.realAt : null),
    };
    writeWay(tx.db, after);
    recordChange(tx, actor, 'way', person.id, before ? shown(before) : null, shown(after), { label: person.name });
    return { id: after.id };
  });
}

export function removeWayOf(deps: ReachDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const asked = parse(idSchema, input);
  return deps.host.transact((tx) => {
    const { way, person } = mine(deps, actor, asked.id, tx.db);
    if (person.voiceWayId === way.id) writeVoiceWay(tx.db, person.id, null);
    removeWay(tx.db, way.id);
    recordChange(tx, actor, 'way', person.id, shown(way), null, { label: person.name });
    return { id: way.id };
  });
}

/** Sends a six-digit code to the way: spoken to a number that may take calls, else as a text. */
export function sendCode(deps: ReachDeps, actor: Actor, input: unknown): { address: string } {
  const asked = parse(idSchema, input);
  return deps.host.transact((tx) => {
    const { way } = mine(deps, actor, asked.id, tx.db);
    if (way.verifiedAt !== null) throw new LaneError('not-now', 'It is verified already.');
    const code = String(randomInt(1_000_000)).padStart(6, '0');
    writeWay(tx.db, { ...way, codeHash: hashToken(`${way.id}:${code}`), codeUntil: tx.realAt + CODE_MS, tries: 0 });
    if (way.kind === 'outside' && way.mayCall)
      deps.outbox.call(tx, way.address, `Your Usher Lane code is ${code.split('').join(' ')}.`);
    else deps.outbox.text(tx, way.address, `Your Usher Lane code is ${code}. It is good for ten minutes.`);
    return { address: way.address };
  });
}

export function verifyWay(deps: ReachDeps, actor: Actor, input: unknown): { verified: boolean } {
  const asked = parse(codeSchema, input);
  const outcome = deps.host.transact((tx) => {
    const { way, person } = mine(deps, actor, asked.id, tx.db);
    if (way.codeHash === null || way.codeUntil === null || way.codeUntil < tx.realAt) return 'over' as const;
    if (way.tries >= MOST_TRIES) return 'many' as const;
    const right = way.codeHash === hashToken(`${way.id}:${asked.code}`);
    writeWay(
      tx.db,
      right
        ? { ...way, codeHash: null, codeUntil: null, tries: 0, verifiedAt: tx.realAt }
        : { ...way, tries: way.tries + 1 },
    );
    if (right)
      recordChange(
        tx,
        actor,
        'way',
        person.id,
        { ...shown(way), verified: false },
        { ...shown(way), verified: true },
        { label: person.name },
      );
    return right ? ('right' as const) : ('wrong' as const);
  });
  // Thrown outside the transaction, so that a wrong try stays counted.
  if (outcome === 'over') throw new LaneError('not-now', 'The code has run out. Send a new one.');
  if (outcome === 'many') throw new LaneError('slow-down', 'Too many wrong codes. Send a new one.');
  if (outcome === 'wrong')
    throw new LaneError('not-valid', 'This is not the code that was sent.', [{ where: 'code', what: 'is wrong' }]);
  return { verified: true };
}

/** Chooses how calls reach the actor today; null is the Desk. */
export function chooseWay({ host }: ReachDeps, actor: Actor, input: unknown): { wayId: string | null } {
  mustHold(actor, 'desk.work');
  const { wayId } = parse(chooseSchema, input);
  return host.transact((tx) => {
    const person = readPerson(tx.db, actor.personId);
    if (person) chooseFor(tx, person, wayId);
    tx.emit({ type: 'person.reach', personId: actor.personId, reachable: true });
    return { wayId };
  });
}

/** Whether presence follows the Desk's beat: not on another way, and never for simulated people. */
export function needsBeat({ host }: ReachDeps, personId: string): boolean {
  const person = readPerson(host.db, personId);
  return person !== undefined && !person.simulated && person.voiceWayId === null;
}

/** Ways to reach people beside the Desk: added, verified by a code sent to the way itself, and chosen for today. */
export const createReach = (deps: ReachDeps) =>
  bind(deps, {
    ways: viewWays,
    saveWay: saveWayOf,
    removeWay: removeWayOf,
    sendCode,
    verify: verifyWay,
    choose: chooseWay,
    needsBeat,
  });
