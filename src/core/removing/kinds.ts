/** Kinds of things that are retired when they have been in use, and deleted when never. */
export const RETIRED_KINDS = ['queue', 'door', 'bot'] as const;
export type RetiredKind = (typeof RETIRED_KINDS)[number];
