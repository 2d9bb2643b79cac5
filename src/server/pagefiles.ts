import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';
import sirv from 'sirv';

type Handler = (req: IncomingMessage, res: ServerResponse) => Promise<void>;
const PREFIX = '/_next/static';

/**
 * Scripts, styles and fonts of the pages, as the build compressed them: under names that change with what is in them, so
 * that browsers keep them for good. All else goes on to `handle`. `root` is the folder in which the pages were built.
 */
export function withPageFiles(root: string, handle: Handler): Handler {
  const files = sirv(join(root, '.next/static'), { brotli: true, gzip: true, immutable: true, maxAge: 31_536_000 });
  return async (req, res) => {
    const { url } = req;
    if (!url?.startsWith(`${PREFIX}/`) || (req.method !== 'GET' && req.method !== 'HEAD')) return handle(req, res);
    await new Promise<void>((resolve, reject) => {
      res.once('close', resolve);
      req.url = url.slice(PREFIX.length);
      files(req, res, () => {
        req.url = url;
        handle(req, res).then(resolve, reject);
      });
    });
  };
}
