import type { Right, Role } from '@/core/people/rights';

/** Who looks at the page, and what they may do. */
export type Viewer = { readonly name: string; readonly role: Role; readonly rights: readonly Right[]; readonly zone: string };
