import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { GUEST, type GuestShown, type Registry, SERVICES } from '@/server/registry';
import type { Services } from '@/services';
import type { Actor } from '@/services/ground/actor';

export const SESSION_COOKIE = 'lane_session';

/** The services of the host process. Next.js bundles pages and handlers apart, so they are found, not imported. */
export function services(): Services {
  const found = (globalThis as Registry)[SERVICES];
  if (!found) throw new Error('The host process has not started its services.');
  return found;
}

/** The made-up company that was brought along, as far as pages show it. */
export const guest = (): GuestShown => (globalThis as Registry)[GUEST] ?? { accounts: [], simulated: false };

/** Who is signed in, or null. */
export const currentActor = async (): Promise<Actor | null> =>
  services().signIn.actor((await cookies()).get(SESSION_COOKIE)?.value);

/** Who is signed in; sends everybody else to the sign-in page. */
export async function signedIn(): Promise<Actor> {
  const actor = await currentActor();
  if (!actor) redirect('/signin');
  return actor;
}
