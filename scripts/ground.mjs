// What every command of the project needs before it can work. Only Node's own modules, so that it runs on a bare clone.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(root);

/** Runs a command with its output shown; ends this process when it fails. */
export function must(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', cwd: root, env: { ...process.env, ...env } });
  if (status !== 0) {
    console.error(`${command} ${args.join(' ')} failed${error ? `: ${error.message}` : ''}`);
    process.exit(status ?? 1);
  }
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

/** Does work only when what it depends on has changed since it last succeeded. */
function whenChanged(stamp, paths, missing, work) {
  const now = digest(paths);
  if (!missing && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return false;
  work();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
  return true;
}

export const installPackages = () =>
  whenChanged('node_modules/.lane-installed', ['package-lock.json'], !existsSync('node_modules/next'), () => {
    console.log('Installing packages…');
    // SQLite is compiled here: lighter optimisation on all cores takes a third of the time, and costs little at run time.
    must('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'], {
      MAKEFLAGS: '-j4',
      CFLAGS: '-O1',
      CXXFLAGS: '-O0',
    });
  });

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
export const buildAll = () =>
  whenChanged('dist/.lane-built', SOURCES, !existsSync('dist/server.mjs') || !existsSync('.next/BUILD_ID'), () => {
    console.log('Building…');
    must(process.execPath, ['scripts/build.mjs']);
  });

/** Debian's Chromium; installed where it is missing and may be. */
export function findChromium() {
  const found = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((p) => existsSync(p));
  if (found) return found;
  console.log('Installing Chromium from Debian’s packages…');
  execFileSync('apt-get', ['update', '-qq'], { stdio: 'inherit' });
  execFileSync('apt-get', ['install', '-y', '-qq', 'chromium'], {
    stdio: 'inherit',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  return '/usr/bin/chromium';
}

/** Starts the built server; resolves once it listens. */
export function startServer(env) {
  const child = spawn(process.execPath, ['dist/server.mjs'], {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    child.stdout.on('data', (data) => {
      if (String(data).includes('listening on')) resolve(child);
    });
  });
}
