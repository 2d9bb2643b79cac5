// Bundles what runs outside Next.js: the host process and the demo filler. Packages stay outside the bundle.
import { build } from 'esbuild';

export const bundle = () =>
  build({
    entryPoints: {
      server: 'src/server/main.ts',
      importworker: 'src/server/importworker.ts',
      rehearse: 'src/server/rehearse.ts',
      rehearseworker: 'src/server/rehearseworker.ts',
      fill: 'demo/fill.ts',
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
    alias: { '#demo': './demo' },
  });

if (process.argv[1] === new URL(import.meta.url).pathname) await bundle();
