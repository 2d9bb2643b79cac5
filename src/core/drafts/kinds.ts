/** What may be planned for an instant: what counts from the moment at which it is applied. */
export const PLAN_KINDS = ['queue', 'group', 'partner', 'hours', 'door', 'duty-profile', 'role'] as const;
export type PlanKind = (typeof PLAN_KINDS)[number];

/**
 * What is gathered before it is applied: each person's changes of such a thing are a draft of theirs until they apply or
 * forget it.
 */
export const DRAFT_KINDS = [...PLAN_KINDS, 'phrasebook'] as const;
export type DraftKind = (typeof DRAFT_KINDS)[number];

/** Where each is changed, and what one of them is called. */
export const DRAFTED: Readonly<Record<DraftKind, { readonly name: string; readonly path: (id: string) => string }>> = {
  queue: { name: 'queue', path: (id) => `/queues?queue=${id}` },
  group: { name: 'group', path: (id) => `/queues/groups?group=${id}` },
  partner: { name: 'partner desk', path: (id) => `/queues/partners?partner=${id}` },
  hours: { name: 'opening hours', path: (id) => `/doors/hours?hours=${id}` },
  door: { name: 'door', path: (id) => `/doors?door=${id}` },
  'duty-profile': { name: 'duty profile', path: (id) => `/people/duty?profile=${id}` },
  role: { name: 'role', path: (id) => `/people/roles?role=${id}` },
  phrasebook: { name: 'phrasebook', path: () => '/bots/phrasebook' },
};
