import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { GUEST, type GuestShown, REACHED, type Registry, SERVICES } from '@/server/registry';
import type { Reached } from '@/server/reached';
import type { Services } from '@/services';
import type { Actor } from '@/services/ground/actor';

export const SESSION_COOKIE = 'lane_session';
/** What a browser holds in which somebody has signed in before. */
export const MARK_COOKIE = 'lane_browser';

/** The services of the host process. Next.js bundles pages and handlers apart, so they are found, not imported. */
export function services(): Services {
  const found = (globalThis as Registry)[SERVICES];
  if (!found) throw new Error('The host process has not started its services.');
  return found;
}

/** How the server is reached. */
export function reached(): Reached {
  const found = (globalThis as Registry)[REACHED];
  if (!found) throw new Error('The host process has not said how it is reached.');
  return found;
}

/** Where a request comes from, as the front has made it out, and by what kind of browser. */
export const clientOf = (request: Request): { readonly network: string; readonly device: string } => ({
  network: request.headers.get('x-forwarded-for') ?? 'unknown',
  device: request.headers.get('user-agent') ?? '',
});

/** The made-up company that was brought along, as far as pages show it. */
export const guest = (): GuestShown => (globalThis as Registry)[GUEST] ?? { accounts: [], simulated: false };

/** Who is signed in, or null. */
export const currentActor = async (): Promise<Actor | null> => services().sessions.actor(await sessionToken());
/** The token of the session that asks. */
export const sessionToken = async (): Promise<string | undefined> => (await cookies()).get(SESSION_COOKIE)?.value;
/** Somebody is there and does something: their session goes on. */
export const stillHere = async (): Promise<void> => services().sessions.seen(await sessionToken());

/** Who is signed in; sends everybody else to the sign-in page. */
export async function signedIn(): Promise<Actor> {
  const actor = await currentActor();
  if (!actor) redirect('/signin');
  await stillHere();
  return actor;
}
