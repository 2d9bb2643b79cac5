// `npm run bench`: speed as ratios within one run. Nothing here is asserted.
import { build } from 'esbuild';
import { installPackages } from './ground.mjs';

installPackages();
await build({ entryPoints: ['tests/bench/bench.ts'], outfile: 'dist/bench.mjs', bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'warning' });
await import(new URL('../dist/bench.mjs', import.meta.url).href);
