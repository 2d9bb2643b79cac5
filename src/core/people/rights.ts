/** What somebody may do. Services check these; pages only hide what would be refused. */
export const RIGHTS = [
  'settings.view', 'people.change', 'people.change-own-teams', 'queues.change', 'doors.change',
  'bots.change', 'bots.publish', 'floor.view', 'review.view', 'review.export', 'conversations.view', 'desk.work',
] as const;
export type Right = (typeof RIGHTS)[number];

export const ROLES = ['owner', 'lead', 'supervisor', 'agent'] as const;
export type Role = (typeof ROLES)[number];

const SUPERVISOR: readonly Right[] = ['settings.view', 'people.change-own-teams', 'floor.view', 'review.view', 'conversations.view', 'desk.work'];
const LEAD: readonly Right[] = [...SUPERVISOR, 'people.change', 'queues.change', 'doors.change', 'bots.change', 'bots.publish', 'review.export'];

const ROLE_RIGHTS: Readonly<Record<Role, readonly Right[]>> = { owner: LEAD, lead: LEAD, supervisor: SUPERVISOR, agent: ['desk.work'] };

export const mayDo = (role: Role, right: Right): boolean => ROLE_RIGHTS[role].includes(right);
export const rightsOf = (role: Role): readonly Right[] => ROLE_RIGHTS[role];

/** Roles that `by` may give to somebody: never one that holds more than they hold, and never a second owner. */
export const rolesGivenBy = (by: Role): readonly Role[] =>
  ROLES.filter((role) => role !== 'owner' && ROLE_RIGHTS[role].every((right) => ROLE_RIGHTS[by].includes(right)));
