import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { plusDays, weekdayOf } from '../../src/core/hours/dates';
import { localDate } from '../../src/core/hours/weekly';
import { openDatabase } from '../../src/data/databasefile';
import { readFloorTime } from '../../src/data/floortime';
import { readWorkspace } from '../../src/data/workspace';
import { threeWeeks, writePast } from '../helpers/past';
import { test as base, expect, type APIResponse, type Browser, type Locator, type Page } from '@playwright/test';

/** The real server on a free port with a workspace of its own. */
export type Lane = { readonly url: string; readonly folder: string };
/** A server that nothing else uses. */
export type OwnLane = Lane & {
  /** What it has printed since it was started last. */
  readonly printed: () => string;
  readonly kill: () => Promise<void>;
  readonly start: () => Promise<void>;
};
/** A server that opens one workspace after another. */
type Shared = { readonly url: string; readonly open: (folder: string | null) => Promise<void> };

const freePort = () =>
  new Promise<number>((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() =>
        typeof address === 'object' && address ? resolve(address.port) : reject(new Error('no port')),
      );
    });
  });

/** A folder for a workspace; with the demo company in it unless it is to be `empty`. */
function workspaceFolder({ empty = false }: { empty?: boolean } = {}): string {
  const folder = mkdtempSync(join(tmpdir(), 'lane-test-'));
  if (!empty) cpSync(process.env.LANE_TEMPLATE ?? '', folder, { recursive: true });
  return folder;
}
const throwAway = (folder: string) => rmSync(folder, { recursive: true, force: true });
const settings = (port: number): NodeJS.ProcessEnv => ({
  ...process.env,
  NODE_ENV: 'production',
  PORT: String(port),
  LANE_CROWD: '',
});

async function startShared(): Promise<Shared & { readonly end: () => void }> {
  const port = await freePort();
  const child: ChildProcess = spawn(process.execPath, ['dist/manylanes.mjs'], {
    env: settings(port),
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const ended = new Promise<never>((_, reject) => {
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  ended.catch(() => undefined);
  const done = () => Promise.race([new Promise<void>((resolve) => child.once('message', () => resolve())), ended]);
  await done();
  return {
    url: `http://127.0.0.1:${port}`,
    open: async (folder) => {
      const opened = done();
      child.send({ open: folder });
      await opened;
    },
    end: () => child.kill('SIGKILL'),
  };
}

/** Starts a server of one's own. */
async function startOwn(folder: string, guest: boolean): Promise<OwnLane> {
  let printed = '';
  const port = await freePort();
  let child: ChildProcess | null = null;
  const start = () =>
    new Promise<void>((resolve, reject) => {
      printed = '';
      child = spawn(process.execPath, ['dist/server.mjs'], {
        env: { ...settings(port), LANE_DATA: folder, LANE_GUEST: guest ? 'dist/demo.mjs' : '' },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
      child.stdout?.on('data', (data) => {
        printed += String(data);
        if (printed.includes('listening on')) setImmediate(resolve);
      });
    });
  const kill = () =>
    new Promise<void>((resolve) => {
      if (!child || child.exitCode !== null || child.signalCode !== null) return resolve();
      child.removeAllListeners('exit');
      child.once('exit', () => resolve());
      child.kill('SIGKILL');
    });
  await start();
  return { url: `http://127.0.0.1:${port}`, folder, start, kill, printed: () => printed };
}

/** A server with nothing in it whose output nobody reads from its first line on. */
export async function startUnread(): Promise<{ readonly url: string; readonly end: () => void }> {
  const [port, folder] = [await freePort(), workspaceFolder({ empty: true })];
  const child = spawn(process.execPath, ['dist/server.mjs'], {
    env: { ...settings(port), LANE_DATA: folder },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  child.stdout.destroy();
  child.stderr.destroy();
  return {
    url: `http://127.0.0.1:${port}`,
    end: () => {
      child.kill('SIGKILL');
      throwAway(folder);
    },
  };
}

// Windows left open would go on asking for a workspace that is gone, and slow down every test after this one.
const closeWindows = (browser: Browser) => Promise.all(browser.contexts().map((context) => context.close()));

/** A server on whose workspace three weeks have passed; `past` is the last of them. */
export type PastLane = Lane & { readonly past: { readonly from: string; readonly to: string } };
function pastOf(folder: string): PastLane['past'] {
  const { db, close } = openDatabase(folder, 'src/data/migrations', { synchronous: 'OFF' });
  const zone = readWorkspace(db)?.zone ?? 'UTC';
  const today = localDate(readFloorTime(db)?.floorAt ?? 0, zone);
  const monday = plusDays(today, 1 - weekdayOf(today) - 7);
  writePast(db, threeWeeks(plusDays(monday, -14), zone, 'queue_newhire', ['person_05', 'person_04']));
  close();
  return { from: monday, to: plusDays(monday, 6) };
}

type Lanes = { lane: Lane; pastLane: PastLane; ownLane: OwnLane; emptyLane: OwnLane };
export const test = base.extend<Lanes, { shared: Shared }>({
  shared: [
    async ({}, use) => {
      const { end, ...shared } = await startShared();
      await use(shared);
      end();
    },
    { scope: 'worker' },
  ],
  lane: async ({ shared, browser }, use) => {
    const folder = workspaceFolder();
    await shared.open(folder);
    await use({ url: shared.url, folder });
    await closeWindows(browser);
    await shared.open(null);
    throwAway(folder);
  },
  pastLane: async ({ shared, browser }, use) => {
    const folder = workspaceFolder();
    const past = pastOf(folder);
    await shared.open(folder);
    await use({ url: shared.url, folder, past });
    await closeWindows(browser);
    await shared.open(null);
    throwAway(folder);
  },
  ownLane: async ({ browser }, use) => {
    const lane = await startOwn(workspaceFolder(), true);
    await use(lane);
    await closeWindows(browser);
    await lane.kill();
    throwAway(lane.folder);
  },
  emptyLane: async ({ browser }, use) => {
    const lane = await startOwn(workspaceFolder({ empty: true }), false);
    await use(lane);
    await closeWindows(browser);
    await lane.kill();
    throwAway(lane.folder);
  },
  baseURL: async ({ lane }, use) => use(lane.url),
});
export { expect };

const emailOf = (name: string) => `${name.toLowerCase().replace(' ', '.')}@brindlewood.example`;

/** A window of its own, signed in (the sign-in page has tests of its own). */
export async function window(
  browser: Browser,
  lane: Lane,
  name: string | null,
  path: string,
  size = { width: 1280, height: 800 },
): Promise<Page> {
  const context = await browser.newContext({ baseURL: lane.url, viewport: size });
  if (name !== null)
    expect(
      (await context.request.post('/api/session', { data: { email: emailOf(name), password: 'brindlewood' } })).ok(),
      `${name} signs in`,
    ).toBe(true);
  const page = await context.newPage();
  await page.goto(path);
  return page;
}

/** An agent at their Desk, ready. */
export async function readyAgent(browser: Browser, lane: Lane, name: string): Promise<Page> {
  const desk = await window(browser, lane, name, '/desk');
  await desk.getByRole('button', { name: 'Go ready' }).click();
  await expect(desk.getByText(/^Ready ·/)).toBeVisible();
  return desk;
}

/** Where a person at the Desk writes to, or speaks to, the customer. */
export const reply = (desk: Page): Locator => desk.getByRole('textbox', { name: /^(Write to |What you say)/ });

/** A customer at a Handset, connected to a door. */
export async function customer(
  browser: Browser,
  lane: Lane,
  door: string,
  asked: { name?: string; language?: string } = {},
): Promise<Page> {
  const handset = await window(browser, lane, null, '/handset', { width: 390, height: 800 });
  await handset.getByRole('button', { name: door }).click();
  if (asked.name) await handset.getByLabel('Your name').fill(asked.name);
  if (asked.language) await choose(handset.getByLabel('Your language'), { value: asked.language });
  await handset.getByRole('button', { name: /^(Ring|Start)$/ }).click();
  await expect(handset.getByRole('list')).toBeVisible();
  return handset;
}
export const say = async (handset: Page, text: string): Promise<void> => {
  await handset.getByRole('textbox').fill(text);
  await handset.keyboard.press('Enter');
};

/** A contact made over the public interface, for tests that are not about the Handset. */
export async function contactBy(
  lane: Lane,
  page: Page,
  door: string,
  words: readonly string[],
): Promise<{ contact: string; token: string }> {
  const begun = (await (
    await page.request.post(`${lane.url}/api/v1/contacts`, {
      data: { door, from: `guest-${Math.random()}`, name: 'Wren Holloway-Tarn' },
    })
  ).json()) as { contact: string; token: string };
  for (const text of words) {
    const answer = await page.request.post(`${lane.url}/api/v1/contacts/${begun.contact}/messages`, {
      data: { text },
      headers: { authorization: `Bearer ${begun.token}` },
    });
    expect(answer.status()).toBe(201);
  }
  return begun;
}
export const errorOf = async (
  response: APIResponse,
): Promise<{ code: string; message: string; faults: { where: string; what: string }[] }> =>
  ((await response.json()) as { error: { code: string; message: string; faults: { where: string; what: string }[] } })
    .error;

/** Opens a list of ours. A page that has only just come may not listen yet. */
export async function openList(list: Locator): Promise<void> {
  await expect(async () => {
    if ((await list.getAttribute('aria-expanded')) !== 'true') await list.click();
    await expect(list).toHaveAttribute('aria-expanded', 'true', { timeout: 1000 });
  }).toPass();
}

/** Chooses from a list of ours: opens it, then takes the choice by its words, or by the value that stands behind it. */
export async function choose(list: Locator, what: string | { readonly value: string }): Promise<void> {
  const page = list.page();
  await list.click();
  await (
    typeof what === 'string'
      ? page.getByRole('option', { name: what, exact: true })
      : page.locator(`[role="option"][data-choice="${what.value}"]`)
  ).click();
}
