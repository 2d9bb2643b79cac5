import { LaneError } from '../../core/errors';
import type { ForNow } from '../../core/people/duty';
import { mayGive, OWNER, type Role } from '../../core/people/rights';
import { readProfile } from '../../data/dutyprofiles';
import { openLegsOf } from '../../data/legs';
import {
  type Person,
  type PersonSettings,
  readPerson,
  readPersonByEmail,
  removePerson,
  setActive,
  setLeaving,
  settingsOfPerson,
  writeForNow,
  writePerson,
} from '../../data/people';
import { readRole } from '../../data/roles';
import { endSessionsOf } from '../../data/sessions';
import { SKILL_SETS } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { type Actor, mustHold, mustNotBeAbove, mustSee, mustReach, sees } from '../ground/actor';
import type { Undoable } from '../ground/change';
import type { Tx } from '../ground/host';
import type { PeopleDeps } from './peopleview';

export function mustExist(found: boolean, what: string, where: string) {
  if (!found) throw new LaneError('not-valid', `There is no such ${what}.`, [{ where, what: 'is not known' }]);
}

/** Checks that what a person is set to exists, that the actor may set it, and that the address is free. */
export function checkPerson(tx: Tx, actor: Actor, after: PersonSettings, before: Person | undefined): void {
  for (const teamId of new Set([after.teamId, before?.teamId ?? after.teamId])) mustReach(actor, teamId);
  if (before && (after.email !== before.email || after.roleId !== before.roleId || after.active !== before.active))
    mustNotBeAbove(tx.db, actor, before);
  const teams = new Set(readTeams(tx.db).map((t) => t.id));
  for (const t of [after.teamId, ...after.alsoTeamIds]) mustExist(teams.has(t), 'team', 'teamId');
  for (const s of after.setIds) mustExist(SKILL_SETS.one(tx.db, s) !== undefined, 'skill set', 'setIds');
  mustExist(after.siteId === null || SITES.one(tx.db, after.siteId) !== undefined, 'site', 'siteId');
  mustExist(readProfile(tx.db, after.dutyProfileId) !== undefined, 'duty profile', 'dutyProfileId');
  if (after.roleId !== (before?.roleId ?? 'agent')) mayBecome(tx, actor, after.roleId, before);
  const other = readPersonByEmail(tx.db, after.email);
  if (other && other.id !== after.id)
    throw new LaneError(
      'not-valid',
      sees(actor, other) ? `${other.name} already has this address.` : 'Somebody already has this address.',
      [{ where: 'email', what: 'is taken' }],
    );
}

function mayBecome(tx: Tx, actor: Actor, roleId: string, before: Person | undefined): void {
  const role: Role | undefined = readRole(tx.db, roleId);
  if (!role) throw new LaneError('not-valid', 'There is no such role.', [{ where: 'roleId', what: 'is not known' }]);
  if (before?.roleId === OWNER)
    throw new LaneError('not-allowed', 'The owner keeps that role until ownership is handed on.');
  mustHold(actor, 'roles.change');
  if (!mayGive(actor, role))
    throw new LaneError('not-allowed', `You may not make somebody ${role.name}: it holds more than you do.`);
}

/** Throws unless the actor may switch this account off. */
export function checkSwitchOff(tx: Tx, actor: Actor, person: Person): void {
  if (person.roleId === OWNER)
    throw new LaneError('not-valid', 'The owner cannot be switched off. Hand ownership on first.', [
      { where: 'active', what: 'the owner stays switched on' },
    ]);
  mustNotBeAbove(tx.db, actor, person);
  if (person.id === actor.personId)
    throw new LaneError('not-valid', 'You cannot switch yourself off.', [
      { where: 'active', what: 'is your own account' },
    ]);
}

/**
 * Keeps settings; gives them as they are kept: an account that is switched off with contacts open stays on until the
 * last of them.
 */
export function putPerson(
  deps: PeopleDeps,
  tx: Tx,
  actor: Actor,
  before: Person | undefined,
  after: PersonSettings,
): PersonSettings {
  if (before?.active && !after.active) switchOff(deps, tx, actor, before, 'finish');
  const kept = before && readPerson(tx.db, before.id)?.leaving ? { ...after, active: true } : after;
  writePerson(tx.db, kept);
  return kept;
}

export function switchOff(
  { floor, contacts }: PeopleDeps,
  tx: Tx,
  actor: Actor,
  person: Person,
  open: 'finish' | 'return' | 'end',
): void {
  checkSwitchOff(tx, actor, person);
  const busy = openLegsOf(tx.db, person.id).length > 0;
  if (busy && open === 'finish') {
    setLeaving(tx.db, person.id);
    floor.setDuty(tx, person.id, 'away-when-empty', null);
    return;
  }
  // Off first, so that what goes back to the queue is not offered to the same person.
  floor.setDuty(tx, person.id, 'off', null);
  if (busy) contacts.letGo(tx, person.id, open === 'return' ? 'return' : 'end');
  setActive(tx.db, person.id, false);
  endSessionsOf(tx.db, person.id);
}

export const undoablePeople = (deps: PeopleDeps): Record<string, Undoable> => ({
  person: {
    name: 'person',
    path: (personId) => `/people?person=${personId}`,
    read: (db, personId) => {
      const p = readPerson(db, personId);
      return p ? settingsOfPerson(p) : null;
    },
    restore: (tx, actor, personId, value) => {
      const before = readPerson(tx.db, personId);
      if (value === null) {
        if (!before) return;
        mustReach(actor, before.teamId);
        if (before.lastContactAt !== null)
          throw new LaneError(
            'not-now',
            `${before.name} has had contacts, so they are kept; switch the account off instead.`,
          );
        removePerson(tx.db, personId);
      } else {
        const after = value as PersonSettings;
        checkPerson(tx, actor, after, before);
        putPerson(deps, tx, actor, before, after);
      }
      deps.floor.refreshPeople(tx, [personId]);
    },
  },
  'for-now': {
    name: 'duty profile for now',
    path: (personId) => `/people?person=${personId}`,
    read: (db, personId) => readPerson(db, personId)?.forNow ?? null,
    restore: (tx, actor, personId, value) => {
      const person = mustSee(actor, readPerson(tx.db, personId));
      mustReach(actor, person.teamId);
      const forNow = value as ForNow | null;
      writeForNow(tx.db, personId, forNow && forNow.until > tx.floorAt ? forNow : null);
      deps.floor.refreshPeople(tx, [personId]);
    },
  },
});
