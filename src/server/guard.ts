import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { describeError, type LaneError } from '../core/errors';
import type { Reached } from './reached';

/** Requests a minute from one network address to the public interface for channels. */
const PUBLIC_PER_MINUTE = Number(process.env.LANE_PUBLIC_PER_MINUTE ?? 600);
/** Where nobody has to be signed in. */
const LIMITED = ['/api/v1/', '/api/handset/'] as const;
/** How long browsers ask for this server by TLS only. */
const HSTS_SECONDS = 365 * 86_400;

export function refuse(res: ServerResponse, error: LaneError): void {
  const { status, body } = describeError(error);
  res.writeHead(status, { 'content-type': 'application/json; charset=utf-8', 'cache-control': 'no-store' });
  res.end(JSON.stringify(body));
}

/**
 * Sets the security headers. The page's own scripts carry a nonce; nothing may come from another host. Pages that
 * reload as they are written (`dev`) need a socket, and evaluate what they reload.
 */
export function secure(req: IncomingMessage, res: ServerResponse, reached: Reached, dev = false): void {
  // What pages and handlers learn of whoever asks is what the server itself knows; a header could say anything.
  for (const name of ['forwarded', 'x-forwarded-host', 'x-forwarded-port', 'x-real-ip']) delete req.headers[name];
  req.headers['x-forwarded-for'] = reached.clientOf(req);
  req.headers['x-forwarded-proto'] = reached.secure ? 'https' : 'http';
  const nonce = randomBytes(16).toString('base64');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    dev ? "connect-src 'self' ws:" : "connect-src 'self'",
    "worker-src 'self' blob:",
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "object-src 'none'",
  ].join('; ');
  // Next.js reads the nonce for its own scripts from the request.
  req.headers['content-security-policy'] = policy;
  res.setHeader('Content-Security-Policy', policy);
  if (reached.secure) res.setHeader('Strict-Transport-Security', `max-age=${HSTS_SECONDS}`);
  res.setHeader('X-Content-Type-Options', 'nosniff');
  res.setHeader('Referrer-Policy', 'same-origin');
  res.setHeader('X-Frame-Options', 'DENY');
  res.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
  res.setHeader('Permissions-Policy', 'camera=(), microphone=(), geolocation=()');
}

/** The path that is asked for, made plain as whoever answers it reads it; null when it cannot be read. */
export function plainPath(url: string | undefined): string | null {
  try {
    const { pathname } = new URL(url?.startsWith('/') ? `http://here${url}` : (url ?? '/'), 'http://here');
    return decodeURIComponent(pathname).replace(/\/{2,}/g, '/');
  } catch {
    return null;
  }
}

/** A change may only be asked for by our own pages, or by a program that sends no origin. */
export function isCrossSite(req: IncomingMessage, { origin: ours }: Reached): boolean {
  if (req.method === 'GET' || req.method === 'HEAD' || req.method === 'OPTIONS') return false;
  if (req.headers['sec-fetch-site'] === 'cross-site') return true;
  const { origin } = req.headers;
  if (origin === undefined) return false;
  try {
    const asking = new URL(origin);
    return asking.origin !== ours && asking.host !== req.headers.host;
  } catch {
    return true;
  }
}

/** The limiter for the public interface: resolves with the seconds to wait, or null when the request may go on. */
export function createPublicLimit({
  clientOf,
}: Reached): (req: IncomingMessage, path: string) => Promise<number | null> {
  const limiter = new RateLimiterMemory({ points: PUBLIC_PER_MINUTE, duration: 60 });
  return async (req, path) => {
    if (!LIMITED.some((prefix) => path.startsWith(prefix))) return null;
    try {
      await limiter.consume(clientOf(req));
      return null;
    } catch (state) {
      const ms =
        typeof state === 'object' && state !== null && 'msBeforeNext' in state ? Number(state.msBeforeNext) : 60_000;
      return Math.ceil(ms / 1000);
    }
  };
}
