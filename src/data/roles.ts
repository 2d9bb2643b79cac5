import {
  BUILT_IN_ROLES,
  type Right,
  type Role,
  type RoleTeams,
  type Standing,
  standingOf,
} from '../core/people/rights';
import { type Db, rows } from './database';
import { documents } from './documents';
import { readPerson } from './people';
import { supervisedTeams } from './teams';

/** Roles made by copying; the built-in ones are in the code. */
export const COPIED_ROLES = documents<{ readonly rights: readonly Right[]; readonly teams: RoleTeams }>('role');
export const readRoles = (db: Db): (Role & { readonly revision: number })[] => [
  ...BUILT_IN_ROLES.map((r) => ({ ...r, revision: 0 })),
  ...COPIED_ROLES.all(db),
];
export const readRole = (db: Db, id: string): Role | undefined =>
  BUILT_IN_ROLES.find((r) => r.id === id) ?? COPIED_ROLES.one(db, id);
/** What a person holds now: nothing when their role is gone. */
export function standingOfPerson(db: Db, personId: string): Standing & { readonly role: Role } {
  const role = readRole(db, readPerson(db, personId)?.roleId ?? '') ?? {
    id: '',
    name: 'no role',
    rights: [],
    teams: [],
  };
  return { role, ...standingOf(role, supervisedTeams(db, personId)) };
}
export const peopleWithRole = (db: Db, roleId: string): string[] =>
  rows<{ name: string }>(db, 'SELECT name FROM people WHERE role_id = ? ORDER BY name', roleId).map((p) => p.name);
