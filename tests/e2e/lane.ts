import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type APIResponse, type Browser, type Locator, type Page } from '@playwright/test';

/** The real server on a free port with a workspace of its own. */
export type Lane = {
  readonly url: string;
  readonly folder: string;
  /** What it has printed since it was started last. */
  readonly printed: () => string;
  kill: () => Promise<void>;
  start: () => Promise<void>;
};

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

/** Starts a server; on the demo company unless it is to be `empty`. */
async function startLane({ empty = false }: { empty?: boolean } = {}): Promise<Lane> {
  const folder = mkdtempSync(join(tmpdir(), 'lane-test-'));
  if (!empty) cpSync(process.env.LANE_TEMPLATE ?? '', folder, { recursive: true });
  let printed = '';
  const port = await freePort();
  let child: ChildProcess | null = null;
  const start = () =>
    new Promise<void>((resolve, reject) => {
      printed = '';
      child = spawn(process.execPath, ['dist/server.mjs'], {
        env: {
          ...process.env,
          NODE_ENV: 'production',
          PORT: String(port),
          LANE_DATA: folder,
          LANE_CROWD: '',
          LANE_GUEST: empty ? '' : 'dist/demo.mjs',
        },
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

export const test = base.extend<{ lane: Lane; emptyLane: Lane }>({
  emptyLane: async ({}, use) => {
    const lane = await startLane({ empty: true });
    await use(lane);
    await lane.kill();
    rmSync(lane.folder, { recursive: true, force: true });
  },
  lane: async ({ browser }, use) => {
    const lane = await startLane();
    await use(lane);
    // Windows left open would go on asking for a server that is gone, and slow down every test after this one.
    await Promise.all(browser.contexts().map((context) => context.close()));
    await lane.kill();
    rmSync(lane.folder, { recursive: true, force: true });
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
