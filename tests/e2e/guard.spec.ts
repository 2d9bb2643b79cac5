import { request as http } from 'node:http';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { choose, contactBy, errorOf, expect, readyAgent, test, window } from './lane';

test('a wrong password is told so, the right one leads to the lane; signing out everywhere ends the other window too', async ({
  browser,
  lane,
  page,
}) => {
  await page.goto('/');
  await expect(page).toHaveURL(/signin/);
  await page.getByLabel('E-mail address').fill('noor.amsel@brindlewood.example');
  await page.getByLabel('Password').fill('not this one');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'The address or the password is not right.' })).toBeVisible();
  await page.getByLabel('Password').fill('brindlewood');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/signin'));
  const one = await window(browser, lane, 'Noor Amsel', '/people');
  const two = await window(browser, lane, 'Noor Amsel', '/people');
  const cookie = (await one.context().cookies()).find((c) => c.name === 'lane_session');
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Lax' });
  await one.getByRole('button', { name: /^Account of/ }).click();
  await one.getByRole('menuitem', { name: 'Sign out everywhere' }).click();
  await expect(one).toHaveURL(/signin/);
  await two.goto('/people');
  await expect(two).toHaveURL(/signin/);
});

test('an agent is refused a lead’s page and a lead’s act', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Tamsin Orrel', '/queues');
  await expect(page.getByRole('heading', { name: 'You may not open Queues' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'The lane' })).toHaveCount(0);
  const act = await page.request.post('/api/settings/save-queue', { data: {} });
  expect(act.status()).toBe(403);
  expect((await errorOf(act)).code).toBe('not-allowed');
  expect((await page.request.get('/api/read/people')).status()).toBe(403);
  expect((await page.request.get('/api/review.csv')).status()).toBe(403);
});

test('bad input gets a sentence saying what and where', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/handset');
  const post = (path: string, data: unknown, headers: Record<string, string> = {}) =>
    page.request.post(path, {
      data: typeof data === 'string' ? Buffer.from(data) : data,
      headers: { 'content-type': 'application/json', ...headers },
    });
  const expectError = async (
    response: Awaited<ReturnType<typeof post>>,
    status: number,
    code: string,
    words: RegExp,
  ) => {
    expect(response.status()).toBe(status);
    const error = await errorOf(response);
    expect(error.code).toBe(code);
    expect(error.message).toMatch(words);
    expect(JSON.stringify(error)).not.toMatch(/\.ts|\.mjs|at \w+ \(/);
  };
  await expectError(await post('/api/v1/contacts', '{"door": '), 400, 'broken-json', /not JSON/);
  await expectError(await post('/api/v1/contacts', {}), 422, 'not-valid', /The door is missing.*from.*missing/s);
  await expectError(await post('/api/v1/contacts', { door: 5, from: ['x'] }), 422, 'not-valid', /door/i);
  await expectError(await post('/api/v1/contacts', []), 422, 'not-valid', /./);
  await expectError(
    await post('/api/v1/contacts', { door: 'nowhere', from: 'x' }),
    404,
    'not-found',
    /no door with the id nowhere/,
  );
  await expectError(
    await post('/api/v1/contacts', { door: 'door_web', from: 'x'.repeat(1_000_000) }),
    413,
    'too-large',
    /64 KB/,
  );
  const { contact, token } = await contactBy(lane, page, 'door_web', []);
  const bearer = { authorization: `Bearer ${token}` };
  await expectError(
    await post(`/api/v1/contacts/${contact}/messages`, { text: 'x'.repeat(5000) }, bearer),
    422,
    'not-valid',
    /at most 4000/,
  );
  await expectError(await post(`/api/v1/contacts/${contact}/messages`, { key: 'AB' }, bearer), 422, 'not-valid', /0–9/);
  await expectError(
    await post(`/api/v1/contacts/${contact}/messages`, { text: 'hi', key: '1' }, bearer),
    422,
    'not-valid',
    /either text or key/,
  );
  await expectError(await post(`/api/v1/contacts/${contact}/messages`, { text: 'hi' }), 401, 'bad-token', /token/);
  await expectError(
    await post('/api/v1/contacts/none/messages', { text: 'hi' }, bearer),
    404,
    'not-found',
    /no contact/,
  );
  await expectError(
    await post('/api/settings/save-bot', { id: null, revision: 0, name: 'X', draft: { scenes: 'none' } }),
    422,
    'not-valid',
    /./,
  );
  await expectError(await post('/api/settings/no-such-act', {}), 404, 'not-found', /no-such-act/);
  await expectError(await post('/api/desk', { act: 'fly' }), 422, 'not-valid', /act must be one of/);
  await page.goto('/contacts/none');
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
  await page.goto('/review?from=2026-02-31');
  await expect(page.getByText(/2026-02-31 is not a day/)).toBeVisible();
  await page.goto('/review?from=nonsense&channel=pigeon');
  await expect(page.getByText('This cannot be shown')).toBeVisible();
});

test('posts from another site are refused, and headers shut other hosts out', async ({ lane, page }) => {
  const response = await page.request.post(`${lane.url}/api/session`, {
    data: { email: 'a@b.example', password: 'x' },
    headers: { origin: 'https://elsewhere.example' },
  });
  expect(response.status()).toBe(403);
  expect((await errorOf(response)).code).toBe('cross-site');
  const refusedByPolicy: string[] = [];
  page.on('console', (m) => {
    if (m.type() === 'error' && /Content.Security.Policy/i.test(m.text())) refusedByPolicy.push(m.text());
  });
  const opened = await page.goto('/signin');
  const policy = opened?.headers()['content-security-policy'] ?? '';
  expect(policy).toContain("default-src 'self'");
  expect(policy).not.toMatch(/https?:|unsafe-eval/);
  expect(opened?.headers()['x-content-type-options']).toBe('nosniff');
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeEnabled();
  expect(refusedByPolicy).toEqual([]);
});

test('the stream replays what a reader missed, in order, and says reset where it cannot', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors');
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  const listen = (after: string, enough: (text: string) => boolean) =>
    new Promise<string>((resolve, reject) => {
      let text = '';
      const call = http(`${lane.url}/api/stream?after=${after}`, { headers: { cookie } }, (response) =>
        response.on('data', (data) => {
          text += String(data);
          if (enough(text)) {
            call.destroy();
            resolve(text);
          }
        }),
      );
      call.on('error', (error) => {
        if (!enough(text)) reject(error);
      });
      call.end();
    });
  await contactBy(lane, page, 'door_web', ['a bill']);
  const seqs = (text: string) => [...text.matchAll(/^id: (\d+)$/gm)].map((m) => Number(m[1]));
  const all = seqs(await listen('0', (t) => t.includes('value.set')));
  expect(all).toEqual([...all].sort((a, b) => a - b));
  expect(new Set(all).size).toBe(all.length);
  const cut = all[2] ?? 0;
  expect(seqs(await listen(String(cut), (t) => t.includes('value.set')))).toEqual(all.slice(3));
  expect(await listen('99999999', (t) => t.includes('reset'))).toContain('event: reset');
});

/** Pages in parts that go side by side: looking at one takes seconds. */
const PAGES = [
  [
    '/doors',
    '/bots',
    '/bots/bot_chat',
    '/bots/phrasebook',
    '/bots/shared',
    '/bots/connections',
    '/bots/articles',
    '/bots/recordings',
    '/bots/fields',
    '/bots/words?find=hire',
    '/bots/languages',
    '/doors/hours',
  ],
  [
    '/queues',
    '/queues/groups',
    '/queues/partners',
    '/queues/outcomes',
    '/queues/callbacks',
    '/history',
    '/plans',
    '/tofix',
    '/mailbox',
    '/customers',
    '/review',
  ],
  [
    '/people',
    '/people/duty',
    '/people/teams',
    '/people/shifts',
    '/people/desks',
    '/people/desks?profile=desk_bench',
    '/people/roles',
    '/people/import',
  ],
] as const;

async function serious(page: Page, runOnly: readonly string[] | null): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], ...(runOnly ? { runOnly: [...runOnly] } : {}) })
    .analyze();
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map(
      (v) =>
        `${v.id} ${v.nodes
          .map((n) => `${n.target.join(' ')} ${n.failureSummary?.slice(0, 160) ?? ''}`)
          .slice(0, 3)
          .join(' | ')}`,
    );
}
async function check(page: Page, name: string): Promise<void> {
  // What is just fading away is neither there nor gone.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  expect.soft(await serious(page, null), name).toEqual([]);
  expect
    .soft(await page.evaluate(() => document.documentElement.scrollWidth), `${name} scrolls sideways`)
    .toBeLessThanOrEqual(page.viewportSize()?.width ?? 0);
  // Only colours change with the lights.
  await page.evaluate(() => {
    for (const part of document.querySelectorAll<HTMLElement>('[data-lights]')) part.dataset.lights = 'down';
  });
  expect.soft(await serious(page, ['color-contrast']), `${name} with the lights down`).toEqual([]);
}

PAGES.forEach((pages, i) =>
  test(`every page is usable, part ${i + 1}: no serious finding in either light, and nothing scrolls sideways at 1280`, async ({
    browser,
    lane,
  }) => {
    test.setTimeout(300_000);
    const lead = await window(browser, lane, 'Noor Amsel', '/floor');
    for (const path of pages) {
      await lead.goto(path);
      await lead.waitForTimeout(250);
      await check(lead, path);
    }
  }),
);

test('what shows contacts is usable: the Floor, a contact, the Desk, the Handset and the way in', async ({
  browser,
  lane,
}) => {
  test.setTimeout(300_000);
  const lead = await window(browser, lane, 'Noor Amsel', '/floor');
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  const { contact } = await contactBy(lane, lead, 'door_web', ['a repair', '204816', 'the bridge snapped']);
  await contactBy(lane, lead, 'door_web', ['a bill', 'something else']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  for (const path of ['/floor', `/contacts/${contact}`]) {
    await lead.goto(path);
    await lead.waitForTimeout(250);
    await check(lead, path);
  }
  await expect(desk.getByRole('button', { name: 'Finish' })).toBeVisible();
  await check(desk, '/desk');
  await desk.getByRole('button', { name: 'Pass on…' }).click();
  await expect(desk.getByRole('radiogroup', { name: 'Pass it on to' }).getByRole('radio').first()).toBeVisible();
  await check(desk, 'passing on');
  await desk.keyboard.press('Escape');
  await lead.getByRole('heading', { level: 1 }).getByRole('link').click();
  await expect(lead.getByRole('region', { name: 'Line of time' })).toBeVisible();
  await check(lead, 'a customer');
  // At the width of a phone it is taken, read, answered and finished.
  const phone = await window(browser, lane, 'Odile Karrow', '/desk', { width: 390, height: 844 });
  await check(phone, '/desk at 390');
  await phone.getByRole('button', { name: 'Finish', exact: true }).click();
  await expect(phone.getByLabel('What it came to')).toBeVisible();
  await check(phone, 'finishing at 390');
  await check(await window(browser, lane, null, '/handset'), '/handset');
  await check(await window(browser, lane, null, '/signin'), '/signin');
});

test('what opens over a page is usable as well: a door by hand, a body and a token, a shared scene, a call back, a heard clock', async ({
  browser,
  lane,
}) => {
  test.setTimeout(300_000);
  const page = await window(browser, lane, 'Noor Amsel', '/doors?door=door_repairs');
  await page.getByRole('button', { name: 'Shut for now…' }).click();
  await page.getByLabel('Reason, English').fill('a line is down');
  await check(page, 'shutting a door');
  await page.getByRole('button', { name: 'Shut it' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Shut by hand' })).toBeVisible();
  await choose(page.getByLabel('When closed, it'), 'takes a message');
  await check(page, 'a door that is shut');

  await page.goto('/bots/connections');
  await page.getByRole('button', { name: 'New connector' }).click();
  const dialog = page.getByRole('dialog');
  await choose(dialog.getByLabel('Method'), 'POST');
  await dialog.getByLabel('Inputs', { exact: true }).fill('number');
  await dialog.getByRole('button', { name: 'Build it' }).click();
  await dialog.getByRole('button', { name: 'Add a header' }).click();
  await choose(dialog.getByLabel('Signs in by'), 'client credentials');
  await check(page, 'a connector');

  await page.goto('/bots/shared');
  await page.getByRole('button', { name: 'New scene' }).click();
  await page.getByLabel('Name of the new scene').fill('Rather later');
  await choose(page.getByLabel('Begin with'), 'call back, or leave a message');
  await page.getByRole('button', { name: 'Begin it' }).click();
  await expect(page.getByLabel('Name of the shared scene')).toHaveValue('Rather later');
  await page.getByLabel('Inputs, with commas').fill('what');
  await page.getByRole('group', { name: /^Line 1\.1, Call back/ }).click();
  await page.keyboard.press('Enter');
  await page.getByText('Sentences').click();
  await check(page, 'a shared scene that calls back');

  await page.goto('/queues?queue=queue_repairs');
  await page.getByRole('button', { name: 'What a caller hears' }).click();
  await check(page, 'a clock as it is heard');
});

test('keys: ? lists them, Ctrl K goes by name, Escape closes and gives focus back', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' }).getByText('set the level')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Review');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/review/);
  const contacts = page.getByRole('button', { name: 'See the contacts', exact: true });
  await contacts.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(contacts).toBeFocused();
  await page.getByRole('button', { name: /^Account of/ }).press('Enter');
  await page.getByRole('menuitem', { name: 'House lights down' }).press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-lights', 'down');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-lights', 'down');
});
