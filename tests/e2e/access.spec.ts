import { request as http } from 'node:http';
import { errorOf, expect, test, window } from './lane';

test('sessions are listed and ended one by one; what is open under one goes to the sign-in page at once', async ({
  browser,
  lane,
}) => {
  const one = await window(browser, lane, 'Noor Amsel', '/people');
  const two = await window(browser, lane, 'Noor Amsel', '/floor');
  await expect(two.getByRole('navigation', { name: 'The lane' })).toBeVisible();
  await one.getByRole('button', { name: /^Account of/ }).click();
  await one.getByRole('menuitem', { name: 'Where you are signed in…' }).click();
  const dialog = one.getByRole('dialog', { name: 'Where you are signed in' });
  await expect(dialog.getByRole('listitem')).toHaveCount(2);
  await expect(dialog.getByRole('listitem').filter({ hasText: 'this one' })).toHaveCount(1);
  await expect(dialog.getByText('127.0.0.1').first()).toBeVisible();
  await dialog.getByRole('button', { name: /^End the session on/ }).click();
  await expect(dialog.getByRole('listitem')).toHaveCount(1);
  await expect(two).toHaveURL(/signin/);
  await dialog.getByRole('button', { name: 'End this session' }).click();
  await expect(one).toHaveURL(/signin/);
});

test('a stream ends with its session, and with what its person may do', async ({ browser, lane }) => {
  const listen = async (name: string) => {
    const page = await window(browser, lane, name, '/desk');
    const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
    const stream = { ended: false, opened: false };
    await new Promise<void>((opened, failed) => {
      const call = http(`${lane.url}/api/stream`, { headers: { cookie } }, (answer) => {
        answer.on('data', () => opened());
        answer.on('end', () => (stream.ended = true));
        answer.on('error', () => (stream.ended = true));
      });
      call.on('error', failed);
      call.end();
    });
    return { page, stream };
  };
  const tamsin = await listen('Tamsin Orrel');
  expect(tamsin.stream.ended).toBe(false);
  await tamsin.page.request.delete('/api/session?everywhere=1');
  await expect.poll(() => tamsin.stream.ended).toBe(true);

  const odile = await listen('Odile Karrow');
  const lead = await window(browser, lane, 'Noor Amsel', '/people');
  const there = (await (await lead.request.get('/api/read/people')).json()) as {
    people: { id: string; name: string }[];
  };
  const id = there.people.find((p) => p.name === 'Odile Karrow')?.id;
  expect(odile.stream.ended).toBe(false);
  const off = await lead.request.post('/api/settings/switch-person', {
    data: { personId: id, active: false, open: 'return' },
  });
  expect(off.ok()).toBe(true);
  await expect.poll(() => odile.stream.ended).toBe(true);
});

test('a door’s key is made and shown once; with it a server speaks for numbers, without it nobody does', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors');
  await page.getByRole('button', { name: 'Repairs line' }).click();
  const keys = page.getByRole('region', { name: 'Keys of Repairs line' });
  await keys.getByLabel('What a new key is for').fill('The switch');
  await keys.getByRole('button', { name: 'Make a key' }).click();
  const dialog = page.getByRole('dialog', { name: 'The key for The switch' });
  const key = await dialog.getByLabel('The key').inputValue();
  await dialog.getByRole('button', { name: 'I have it' }).click();
  await expect(keys.getByText('never used')).toBeVisible();

  const start = (headers: Record<string, string>, data: object) =>
    page.request.post(`${lane.url}/api/v1/contacts`, { data, headers });
  const caller = { door: 'door_repairs', from: '+353209140001' };
  const without = await start({}, caller);
  expect([without.status(), (await errorOf(without)).code]).toEqual([401, 'key-needed']);
  const wrong = await start({ authorization: 'Bearer door-made-up' }, caller);
  expect([wrong.status(), (await errorOf(wrong)).code]).toEqual([401, 'bad-token']);
  expect((await start({ authorization: `Bearer ${key}` }, caller)).status()).toBe(201);
  await page.reload();
  await page.getByRole('button', { name: 'Repairs line' }).click();
  await expect(keys.getByText(/last used/)).toBeVisible();

  // Somebody who comes by browser is marked at the contact.
  const chat = (await (await start({}, { door: 'door_web', from: 'visitor-1' })).json()) as { contact: string };
  await page.goto(`/contacts/${chat.contact}`);
  await expect(page.getByText('unproven')).toBeVisible();

  await page.goto('/doors');
  await page.getByRole('button', { name: 'Repairs line' }).click();
  await keys.getByRole('button', { name: 'End The switch' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'End it' }).click();
  // The page is out of reach while the question stands, and nothing would be counted on it.
  await expect(keys).toBeVisible();
  await expect(keys.getByText('The switch')).toHaveCount(0);
  expect((await start({ authorization: `Bearer ${key}` }, caller)).status()).toBe(401);
});

test('nothing is computed for strangers: no picture optimiser, no other name, limits by themselves', async ({
  lane,
  page,
}) => {
  expect((await page.request.get(`${lane.url}/_next/image?url=%2Fmark.svg&w=64&q=75`)).status()).toBe(404);
  const asked = (host: string) =>
    new Promise<number>((resolve, reject) => {
      const call = http(`${lane.url}/signin`, { headers: { host } }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      });
      call.on('error', reject);
      call.end();
    });
  expect(await asked('evil.example')).toBe(421);
  const codes = await Promise.all(
    Array.from({ length: 70 }, async (_, i) =>
      (
        await page.request.post(`${lane.url}/api/v1/contacts`, { data: { door: 'door_web', from: `visitor-${i}` } })
      ).status(),
    ),
  );
  expect(codes.filter((c) => c === 201).length).toBe(60);
  expect(codes.filter((c) => c === 429).length).toBe(10);
  // Everything else goes on.
  expect((await page.request.get(`${lane.url}/api/v1/doors`)).status()).toBe(200);
});
