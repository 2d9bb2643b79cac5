// `npm run dev`: pages reload as they are written, the host starts anew when anything else changes, with the demo's
// data.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { context } from 'esbuild';
import { bundleOptions } from './bundle.mjs';
import { DEMO, DEMO_FOLDER, fillDemo } from './demodata.mjs';
import { bundleAll, root, say } from './ground.mjs';
import { installPackages } from './packages.mjs';

const folder = process.env.LANE_DATA ?? join(root, DEMO_FOLDER);
await installPackages();
if (!existsSync(join(folder, 'filled'))) {
  say('Making the demo company and its history…');
  await bundleAll();
  await fillDemo(folder, (share) => process.stderr.write(`\rhistory ${Math.round(100 * share)}%`));
  say('');
}

let child = null;
let stopping = false;
function start() {
  child = spawn(process.execPath, ['--enable-source-maps', 'dist/server.mjs'], {
    cwd: root,
    stdio: 'inherit',
    env: {
      NEXT_TELEMETRY_DISABLED: '1',
      ...process.env,
      NODE_ENV: 'development',
      LANE_DEV: '1',
      LANE_DATA: folder,
      ...DEMO,
    },
  });
  child.once('exit', (code, signal) => {
    // A host that ends by itself has said why; the next change starts it again.
    if (!stopping && signal !== 'SIGTERM') say(`The host ended with ${code}; it starts again after the next change.`);
  });
}
/** Lets the old host end, so that the database is free, before the new one starts. */
async function restart() {
  if (child && child.exitCode === null && child.signalCode === null) {
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    await ended;
  }
  if (!stopping) start();
}

const watching = await context({
  ...bundleOptions,
  plugins: [
    {
      name: 'restart-the-host',
      setup: (build) => build.onEnd(({ errors }) => void (errors.length === 0 && restart())),
    },
  ],
});
await watching.watch();
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    stopping = true;
    child?.kill('SIGTERM');
    void watching.dispose().then(() => process.exit(0));
  });
