// Bundles what runs outside Next.js: the host process, its workers, commands, and the demo. Packages stay outside the
// bundle.
import { build } from 'esbuild';

/** @type {import('esbuild').BuildOptions & { entryPoints: Record<string, string> }} */
export const bundleOptions = {
  entryPoints: {
    server: 'src/server/main.ts',
    heavyworker: 'src/server/heavyworker.ts',
    checkpointworker: 'src/server/checkpointworker.ts',
    rehearse: 'src/server/rehearse.ts',
    rehearseworker: 'src/server/rehearseworker.ts',
    newpassword: 'src/server/newpassword.ts',
    fill: 'demo/fill.ts',
    demo: 'demo/guest.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
};
export const bundle = () => build(bundleOptions);

// `node scripts/bundle.mjs [name=entry ...]` bundles these entries only.
if (process.argv[1] === new URL(import.meta.url).pathname) {
  const asked = Object.fromEntries(process.argv.slice(2).map((part) => part.split('=')));
  await build({ ...bundleOptions, entryPoints: process.argv.length > 2 ? asked : bundleOptions.entryPoints });
}
