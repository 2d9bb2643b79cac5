import type { Services } from '../services';

/** Where the host process leaves its services for the pages and handlers, which are bundled apart from it. */
export const SERVICES = Symbol.for('usher-lane.services');
export type Registry = typeof globalThis & { [SERVICES]?: Services };
