// `npm run bench [-- name …]`: speed as ratios within one run. Nothing here is asserted. Names are the files in
// tests/bench.
import { build } from 'esbuild';
import { buildAll } from './ground.mjs';
import { installPackages } from './packages.mjs';

const BENCHES = ['routing', 'people', 'phrases', 'bots', 'storage', 'review', 'server'];
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !BENCHES.includes(name));
if (unknown.length > 0) {
  console.error(`There is no bench called ${unknown.join(', ')}. There are ${BENCHES.join(', ')}.`);
  process.exit(1);
}
await installPackages({ all: true });
for (const name of asked.length > 0 ? asked : BENCHES) {
  // These go through the real server, or its threads.
  if (name === 'server' || name === 'review') await buildAll();
  await build({
    entryPoints: [`tests/bench/${name}.ts`],
    outfile: `dist/bench-${name}.mjs`,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  await import(new URL(`../dist/bench-${name}.mjs`, import.meta.url).href);
}
