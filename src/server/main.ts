import { createServer } from 'node:http';
import { randomInt } from 'node:crypto';
import { join, resolve } from 'node:path';
import next from 'next';
import { pino } from 'pino';
import { startCrowd } from '#demo/crowd';
import { LaneError } from '../core/errors';
import { idsFrom } from '../core/ids';
import { DatabaseRefused, openDatabase } from '../data/database';
import { createServices } from '../services';
import { createHost } from '../services/ground/host';
import { createImportRunner } from './importrunner';
import { startClock } from './clock';
import { createPublicLimit, isCrossSite, refuse, secure } from './guard';
import { startHeartbeat } from './heartbeat';
import { SERVICES, type Registry } from './registry';

/**
 * The one host process: opens the database, builds the services and the floor, leaves them where pages and handlers find
 * them, then starts Next.js. Set by PORT, HOST, LANE_DATA (folder), LANE_CROWD=1 (simulated customers and people).
 */
const root = process.cwd();
const log = pino({ level: process.env.LANE_LOG ?? 'warn' });
const folder = resolve(process.env.LANE_DATA ?? join(root, 'var'));
const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? '127.0.0.1';
const crowdOn = process.env.LANE_CROWD === '1';

async function main(): Promise<void> {
  const { db, close } = openDatabase(folder, join(root, 'src/data/migrations'));
  const clock = startClock(db, { waitsWhileStopped: crowdOn });
  const host = createHost(
    db,
    idsFrom(() => randomInt(2 ** 32) / 2 ** 32),
    clock,
  );
  const services = createServices(host, {
    rate: clock.rate,
    linkTo: (path) => new URL(path, process.env.LANE_URL ?? `http://localhost:${port}`).href,
    importRunner: createImportRunner(join(root, 'dist/importworker.mjs')),
  });
  (globalThis as Registry)[SERVICES] = services;

  const app = next({ dev: false, dir: root, hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  const limit = createPublicLimit();
  const server = createServer((req, res) => {
    void (async () => {
      secure(req, res);
      if (isCrossSite(req)) return refuse(res, new LaneError('cross-site', 'This request came from another site.'));
      const wait = await limit(req);
      if (wait !== null) {
        res.setHeader('Retry-After', String(wait));
        return refuse(res, new LaneError('slow-down', `Too many requests from this address; wait ${wait} s.`));
      }
      await handle(req, res);
    })().catch((error: unknown) => {
      log.error(error);
      if (!res.headersSent) refuse(res, new LaneError('broken-inside', 'Something went wrong here.'));
    });
  });

  services.floor.resume();
  // What fell due while nobody ran goes first, in its order; then everybody who waits is asked for.
  services.timers.runDue();
  services.conversations.bots.resume();
  services.floor.askAnew();
  const stopHeart = startHeartbeat(services, clock.untilFloor, (error) => log.error(error));
  const stopCrowd = crowdOn ? startCrowd(services, clock, (error) => log.error(error)) : () => undefined;
  server.once('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE' ? `Port ${port} is taken. Stop what uses it, or set another with PORT.` : error,
    );
    process.exit(1);
  });
  server.listen(port, hostname, () => console.log(`listening on http://${hostname}:${port}`));

  const stop = () => {
    stopCrowd();
    stopHeart();
    server.close();
    server.closeAllConnections();
    close();
    process.exit(0);
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

main().catch((error: unknown) => {
  if (error instanceof DatabaseRefused) console.error(error.message);
  else console.error(error);
  process.exit(1);
});
