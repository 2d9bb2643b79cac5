import type { Right } from '@/core/people/rights';

/** Who looks at the page, and what they may do. */
export type Viewer = { readonly name: string; readonly role: string; readonly rights: readonly Right[]; /** Whether their rights hold for all teams. */ readonly everybody: boolean; readonly zone: string };
