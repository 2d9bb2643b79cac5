import { cookies } from 'next/headers';
import { readJson, reply, replyTo, query } from '../reply';
import { services, SESSION_COOKIE } from '../../services';

/** Sign in. The cookie is Secure where the connection is; on loopback the demo runs without TLS. */
export const POST = (request: Request) =>
  reply(async () => {
    const from = request.headers.get('x-forwarded-for')?.split(',')[0]?.trim() ?? 'direct';
    const { token, maxAgeSeconds } = await services().signIn.signIn(await readJson(request), from);
    (await cookies()).set(SESSION_COOKIE, token, {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge: maxAgeSeconds,
      secure: new URL(request.url).protocol === 'https:',
    });
    return { done: true };
  });

/** Sign out here, or with `?everywhere=1` on every device. */
export const DELETE = (request: Request) =>
  replyTo(async (actor) => {
    const store = await cookies();
    const token = store.get(SESSION_COOKIE)?.value;
    if (query(request).everywhere === '1') services().signIn.signOutEverywhere(actor);
    else if (token) services().signIn.signOut(token);
    store.delete(SESSION_COOKIE);
    return { done: true };
  });
