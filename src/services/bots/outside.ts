import { lookup } from 'node:dns';
import { request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import ipaddr from 'ipaddr.js';
import type { OutsideAnswer, OutsideRequest, SignIn } from '../../core/bots/connectors';
import type { Post } from '../../standins/post';
import type { StandInSystem } from '../../standins/system';

/** The world outside: the company's own system, real hosts, and mail, texts and calls. */
export type Outside = { readonly system: StandInSystem; readonly send: Send; readonly post: Post };

/** The most that an answer may be, bytes. */
const MOST_BYTES = 256 * 1024;

/**
 * Whether an address is on the open Internet: not this machine, not a local network, not a range kept for something
 * else.
 */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  return parsed.range() === 'unicast';
}

/** What a host must look like to be allowed: a name with a scheme, nothing more. Throws a sentence. */
export function hostFault(host: string): string | null {
  let url: URL;
  try {
    url = new URL(host);
  } catch {
    return 'A host is written as https://name.';
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:') return 'A host begins with https:// or http://.';
  if (url.origin !== host || url.username !== '') return 'A host is a name only, without a path, as https://name.';
  const name = url.hostname.replace(/^\[|\]$/g, '');
  if (ipaddr.isValid(name) ? !isPublicAddress(name) : /(^|\.)(localhost|local|internal|lan|home|corp)$/i.test(name))
    return 'Private addresses cannot be asked.';
  return null;
}

export type Send = (request: OutsideRequest, secret: string | null) => Promise<OutsideAnswer>;

/**
 * Asks only hosts that may be asked at that moment: one that is taken from the list meanwhile is asked no more, has no
 * secret sent to it, and its answer counts for nothing.
 */
export const onlyAllowed =
  (send: Send, isAllowed: (host: string) => boolean): Send =>
  async (asked, secret) => {
    const barred = { fault: 'its host is not allowed any more' };
    const hosts = [asked.host, ...(asked.signIn.by === 'client' ? [asked.signIn.tokenHost] : [])];
    if (!hosts.every(isAllowed)) return barred;
    const answer = await send(asked, secret);
    return isAllowed(asked.host) ? answer : barred;
  };

/** One exchange with a host, as it goes over the line. */
type Exchange = Pick<OutsideRequest, 'host' | 'path' | 'method' | 'body'> & {
  readonly headers: Readonly<Record<string, string>>;
  readonly over: AbortSignal;
};

/**
 * Asks a real host. Whatever its name stands for is looked at before connecting and only that is connected to;
 * redirects are not followed; time and size are limited; only JSON counts. Never rejects: trouble comes back as a
 * fault in words.
 */
const createExchange =
  (mayConnect: (address: string) => boolean) =>
  (asked: Exchange): Promise<OutsideAnswer> =>
    new Promise<OutsideAnswer>((resolve) => {
      let url: URL;
      try {
        url = new URL(asked.path, asked.host);
      } catch {
        return resolve({ fault: 'the address cannot be read' });
      }
      // A path such as //other.example must not lead to another host.
      if (url.origin !== asked.host) return resolve({ fault: 'the address leads to another host' });
      const { over } = asked;
      const request = (url.protocol === 'https:' ? secureRequest : plainRequest)(url, {
        method: asked.method,
        signal: over,
        headers: {
          ...asked.headers,
          ...(asked.body === null ? {} : { 'content-length': Buffer.byteLength(asked.body) }),
        },
        lookup: (name, options, done) => {
          lookup(name, { ...options, all: true }, (error, addresses) => {
            const fit = error ? [] : addresses.filter((a) => mayConnect(a.address));
            const [first] = fit;
            if (!first || fit.length !== addresses.length)
              return void done(error ?? new Error('private address'), '', 4);
            if (options.all) done(null, fit);
            else done(null, first.address, first.family);
          });
        },
      });
      // A host that is an address by itself is never looked up.
      const name = url.hostname.replace(/^\[|\]$/g, '');
      if (ipaddr.isValid(name) && !mayConnect(name)) {
        request.destroy();
        return resolve({ fault: 'private addresses are not asked' });
      }
      request.on('response', (response) => {
        const parts: Buffer[] = [];
        let size = 0;
        response.on('data', (part: Buffer) => {
          size += part.length;
          if (size > MOST_BYTES) {
            resolve({ fault: 'the answer is too large' });
            request.destroy();
          } else parts.push(part);
        });
        response.on('end', () => {
          const text = Buffer.concat(parts).toString('utf8');
          let body: unknown = null;
          try {
            body = text === '' ? null : JSON.parse(text);
          } catch {
            if ((response.statusCode ?? 0) < 300) return resolve({ fault: 'the answer is not JSON' });
          }
          resolve({ status: response.statusCode ?? 0, body });
        });
        response.on('error', () => resolve({ fault: 'the answer broke off' }));
      });
      request.on('error', () =>
        resolve({ fault: over.aborted ? 'no answer came in time' : 'it could not be reached' }),
      );
      request.end(asked.body ?? undefined);
    }).catch(() => ({ fault: 'it cannot be sent: a header, a secret or a token has signs that no header carries' }));

/** A token that was given for a secret, and until when it is used, real ms. */
type Given = { readonly token: string; readonly until: number };
/** A token is asked for anew so long before it ends; and lasts so long where nobody says. */
const EARLY_MS = 30_000;
const USUAL_SECONDS = 300;

/**
 * Asks real hosts, signed in as the connector says. A token that is given for a secret is kept in memory while it lasts;
 * one that is not taken any more is asked for once again.
 */
export function createSend(
  mayConnect: (address: string) => boolean = isPublicAddress,
  now: () => number = Date.now,
): Send {
  const exchange = createExchange(mayConnect);
  const tokens = new Map<string, Given>();

  async function tokenFor(
    by: Extract<SignIn, { by: 'client' }>,
    secret: string,
    over: AbortSignal,
  ): Promise<{ readonly token: string; readonly kept: boolean } | { readonly fault: string }> {
    const key = JSON.stringify([by, secret]);
    const known = tokens.get(key);
    if (known && known.until > now()) return { token: known.token, kept: true };
    const form = new URLSearchParams({ grant_type: 'client_credentials', ...(by.scope ? { scope: by.scope } : {}) });
    const answer = await exchange({
      host: by.tokenHost,
      path: by.tokenPath,
      method: 'POST',
      body: form.toString(),
      over,
      headers: {
        accept: 'application/json',
        'content-type': 'application/x-www-form-urlencoded',
        authorization: basic(encodeURIComponent(by.clientId), encodeURIComponent(secret)),
      },
    });
    if ('fault' in answer) return { fault: `no token was given: ${answer.fault}` };
    const given =
      typeof answer.body === 'object' && answer.body !== null ? (answer.body as Readonly<Record<string, unknown>>) : {};
    if (answer.status !== 200 || typeof given.access_token !== 'string')
      return { fault: `no token was given (${answer.status})` };
    const seconds = typeof given.expires_in === 'number' ? given.expires_in : USUAL_SECONDS;
    tokens.set(key, { token: given.access_token, until: now() + seconds * 1000 - EARLY_MS });
    return { token: given.access_token, kept: false };
  }

  return async (asked, secret) => {
    const { signIn } = asked;
    const over = AbortSignal.timeout(asked.timeoutSeconds * 1000);
    const send = (signedIn: Readonly<Record<string, string>>) =>
      exchange({
        ...asked,
        over,
        headers: {
          accept: 'application/json',
          ...Object.fromEntries(asked.headers.map(({ name, value }) => [name.toLowerCase(), value])),
          ...(asked.body === null ? {} : { 'content-type': 'application/json' }),
          ...(asked.key ? { 'idempotency-key': asked.key } : {}),
          ...signedIn,
        },
      });
    if (secret === null) return send({});
    if (signIn.by !== 'client') return send(signedInBy(signIn, secret));
    for (;;) {
      const given = await tokenFor(signIn, secret, over);
      if ('fault' in given) return given;
      const answer = await send({ authorization: `Bearer ${given.token}` });
      if (!('status' in answer) || answer.status !== 401 || !given.kept) return answer;
      // Whoever gave it has taken it back: once more with another.
      tokens.delete(JSON.stringify([signIn, secret]));
    }
  };
}

const basic = (user: string, password: string): string =>
  `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`;

function signedInBy(signIn: Exclude<SignIn, { by: 'client' }>, secret: string): Readonly<Record<string, string>> {
  switch (signIn.by) {
    case 'bearer':
      return { authorization: `Bearer ${secret}` };
    case 'basic':
      return { authorization: basic(signIn.user, secret) };
    case 'header':
      return { [signIn.header.toLowerCase()]: secret };
  }
}
