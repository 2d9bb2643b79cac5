import type { Services } from '../services';
import type { StandInSystem } from '../standins/system';
import type { LiveTime } from './livetime';

/** An account that the sign-in page offers by one press: only ever of a made-up company. */
export type GuestAccount = {
  readonly role: string;
  readonly name: string;
  readonly email: string;
  readonly password: string;
};

/**
 * A made-up company that is brought along, as the demo is: a module named by LANE_GUEST whose default export is one.
 * The product knows nothing of it but this.
 */
export type Guest = {
  readonly accounts: readonly GuestAccount[];
  /** The company's own system, simulated. */
  readonly system: StandInSystem;
  /**
   * Lets simulated customers and people live on the floor's clock; gives what stops them. Null when nobody is
   * simulated.
   */
  readonly start: ((services: Services, clock: LiveTime, onFault: (error: unknown) => void) => () => void) | null;
};

/** Loads the guest that a path names; null for none. */
export async function loadGuest(path: string | undefined): Promise<Guest | null> {
  if (!path) return null;
  const { default: guest } = (await import(/* webpackIgnore: true */ path)) as { default: Guest };
  return guest;
}
