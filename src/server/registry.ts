import type { Services } from '../services';
import type { GuestAccount } from './guest';
import type { Reached } from './reached';

/** What a page may know of a made-up company that was brought along. */
export type GuestShown = { readonly accounts: readonly GuestAccount[]; readonly simulated: boolean };

/** Where the host process leaves its services for the pages and handlers, which are bundled apart from it. */
export const SERVICES = Symbol.for('usher-lane.services');
export const GUEST = Symbol.for('usher-lane.guest');
export const REACHED = Symbol.for('usher-lane.reached');
export type Registry = typeof globalThis & {
  [SERVICES]?: Services;
  [GUEST]?: GuestShown;
  [REACHED]?: Reached;
};
