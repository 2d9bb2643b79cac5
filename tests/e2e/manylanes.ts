import { join, resolve } from 'node:path';
import next from 'next';
import { pino } from 'pino';
import { createFront, handlerOf } from '../../src/server/front';
import { loadGuest } from '../../src/server/guest';
import { reachedBy } from '../../src/server/reached';
import { openWorkspace, type OpenWorkspace } from '../../src/server/workspace';

/**
 * The real server for one test after another: the process stays, and with it what it has loaded; each test has a
 * workspace of its own, opened and closed as the product does at its start and its end. Told by its parent what to open
 * or to close, it answers when that is done.
 */
const log = pino({ level: 'warn' });
const root = process.cwd();
const port = Number(process.env.PORT);
const reached = reachedBy(
  { LANE_URL: `http://127.0.0.1:${port}`, LANE_STANDINS: 'on' },
  { hostname: '127.0.0.1', port },
);
const guest = await loadGuest(resolve('dist/demo.mjs'));
const app = next({ dir: root, hostname: '127.0.0.1', port });
await app.prepare();
const fresh = () => handlerOf(app.getRequestHandler(), { log, dev: false, reached });
let handle = fresh();
let workspace: OpenWorkspace | null = null;
const server = createFront((req, res) => handle(req, res));

process.on('message', ({ open }: { readonly open: string | null }) => {
  // Whatever is still on the line belongs to the test before.
  server.closeAllConnections();
  workspace?.close();
  workspace = open === null ? null : openWorkspace(join(open), { root, guest, reached, log });
  handle = fresh();
  process.send?.({ done: true });
});
process.on('disconnect', () => process.exit(0));
server.listen(port, '127.0.0.1', () => process.send?.({ done: true }));
