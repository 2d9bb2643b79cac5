import { type Reached, reachedBy } from '../../src/server/reached';
import type { SigningIn } from '../../src/services/workspace/signin';

/** A server on its own machine only. */
export const HERE: Reached = reachedBy({}, { hostname: '127.0.0.1', port: 3000 });

/** A browser in which nobody has signed in yet, somewhere. */
export const browserAt = (network = '198.51.100.7'): SigningIn => ({ network, device: 'A browser', mark: null });
