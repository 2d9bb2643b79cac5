// `npm test`: installs what is missing, then lint, layers, types, unit tests, build, end-to-end tests against the built
// application. Ends with the line `N passed, N failed` over both kinds of test; any other step that fails counts as
// one.
//   `npm run test:long` (`-- long`): the unit tests in their full size, and nothing else.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildAll, findChromium } from './ground.mjs';
import { installInSteps } from './packages.mjs';

const long = process.argv.includes('long');
const { brought, whole } = await installInSteps({ all: true });
await brought;
const chromium = long ? null : findChromium();
const results = 'test-results';
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

/**
 * Workspaces of tests stand in memory where there is room for them: each change waits for the disk, and none of them
 * is kept.
 */
const inMemory = existsSync('/dev/shm') && statfsSync('/dev/shm').bavail * statfsSync('/dev/shm').bsize > 2e9;
const TMPDIR = mkdtempSync(join(inMemory ? '/dev/shm' : tmpdir(), 'lane-tests-'));
process.on('exit', () => rmSync(TMPDIR, { recursive: true, force: true }));

let passed = 0;
let failed = 0;
const times = [];
/** Runs a program of Node's; gives whether it ended well. */
async function run(title, args, env = {}) {
  const began = Date.now();
  console.log(`\n— ${title}`);
  const child = spawn(process.execPath, args, {
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', TMPDIR, ...env },
  });
  const status = await new Promise((resolve) => child.once('exit', resolve));
  times.push(`${title} ${Math.round((Date.now() - began) / 1000)} s`);
  return status === 0;
}
const step = async (title, args) => {
  if (!(await run(title, args))) failed++;
};
/** Said again at the end, where it is found when only the last lines are kept. */
const whatFailed = [];
/** Adds a runner's own counts; a runner that broke before it could count is one failure. */
const count = (file, ok, read) => {
  if (!existsSync(file)) {
    failed++;
    return;
  }
  const { good, bad, names } = read(JSON.parse(readFileSync(file, 'utf8')));
  passed += good;
  failed += bad === 0 && !ok ? 1 : bad;
  whatFailed.push(...names);
};

if (!long) {
  // Each of these keeps one core busy, so they go side by side, and beside SQLite's compiler the first time.
  await Promise.all([
    whole,
    step('Format', ['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn']),
    step('Lint', ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']),
    step('Layers', [
      'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
      'src',
      'demo',
      '--config',
      '.dependency-cruiser.cjs',
    ]),
  ]);
  const began = Date.now();
  await Promise.all([
    buildAll().catch((error) => {
      console.error(error.message);
      failed++;
    }),
    step('Types', ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'tsconfig.json']),
  ]);
  times.push(`Build beside types ${Math.round((Date.now() - began) / 1000)} s`);
}

await whole;
const unit = `${results}/unit.json`;
count(
  unit,
  await run(
    'Unit tests',
    ['node_modules/vitest/vitest.mjs', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
    { LANE_TESTS: long ? 'long' : 'usual' },
  ),
  (r) => ({
    good: r.numPassedTests,
    bad: r.numFailedTests + r.numFailedTestSuites * (r.numFailedTests === 0 ? 1 : 0),
    names: r.testResults.flatMap(({ assertionResults }) =>
      assertionResults
        .filter(({ status }) => status === 'failed')
        .map((t) => `${t.fullName}\n${String(t.failureMessages[0]).slice(0, 2000)}`),
    ),
  }),
);

const specsIn = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specsIn)];
if (!long) {
  const ends = `${results}/e2e.json`;
  count(
    ends,
    await run('End-to-end tests', ['node_modules/@playwright/test/cli.js', 'test', '--output', `${results}/e2e`], {
      LANE_E2E_JSON: ends,
      CHROMIUM: chromium,
    }),
    (r) => ({
      good: r.stats.expected + r.stats.flaky,
      bad: r.stats.unexpected,
      names: r.suites
        .flatMap(specsIn)
        .filter(({ ok }) => !ok)
        .map(({ title }) => title),
    }),
  );
}

for (const name of whatFailed) console.log(`\nfailed: ${name}`);
console.log(`\n${times.join(' · ')}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
