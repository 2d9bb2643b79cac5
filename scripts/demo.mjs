// `npm run demo`: installs and builds what is missing, fills an empty database with the made-up company, starts, and says where.
//   -- --fresh   starts over with new data        PORT=4000, LANE_DATA=folder   where it listens and keeps its data
import { spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { buildAll, installPackages, must, root, startServer } from './ground.mjs';

const folder = process.env.LANE_DATA ?? join(root, 'var');
const port = process.env.PORT ?? '3000';
const database = join(folder, 'lane.db');
const filled = join(folder, 'filled');

if (process.argv.includes('--fresh'))
  for (const file of [database, `${database}-wal`, `${database}-shm`, filled]) rmSync(file, { force: true });
installPackages();

if (existsSync(filled)) buildAll();
else {
  // A half-made history is worth nothing: begin again. It is made beside the build, which leaves a core idle.
  for (const file of [database, `${database}-wal`, `${database}-shm`]) rmSync(file, { force: true });
  must(process.execPath, ['scripts/bundle.mjs']);
  console.log('Making the demo company and its history…');
  const filling = new Promise((resolve) =>
    spawn(process.execPath, ['dist/fill.mjs', 'fill'], {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, LANE_DATA: folder },
    }).once('exit', resolve),
  );
  const building = new Promise((resolve) =>
    spawn(process.execPath, ['--input-type=module', '-e', "import('./scripts/ground.mjs').then((g) => g.buildAll())"], {
      cwd: root,
      stdio: 'inherit',
    }).once('exit', resolve),
  );
  if ((await filling) !== 0 || (await building) !== 0) process.exit(1);
}

const child = await startServer({ PORT: port, LANE_DATA: folder, LANE_CROWD: '1', LANE_DEMO: '1' }).catch((error) => {
  console.error(error.message);
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

Ctrl C stops it; the data stays in ${folder}.`);
child.removeAllListeners('exit');
child.once('exit', (code) => process.exit(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
