/** What somebody may do, as it is put to people. Services check these; pages only hide what would be refused. */
export const RIGHT_WORDS = {
  'settings.view': 'see doors, bots and queues',
  'people.view': 'see people, their skills and duty profiles',
  'people.change': 'add and change people, their skills and duty profiles',
  'roles.change': 'make roles and give them',
  'queues.change': 'change queues',
  'doors.change': 'change doors and opening hours',
  'bots.change': 'write bots',
  'bots.publish': 'publish bots',
  'floor.view': 'watch the Floor',
  'review.view': 'see how the team did',
  'review.export': 'take figures and lists out as files',
  'review.import': 'bring in contacts of the past',
  'conversations.view': 'read conversations',
  'customers.change': 'join, part and block customers',
  'customers.erase': 'take out and erase a customer’s data',
  'people.coach': 'coach people: notes, ratings and goals',
  'history.view': 'see who changed what',
  'desk.work': 'work with contacts at the Desk',
} as const;
export type Right = keyof typeof RIGHT_WORDS;
export const RIGHTS = Object.keys(RIGHT_WORDS) as readonly Right[];

/** Rights that open a stop of the lane: whoever holds one of them has the strip above their pages. */
export const LANE_RIGHTS: readonly Right[] = ['settings.view', 'people.view', 'floor.view', 'review.view'];

/** The teams a role's rights hold for: everybody, the teams its holder supervises, or these. */
export type RoleTeams = 'all' | 'supervised' | readonly string[];
export type Role = {
  readonly id: string;
  readonly name: string;
  readonly rights: readonly Right[];
  readonly teams: RoleTeams;
};

/** Roles that come with the product. They can be copied, not changed or deleted. */
export const BUILT_IN_ROLES = [
  { id: 'owner', name: 'owner', rights: RIGHTS, teams: 'all' },
  { id: 'lead', name: 'lead', rights: RIGHTS, teams: 'all' },
  {
    id: 'supervisor',
    name: 'supervisor',
    rights: [
      'settings.view',
      'people.view',
      'people.change',
      'floor.view',
      'review.view',
      'conversations.view',
      'customers.change',
      'people.coach',
      'history.view',
      'desk.work',
    ],
    teams: 'supervised',
  },
  { id: 'agent', name: 'agent', rights: ['desk.work'], teams: 'supervised' },
] as const satisfies readonly Role[];
export const isBuiltIn = (roleId: string): boolean => BUILT_IN_ROLES.some((r) => r.id === roleId);
export const OWNER = 'owner';

/** What somebody holds: rights, and the teams for which they hold them. */
export type Standing = { readonly rights: readonly Right[]; readonly teams: 'all' | readonly string[] };

export const standingOf = (role: Role, supervised: readonly string[]): Standing => ({
  rights: role.rights,
  teams: role.teams === 'supervised' ? supervised : role.teams,
});
export const holds = (who: Standing, right: Right): boolean => who.rights.includes(right);
export const reaches = (who: Standing, teamId: string): boolean => who.teams === 'all' || who.teams.includes(teamId);

/**
 * Whether `by` may give this role: never ownership, never a right they do not hold, never for teams they do not reach.
 * A role for supervised teams reaches nobody until somebody is made supervisor of a team.
 */
export function mayGive(by: Standing, role: Role): boolean {
  if (role.id === OWNER || !role.rights.every((right) => holds(by, right))) return false;
  if (role.teams === 'supervised') return true;
  return role.teams === 'all' ? by.teams === 'all' : role.teams.every((id) => reaches(by, id));
}

/**
 * Whether a role holds more than somebody does: a right, a reach, or ownership that is not theirs. Their account,
 * address and role are not theirs to change.
 */
export const outranks = (role: Role, by: Standing & { readonly roleId: string }): boolean =>
  role.id === OWNER ? by.roleId !== OWNER : !mayGive(by, role);
