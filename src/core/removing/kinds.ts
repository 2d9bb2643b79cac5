/** Kinds of things that are retired when they have been in use, and deleted when never. */
export const RETIRED_KINDS = ['queue', 'door', 'bot', 'group', 'partner', 'skill', 'team', 'field'] as const;
export type RetiredKind = (typeof RETIRED_KINDS)[number];

/** Of these a retired one is kept apart, as History has it; the others stay where they are, marked. */
export const KEPT_APART = ['group', 'partner', 'skill', 'team', 'field'] as const satisfies readonly RetiredKind[];
export type KeptApart = (typeof KEPT_APART)[number];
export const isKeptApart = (kind: RetiredKind): kind is KeptApart => (KEPT_APART as readonly string[]).includes(kind);

export const RETIRED_NAMES: Readonly<Record<RetiredKind, string>> = {
  queue: 'queue',
  door: 'door',
  bot: 'bot',
  group: 'group',
  partner: 'partner desk',
  skill: 'skill',
  team: 'team',
  field: 'field',
};
