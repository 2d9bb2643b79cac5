// `npm run quick`: lint of what changed, types, and unit tests in their smallest size, side by side. For while one
// works.
//   -- pattern …   only the tests whose file name contains one of these
import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { run, say } from './ground.mjs';
import { installPackages } from './packages.mjs';

await installPackages({ all: true });
const node = process.execPath;
const git = (...args) => execFileSync('git', args, { encoding: 'utf8' }).split('\n').filter(Boolean);
const changed = [
  ...new Set([...git('diff', '--name-only', 'HEAD'), ...git('ls-files', '-o', '--exclude-standard')]),
].filter((file) => existsSync(file));
const code = changed.filter((file) => /\.(tsx?|mjs|cjs)$/.test(file));

const began = Date.now();
const steps = [
  ['Types', ['node_modules/typescript/bin/tsc', '--noEmit']],
  ['Unit tests', ['node_modules/vitest/vitest.mjs', 'run', '--reporter=dot', ...process.argv.slice(2)]],
];
if (changed.length > 0)
  steps.push(['Format', ['node_modules/prettier/bin/prettier.cjs', '--check', '--ignore-unknown', ...changed]]);
if (code.length > 0) steps.push(['Lint', ['node_modules/eslint/bin/eslint.js', '--max-warnings', '0', ...code]]);
const results = await Promise.all(
  steps.map(([title, args]) =>
    run(node, args, { quiet: true, env: { LANE_TESTS: 'quick' } }).then(
      () => [title, true],
      () => [title, false],
    ),
  ),
);
for (const [title, fine] of results) say(`${fine ? 'fine  ' : 'FAILED'}  ${title}`);
say(`${Math.round((Date.now() - began) / 1000)} s`);
process.exit(results.every(([, fine]) => fine) ? 0 : 1);
