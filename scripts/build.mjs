// Builds the host process and the pages; with `pages`, only these.
import { spawnSync } from 'node:child_process';
import { bundle } from './bundle.mjs';

if (process.argv[2] !== 'pages') await bundle();
const next = spawnSync(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
  stdio: 'inherit',
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
});
process.exit(next.status ?? 1);
