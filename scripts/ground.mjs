// What every command of the project needs before it can work. Only Node's own modules, so that it runs on a bare clone.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { setPriority } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(root);

/** What is said beside results goes to the standard error, so that the standard output holds results alone. */
export const say = (words) => void process.stderr.write(`${words}\n`);

/**
 * Runs a command; its output goes to our standard error, or is kept and shown only when it fails (`quiet`). Rejects with
 * a sentence when it fails. A `calm` one lets others go first.
 */
export function run(command, args, { env = {}, quiet = false, calm = false, onLine } = {}) {
  const child = spawn(command, args, {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  if (calm && child.pid) setPriority(child.pid, 10);
  let kept = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (data) => {
      if (!quiet) process.stderr.write(data);
      kept = (kept + String(data)).slice(-20_000);
      if (onLine) for (const line of String(data).split(/[\r\n]+/)) if (line) onLine(line);
    });
  return new Promise((resolve, reject) => {
    child.once('error', (error) => reject(new Error(`${command} cannot be started: ${error.message}`)));
    child.once('exit', (code) => {
      if (code === 0) return resolve();
      if (quiet) process.stderr.write(`\n${kept}\n`);
      reject(new Error(`${command} ${args.join(' ')} failed`));
    });
  });
}

/** A digest of files and folders, by name and content. */
function digest(paths) {
  const hash = createHash('sha256').update(process.version);
  const add = (path) => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) add(join(path, name));
    else hash.update(path).update(readFileSync(path));
  };
  paths.filter((p) => existsSync(p)).forEach(add);
  return hash.digest('hex');
}

/** Does work only when what it depends on has changed since it last succeeded. Gives whether it did. */
async function whenChanged(stamp, paths, missing, work) {
  const now = digest(paths);
  if (!missing && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return false;
  await work();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
  return true;
}

const npm = (args, options) => run('npm', [...args, '--no-audit', '--no-fund', '--loglevel=error'], options);

const LOCK = 'package-lock.json';
const INSTALLED = 'node_modules/.lane-installed';
export const packagesMissing = () => !existsSync('node_modules/next');

/**
 * SQLite is compiled from its package in a folder of its own, while all other packages are brought in: that takes the
 * better part of a minute. Stays there for as long as the lock file says the same of it.
 */
const SQLITE = 'node_modules/better-sqlite3';
const SQLITE_FOLDER = 'dist/sqlite';
const ADDON = 'build/Release/better_sqlite3.node';
async function compileSqlite() {
  const { version, integrity } = JSON.parse(readFileSync(LOCK, 'utf8')).packages[SQLITE];
  const stamp = join(SQLITE_FOLDER, 'compiled');
  const now = createHash('sha256')
    .update(`${process.version} ${process.platform} ${process.arch} ${integrity}`)
    .update(readFileSync('scripts/sqlite.gyp'))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  rmSync(SQLITE_FOLDER, { recursive: true, force: true });
  mkdirSync(SQLITE_FOLDER, { recursive: true });
  await npm(['pack', `better-sqlite3@${version}`, '--pack-destination', SQLITE_FOLDER], { quiet: true });
  const packed = join(SQLITE_FOLDER, `better-sqlite3-${version}.tgz`);
  const [kind, digest] = integrity.split('-');
  if (createHash(kind).update(readFileSync(packed)).digest('base64') !== digest)
    throw new Error(`better-sqlite3 ${version} is not what ${LOCK} says it is`);
  await run('tar', ['-xzf', packed, '-C', SQLITE_FOLDER], { quiet: true });
  const folder = join(SQLITE_FOLDER, 'package');
  copyFileSync('scripts/sqlite.gyp', join(folder, 'binding.gyp'));
  await npm(['run', 'build-release', '--prefix', folder], { quiet: true, env: { JOBS: '2' } });
  writeFileSync(stamp, now);
}

/**
 * Installs exactly what the lock file says, when that has changed: what building and running need, or with `all` what
 * checking needs besides. In two halves, so that what needs no database can go on while SQLite is compiled: resolves once
 * packages are there, with a promise for the rest.
 */
export async function installInHalves({ all = false, quiet = false } = {}) {
  const now = digest([LOCK]);
  const there = packagesMissing() || !existsSync(INSTALLED) ? '' : readFileSync(INSTALLED, 'utf8');
  const done = (what) => writeFileSync(INSTALLED, `${what} ${now}`);
  if (there === `all ${now}` || (!all && there === `run ${now}`)) return { compiled: Promise.resolve() };
  if (!quiet) say('Installing packages…');
  // No package's own script runs: what is compiled, we compile.
  if (there === `run ${now}`) {
    await npm(['install', '--no-save', '--ignore-scripts'], { quiet: true });
    done('all');
    return { compiled: Promise.resolve() };
  }
  const sqlite = compileSqlite();
  // Whoever waits for it hears of a failure; until then it is not unheard.
  sqlite.catch(() => undefined);
  await npm(['ci', '--ignore-scripts', ...(all ? [] : ['--omit=dev'])], { quiet: true });
  const compiled = sqlite.then(() => {
    mkdirSync(dirname(join(SQLITE, ADDON)), { recursive: true });
    copyFileSync(join(SQLITE_FOLDER, 'package', ADDON), join(SQLITE, ADDON));
    done(all ? 'all' : 'run');
  });
  compiled.catch(() => undefined);
  return { compiled };
}
export const installPackages = async (options) => (await installInHalves(options)).compiled;

const SOURCES = [
  'src',
  'demo',
  'public',
  'package-lock.json',
  'next.config.mjs',
  'postcss.config.mjs',
  'tsconfig.json',
  'scripts/build.mjs',
  'scripts/bundle.mjs',
];
/** What runs outside Next.js, bundled: a second or two. */
export const bundleAll = () => run(process.execPath, ['scripts/bundle.mjs'], { quiet: true });

/** The bundles and the pages; only the pages where `bundled` says that the others are there. */
export const buildAll = ({ quiet = false, calm = false, bundled = false } = {}) =>
  whenChanged(
    'dist/.lane-built',
    SOURCES,
    !existsSync('dist/server.mjs') || !existsSync('.next/BUILD_ID'),
    async () => {
      if (!quiet) say('Building…');
      await run(process.execPath, ['scripts/build.mjs', ...(bundled ? ['pages'] : [])], { quiet, calm });
    },
  );

/**
 * Debian's Chromium: the one without windows where it can be had, since pages cost it a quarter less. Installed where it
 * is missing and may be.
 */
export function findChromium() {
  const there = (names) => names.map((name) => `/usr/bin/${name}`).find((path) => existsSync(path));
  const light = 'chromium-headless-shell';
  const found = there([light]);
  if (found) return found;
  say('Installing Chromium from Debian’s packages…');
  const stdio = ['ignore', process.stderr, process.stderr];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  try {
    execFileSync('apt-get', ['update', '-qq'], { stdio });
    execFileSync('apt-get', ['install', '-y', '-qq', light], { stdio, env });
  } catch (error) {
    const whole = there(['chromium', 'chromium-browser']);
    if (whole) return whole;
    throw error;
  }
  return `/usr/bin/${light}`;
}

/** Runs a bundled program in our place: its output is ours, and so is how it ends. */
export function become(args, env = {}) {
  const { status } = spawnSync(process.execPath, ['--enable-source-maps', ...args], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  process.exit(status ?? 1);
}

/** Starts the host process; resolves with it, and with what it printed, once it listens. */
export function startServer(env) {
  const child = spawn(process.execPath, ['--enable-source-maps', 'dist/server.mjs'], {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve, reject) => {
    let printed = '';
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    child.stdout.on('data', (data) => {
      printed += String(data);
      // What follows the first line is printed at once with it.
      if (printed.includes('listening on')) setImmediate(() => resolve({ child, printed }));
    });
  });
}

/** Ends with a server that was started, and lets it end with us. */
export function liveWith(child) {
  child.removeAllListeners('exit');
  child.once('exit', (code) => process.exit(code ?? 0));
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
}
