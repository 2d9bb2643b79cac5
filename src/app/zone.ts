import { services } from './services';

/** The workspace's zone, in which times of day are shown. */
export const workspaceZone = (): string => services().review.zone();
