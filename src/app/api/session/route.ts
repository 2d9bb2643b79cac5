import { cookies } from 'next/headers';
import { query, readJson, reply, replyTo } from '../reply';
import { clientOf, MARK_COOKIE, reached, services, SESSION_COOKIE } from '../../services';

/** How long a browser is known as one in which somebody has signed in, seconds. */
const MARK_SECONDS = 365 * 86_400;

/** Sign in. Cookies are Secure where the server is reached by TLS; on loopback the demo runs without. */
export const POST = (request: Request) =>
  reply(async () => {
    const store = await cookies();
    const { token, maxAgeSeconds, mark } = await services().signIn.signIn(await readJson(request), {
      ...clientOf(request),
      mark: store.get(MARK_COOKIE)?.value ?? null,
    });
    const kept = { httpOnly: true, sameSite: 'lax', path: '/', secure: reached().secure } as const;
    store.set(SESSION_COOKIE, token, { ...kept, maxAge: maxAgeSeconds });
    store.set(MARK_COOKIE, mark, { ...kept, path: '/api/session', maxAge: MARK_SECONDS });
    return { done: true };
  });

/** One's own sessions. */
export const GET = (request: Request) =>
  replyTo(request, async (actor) => services().sessions.view(actor, (await cookies()).get(SESSION_COOKIE)?.value));

/** Sign out here, or with `?everywhere=1` on every device. */
export const DELETE = (request: Request) =>
  replyTo(request, async (actor) => {
    const store = await cookies();
    const token = store.get(SESSION_COOKIE)?.value;
    if (query(request).everywhere === '1') services().sessions.endEverywhere(actor);
    else if (token) services().sessions.end(token);
    store.delete(SESSION_COOKIE);
    return { done: true };
  });
