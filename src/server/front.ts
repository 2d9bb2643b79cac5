import { randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Logger } from 'pino';
import { LaneError } from '../core/errors';
import { createPublicLimit, isCrossSite, plainPath, refuse, secure } from './guard';
import type { Reached } from './reached';

type Handler = (req: IncomingMessage, res: ServerResponse) => Promise<void>;

/**
 * What every request passes before Next.js has it: security headers, our own names only, no changes from other sites, and
 * the public limit.
 * Each has an id, given back as `X-Request-Id`; its line in the log (level info) says method, path without its question,
 * status and milliseconds.
 */
export function handlerOf(
  handle: Handler,
  { log, dev, reached }: { readonly log: Logger; readonly dev: boolean; readonly reached: Reached },
) {
  const limit = createPublicLimit(reached);
  return (req: IncomingMessage, res: ServerResponse): void => {
    const id = randomUUID();
    const began = performance.now();
    const path = req.url?.split('?')[0];
    res.setHeader('X-Request-Id', id);
    res.once('close', () =>
      log.info({ id, method: req.method, path, status: res.statusCode, ms: Math.round(performance.now() - began) }),
    );
    void (async () => {
      secure(req, res, reached, dev);
      if (!reached.isOurs(req.headers.host))
        return refuse(res, new LaneError('wrong-host', 'This server is not called by that name.'));
      if (isCrossSite(req, reached))
        return refuse(res, new LaneError('cross-site', 'This request came from another site.'));
      const plain = plainPath(req.url);
      if (plain === null) return refuse(res, new LaneError('not-found', 'This address cannot be read.'));
      const wait = await limit(req, plain);
      if (wait !== null) {
        res.setHeader('Retry-After', String(wait));
        return refuse(res, new LaneError('slow-down', `Too many requests from this address; wait ${wait} s.`));
      }
      await handle(req, res);
    })().catch((error: unknown) => {
      log.error({ id, path, err: error });
      if (!res.headersSent) refuse(res, new LaneError('broken-inside', 'Something went wrong here.'));
    });
  };
}

/**
 * How long an idle connection is kept, real ms: longer than proxies and browsers keep theirs, so that none is let go of
 * here in the moment in which they send on it.
 */
const KEEP_MS = 65_000;

/** The HTTP server before which all that stands. */
export const createFront = (handler: (req: IncomingMessage, res: ServerResponse) => void): Server =>
  createServer({ keepAliveTimeout: KEEP_MS, headersTimeout: KEEP_MS + 1000 }, handler);
