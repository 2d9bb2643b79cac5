import { createServer } from 'node:http';
import { randomInt } from 'node:crypto';
import { join, resolve } from 'node:path';
import next from 'next';
import { pino } from 'pino';
import { idsFrom } from '../core/ids';
import { DatabaseRefused, openDatabase } from '../data/database';
import { createServices } from '../services';
import { createHost } from '../services/ground/host';
import { startClock } from './clock';
import { handlerOf } from './front';
import { loadGuest } from './guest';
import { startHeartbeat } from './heartbeat';
import { createImportRunner } from './importrunner';
import { GUEST, type Registry, SERVICES } from './registry';

/**
 * The one host process: opens the database, builds the services and the floor, leaves them where pages and handlers
 * find them, then starts Next.js. Set by PORT, HOST, LANE_DATA (folder), LANE_URL (how it is reached from outside),
 * LANE_LOG (level), LANE_GUEST (a made-up company to bring along, as the demo is) and LANE_DEV=1 (pages reload as
 * they are written).
 */
const root = process.cwd();
const log = pino({ level: process.env.LANE_LOG ?? 'warn' });
const folder = resolve(process.env.LANE_DATA ?? join(root, 'data'));
const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? '127.0.0.1';
const dev = process.env.LANE_DEV === '1';
const linkTo = (path: string) => new URL(path, process.env.LANE_URL ?? `http://localhost:${port}`).href;

async function main(): Promise<void> {
  const guest = await loadGuest(process.env.LANE_GUEST && resolve(process.env.LANE_GUEST));
  const { db, close } = openDatabase(folder, join(root, 'src/data/migrations'));
  const simulated = guest !== null && guest.start !== null;
  const clock = startClock(db, { waitsWhileStopped: simulated });
  const host = createHost(
    db,
    idsFrom(() => randomInt(2 ** 32) / 2 ** 32),
    clock,
  );
  const services = createServices(host, {
    rate: clock.rate,
    linkTo,
    importRunner: createImportRunner(join(root, 'dist/importworker.mjs')),
    ...(guest ? { system: guest.system } : {}),
  });
  (globalThis as Registry)[SERVICES] = services;
  (globalThis as Registry)[GUEST] = { accounts: guest?.accounts ?? [], simulated };

  const app = next({ dev, dir: root, hostname, port });
  await app.prepare();
  const server = createServer(handlerOf(app.getRequestHandler(), { log, dev }));
  if (dev) {
    const upgrade = app.getUpgradeHandler();
    server.on('upgrade', (req, socket, head) => void upgrade(req, socket, head));
  }

  const fault = (error: unknown) => log.error(error);
  services.floor.resume();
  // What fell due while nobody ran goes first, in its order; then everybody who waits is asked for.
  services.timers.runDue();
  services.conversations.bots.resume();
  services.floor.askAnew();
  const stopHeart = startHeartbeat(services, clock.untilFloor, fault);
  const stopGuest = guest?.start?.(services, clock, fault);
  server.once('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE' ? `Port ${port} is taken. Stop what uses it, or set another with PORT.` : error,
    );
    process.exit(1);
  });
  server.listen(port, hostname, () => {
    console.log(`listening on http://${hostname}:${port}`);
    const begin = services.firstStart.open();
    if (begin) console.log(`nobody has begun here yet: ${linkTo(begin)}`);
  });

  const stop = () => {
    stopGuest?.();
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
