import { join, resolve } from 'node:path';
import next from 'next';
import { pino } from 'pino';
import { DatabaseRefused } from '../data/databasefile';
import { createFront, handlerOf } from './front';
import { loadGuest } from './guest';
import { startMeasuring } from './measuring';
import { withPageFiles } from './pagefiles';
import { BadSetting, reachedBy } from './reached';
import { openWorkspace } from './workspace';

/**
 * The one host process: opens the workspace, then starts Next.js before it. Set by PORT, HOST, LANE_DATA (folder),
 * what `reached.ts` reads (how it is reached from outside), LANE_LOG (level), LANE_GUEST (a made-up company to bring along, as the
 * demo is) and LANE_DEV=1 (pages reload as they are written).
 */
const root = process.cwd();
const log = pino({ level: process.env.LANE_LOG ?? 'warn' });
const folder = resolve(process.env.LANE_DATA ?? join(root, 'data'));
const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? '127.0.0.1';
const dev = process.env.LANE_DEV === '1';

// Whoever reads what is printed may go away, and the floor goes on. Unheard, the error of a line that nobody takes would
// be printed as the next line, and so on for ever.
for (const printed of [process.stdout, process.stderr]) printed.on('error', () => undefined);

async function main(): Promise<void> {
  const reached = reachedBy(process.env, { hostname, port });
  const linkTo = (path: string) => new URL(path, reached.origin).href;
  const guest = await loadGuest(process.env.LANE_GUEST && resolve(process.env.LANE_GUEST));
  if (process.env.LANE_MEASURE === '1') startMeasuring();
  const workspace = openWorkspace(folder, { root, guest, reached, log });
  const app = next({ dev, dir: root, hostname, port });
  await app.prepare();
  const pages = app.getRequestHandler();
  const server = createFront(handlerOf(dev ? pages : withPageFiles(root, pages), { log, dev, reached }));
  if (dev) {
    const upgrade = app.getUpgradeHandler();
    server.on('upgrade', (req, socket, head) => void upgrade(req, socket, head));
  }
  server.once('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE' ? `Port ${port} is taken. Stop what uses it, or set another with PORT.` : error,
    );
    process.exit(1);
  });
  server.listen(port, hostname, () => {
    console.log(`listening on http://${hostname}:${port}`);
    const begin = workspace.services.firstStart.open();
    if (begin) console.log(`nobody has begun here yet: ${linkTo(begin)}`);
  });

  const stop = () => {
    server.close();
    server.closeAllConnections();
    workspace.close();
    process.exit(0);
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

main().catch((error: unknown) => {
  if (error instanceof DatabaseRefused || error instanceof BadSetting) console.error(error.message);
  else console.error(error);
  process.exit(1);
});
