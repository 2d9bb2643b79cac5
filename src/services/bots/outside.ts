import { lookup } from 'node:dns';
import { request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import ipaddr from 'ipaddr.js';
import type { OutsideAnswer, OutsideRequest } from '../../core/bots/connectors';
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
    if (!isAllowed(asked.host)) return barred;
    const answer = await send(asked, secret);
    return isAllowed(asked.host) ? answer : barred;
  };

/**
 * Asks a real host. Whatever its name stands for is looked at before connecting and only that is connected to;
 * redirects are not followed; time and size are limited; only JSON counts. Never rejects: trouble comes back as a
 * fault in words.
 */
export const createSend =
  (mayConnect: (address: string) => boolean = isPublicAddress): Send =>
  (asked, secret) =>
    new Promise((resolve) => {
      let url: URL;
      try {
        url = new URL(asked.path, asked.host);
      } catch {
        return resolve({ fault: 'the address cannot be read' });
      }
      // A path such as //other.example must not lead to another host.
      if (url.origin !== asked.host) return resolve({ fault: 'the address leads to another host' });
      const over = AbortSignal.timeout(asked.timeoutSeconds * 1000);
      const request = (url.protocol === 'https:' ? secureRequest : plainRequest)(url, {
        method: asked.method,
        signal: over,
        headers: {
          accept: 'application/json',
          ...(asked.body === null
            ? {}
            : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(asked.body) }),
          ...(asked.key ? { 'idempotency-key': asked.key } : {}),
          ...(secret ? { authorization: `Bearer ${secret}` } : {}),
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
    });
