import { array, mixed, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  isBuiltIn,
  mayGive,
  OWNER,
  type Right,
  RIGHT_WORDS,
  RIGHTS,
  type Role,
  type RoleTeams,
} from '../../core/people/rights';
import { readPeople, readPerson, settingsOfPerson, writePerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { COPIED_ROLES, peopleWithRole, readRoles, standingOfPerson } from '../../data/roles';
import { readTeams } from '../../data/teams';
import { type Actor, actorOf, mustHold, mustSee } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, removeUndoable, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText, whole } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';

const roleSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(40, 'The name'),
    rights: array(oneOf<Right>(RIGHTS, 'A right')).required('The rights are missing'),
    teams: mixed<RoleTeams>()
      .required('The teams are missing')
      .test(
        'teams',
        'Teams are all, supervised, or a list of teams',
        (t) =>
          t === 'all' ||
          t === 'supervised' ||
          (Array.isArray(t) && t.length <= 200 && t.every((x) => typeof x === 'string')),
      ),
  }),
);
const idSchema = exactly(object({ id: id('The role') }));
const handOnSchema = exactly(object({ personId: id('The person') }));

export type RoleLine = Role & {
  readonly revision: number;
  readonly builtIn: boolean;
  readonly people: readonly string[];
  readonly mayChange: boolean;
};
export type RolesView = {
  readonly roles: readonly RoleLine[];
  readonly teams: readonly { id: string; name: string }[];
  readonly people: readonly { id: string; name: string }[];
  readonly mayChange: boolean;
  readonly isOwner: boolean;
  readonly me: string;
  readonly heirs: readonly { id: string; name: string }[];
};
/** What one person can see and do, worked out from role, teams and who serves what. */
export type AccessView = {
  readonly personId: string;
  readonly name: string;
  readonly role: string;
  readonly active: boolean;
  readonly can: readonly string[];
  readonly cannot: readonly string[];
  readonly teams: readonly string[] | 'all';
  readonly queues: readonly string[] | 'all';
  readonly people: number;
  readonly of: number;
};

/** What the functions of this file are given first. */
export type RolesDeps = { readonly host: Host };

function checkRole(tx: Tx, actor: Actor, role: Role): void {
  if (!mayGive(actor, role))
    throw new LaneError('not-allowed', 'A role may hold no right, and reach no team, that you do not hold yourself.');
  const teams = new Set(readTeams(tx.db).map((t) => t.id));
  if (Array.isArray(role.teams) && !(role.teams as readonly string[]).every((t) => teams.has(t)))
    throw new LaneError('not-valid', 'One team does not exist.', [{ where: 'teams', what: 'is not known' }]);
  if (readRoles(tx.db).some((r) => r.id !== role.id && r.name.toLowerCase() === role.name.toLowerCase()))
    throw new LaneError('not-valid', `There is already a role called ${role.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
}

const bare = (r: Role): Role => ({ id: r.id, name: r.name, rights: r.rights, teams: r.teams });

const put = (tx: Tx, r: Role) => COPIED_ROLES.write(tx.db, r.id, r.name, { rights: r.rights, teams: r.teams });

function drop(tx: Tx, roleId: string): void {
  const holders = peopleWithRole(tx.db, roleId);
  if (holders.length > 0)
    throw new LaneError(
      'not-now',
      `${holders.length} ${holders.length === 1 ? 'person has' : 'people have'} this role: ` +
        `${holders.slice(0, 3).join(', ')}. Give them another first.`,
    );
  COPIED_ROLES.remove(tx.db, roleId);
}

const undoableRoles: Record<string, Undoable> = {
  role: {
    name: 'role',
    path: (roleId) => `/people/roles?role=${roleId}`,
    read: (db, roleId) => {
      const r = COPIED_ROLES.one(db, roleId);
      return r ? bare(r) : null;
    },
    restore: (tx, actor, roleId, value) => {
      mustHold(actor, 'roles.change');
      if (value === null) return drop(tx, roleId);
      checkRole(tx, actor, value as Role);
      put(tx, value as Role);
    },
  },
};

export function viewRoles({ host }: RolesDeps, actor: Actor): RolesView {
  mustHold(actor, 'people.view');
  const scope = sightOf(host, actor);
  const people = readPeople(host.db).filter((p) => scope.people?.has(p.id) ?? true);
  return {
    roles: readRoles(host.db).map((r) => ({
      ...bare(r),
      revision: r.revision,
      builtIn: isBuiltIn(r.id),
      people: people.filter((p) => p.roleId === r.id).map((p) => p.name),
      mayChange: !isBuiltIn(r.id) && actor.rights.includes('roles.change') && mayGive(actor, r),
    })),
    teams: readTeams(host.db)
      .filter((t) => actor.teams === 'all' || actor.teams.includes(t.id))
      .map((t) => ({ id: t.id, name: t.name })),
    people: people.map((p) => ({ id: p.id, name: p.name })),
    mayChange: actor.rights.includes('roles.change'),
    isOwner: actor.roleId === OWNER,
    me: actor.personId,
    heirs:
      actor.roleId === OWNER
        ? people
            .filter((p) => p.active && !p.simulated && p.id !== actor.personId)
            .map((p) => ({ id: p.id, name: p.name }))
        : [],
  };
}

/** What one person can see and do. */
export function accessOf({ host }: RolesDeps, actor: Actor, personId: string): AccessView {
  mustHold(actor, 'people.view');
  const p = mustSee(actor, readPerson(host.db, personId));
  const them: Actor = actorOf(host.db, p.id) ?? {
    personId: p.id,
    name: p.name,
    roleId: p.roleId,
    roleName: standingOfPerson(host.db, p.id).role.name,
    rights: [],
    teams: [],
  };
  const scope = sightOf(host, them);
  const all = readPeople(host.db).length;
  const sight = them.rights.includes('people.view') || them.rights.includes('floor.view');
  return {
    personId: p.id,
    name: p.name,
    role: them.roleName,
    active: p.active,
    can: RIGHTS.filter((r) => them.rights.includes(r)).map((r) => RIGHT_WORDS[r]),
    cannot: RIGHTS.filter((r) => !them.rights.includes(r)).map((r) => RIGHT_WORDS[r]),
    teams:
      them.teams === 'all'
        ? 'all'
        : readTeams(host.db)
            .filter((t) => (them.teams as readonly string[]).includes(t.id))
            .map((t) => t.name),
    queues: !sight
      ? []
      : scope.queues === null
        ? 'all'
        : readQueues(host.db)
            .filter((q) => scope.queues?.has(q.id))
            .map((q) => q.name),
    people: !sight ? 0 : (scope.people?.size ?? all),
    of: all,
  };
}

/** Adds a role (`id` null, usually a copy) or changes one that is not built in. */
export function saveRole({ host }: RolesDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'roles.change');
  const { revision, ...r } = parse(roleSchema, input);
  return host.transact((tx) => {
    if (r.id !== null && isBuiltIn(r.id))
      throw new LaneError('not-allowed', 'Built-in roles cannot be changed. Copy it and change the copy.');
    const before = r.id === null ? undefined : COPIED_ROLES.one(tx.db, r.id);
    if (r.id !== null && !before) throw new LaneError('not-found', 'This role is not there any more.');
    sameRevision(before, revision, r.name);
    if (before && !mayGive(actor, before)) throw new LaneError('not-allowed', 'This role holds more than you do.');
    const after: Role = { ...r, id: r.id ?? tx.ids('role') };
    checkRole(tx, actor, after);
    if (before && actor.roleId === before.id && !after.rights.includes('roles.change'))
      throw new LaneError(
        'not-valid',
        'You would lose the right to manage roles. Have somebody else take it from you.',
        [{ where: 'rights', what: 'you cannot take this from yourself' }],
      );
    put(tx, after);
    recordChange(tx, actor, 'role', after.id, before ? bare(before) : null, after);
    return { id: after.id };
  });
}

export function removeRole({ host }: RolesDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'roles.change');
  const asked = parse(idSchema, input);
  return host.transact((tx) => {
    if (isBuiltIn(asked.id)) throw new LaneError('not-allowed', 'Built-in roles cannot be deleted.');
    const before = COPIED_ROLES.one(tx.db, asked.id);
    if (!before) throw new LaneError('not-found', 'This role is not there any more.');
    if (!mayGive(actor, before)) throw new LaneError('not-allowed', 'This role holds more than you do.');
    return removeUndoable(tx, actor, undoableRoles, 'role', asked.id, () => drop(tx, asked.id));
  });
}

/**
 * The owner makes somebody else owner and becomes a lead. So there is always one, and always somebody who manages
 * roles.
 */
export function handOn({ host }: RolesDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'roles.change');
  const asked = parse(handOnSchema, input);
  return host.transact((tx) => {
    const owner = readPerson(tx.db, actor.personId);
    const heir = readPerson(tx.db, asked.personId);
    if (owner?.roleId !== OWNER) throw new LaneError('not-allowed', 'Only the owner hands ownership on.');
    if (!heir || !heir.active || heir.leaving)
      throw new LaneError('not-valid', 'The new owner must be somebody whose account is switched on.', [
        { where: 'personId', what: 'is not switched on' },
      ]);
    if (heir.id === owner.id)
      throw new LaneError('not-valid', 'You are the owner already.', [{ where: 'personId', what: 'is you' }]);
    const batch = tx.ids('batch');
    // The old owner first: there is never more than one.
    const [was, next] = [settingsOfPerson(owner), settingsOfPerson(heir)];
    writePerson(tx.db, { ...was, roleId: 'lead' });
    writePerson(tx.db, { ...next, roleId: OWNER });
    recordChange(tx, actor, 'person', owner.id, was, { ...was, roleId: 'lead' }, { batch });
    recordChange(tx, actor, 'person', heir.id, next, { ...next, roleId: OWNER }, { batch });
    return { id: heir.id };
  });
}

/** Roles: the built-in ones stand, copies can be changed, ownership is handed on. */
export const createRoles = (deps: RolesDeps) => ({
  undoable: undoableRoles,
  ...bind(deps, { view: viewRoles, access: accessOf, save: saveRole, remove: removeRole, handOn }),
});
