// What every command of the project needs before it can work. Only Node's own modules, so that it runs on a bare clone.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
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
export function digest(paths) {
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
