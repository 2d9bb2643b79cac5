// `npm run demo`: installs and builds what is missing, fills an empty database with the made-up company, starts, and
// says where.
//   -- --fresh   starts over with new data; the earlier one is moved aside        PORT=4000, LANE_DATA=folder   where it listens and keeps its data
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { DEMO, DEMO_FOLDER, fillDemo } from './demodata.mjs';
import { buildAll, bundleAll, liveWith, root, say, startServer } from './ground.mjs';
import { installInSteps } from './packages.mjs';
import { progressLine } from './progress.mjs';

const folder = process.env.LANE_DATA ?? join(root, DEMO_FOLDER);
const port = process.env.PORT ?? '3000';

const began = Date.now();
const fresh = process.argv.includes('--fresh') || !existsSync(join(folder, 'filled'));
const progress = progressLine([
  { name: 'install', seconds: 10 },
  { name: 'compile', seconds: 40 },
  { name: 'history', seconds: 80 },
  { name: 'build', seconds: 5 },
]);
try {
  progress.at('install', 'Installing packages');
  const { compiled, whole } = await installInSteps({ quiet: true });
  await bundleAll();
  // The history keeps one core busy from when SQLite is compiled to the end; the other packages are brought in and pages
  // are built on what that leaves.
  const built = whole.then(() => buildAll({ quiet: true, calm: fresh, bundled: true }));
  // Whoever waits for it hears of a failure; until then it is not unheard.
  built.catch(() => undefined);
  progress.at('compile', 'Compiling SQLite');
  await compiled;
  if (fresh) await fillDemo(folder, (share) => progress.at('history', 'Making eight weeks of history', share));
  progress.at('build', 'Building');
  await built;
} catch (error) {
  progress.end();
  say(error.message);
  process.exit(1);
}
progress.end();

const { child } = await startServer({ PORT: port, LANE_DATA: folder, ...DEMO }).catch((error) => {
  say(error.message);
  process.exit(1);
});
console.log(`
Usher Lane runs at   http://localhost:${port}
The customer's side  http://localhost:${port}/handset

Sign in with the password “brindlewood” as
  owner       nell.ashgrove@brindlewood.example
  lead        noor.amsel@brindlewood.example
  supervisor  bertil.achterberg@brindlewood.example
  agent       tamsin.orrel@brindlewood.example
  agent       odile.karrow@brindlewood.example

Ready after ${Math.round((Date.now() - began) / 1000)} s. Ctrl C stops it; the data stays in ${folder}.`);
liveWith(child);
