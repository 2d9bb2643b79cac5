// Builds the host process and the pages; with `pages`, only these.
import { spawnSync } from 'node:child_process';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { bundle } from './bundle.mjs';

if (process.argv[2] !== 'pages') await bundle();
const next = spawnSync(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
  stdio: 'inherit',
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
});
if (next.status !== 0) process.exit(next.status ?? 1);

// What browsers fetch is compressed here, once, and better than could be done while they wait.
const files = await readdir('.next/static', { recursive: true });
await Promise.all(
  files
    .filter((name) => /\.(js|css)$/.test(name))
    .map(async (name) => {
      const file = join('.next/static', name);
      const text = await readFile(file);
      const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: text.length };
      await writeFile(`${file}.br`, await promisify(brotliCompress)(text, { params }));
      await writeFile(`${file}.gz`, await promisify(gzip)(text, { level: 9 }));
    }),
);
