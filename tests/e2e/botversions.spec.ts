import { choose, expect, test, window } from './lane';

test(
  'a version is planned and called off, tried on a share of a door’s customers, compared, and an ' +
    'earlier one put back into the draft',
  async ({ browser, lane }) => {
    const page = await window(browser, lane, 'Noor Amsel', '/bots/bot_chat');
    await page.getByRole('tab', { name: 'Wording' }).click();
    await page.getByLabel('1.1, wording, English').fill('Welcome to the second version.');
    await page.getByRole('button', { name: 'Check & publish' }).click();
    await page.getByLabel('Goes live: day').fill('6 May 2031');
    await page.getByLabel('Goes live: time').fill('7:30');
    await page.getByRole('button', { name: 'Plan version 2' }).click();
    // The tests of the bot still expect the old welcome.
    await page.getByLabel('Publish all the same, because').fill('the welcome is new');
    await page.getByRole('button', { name: 'Plan version 2' }).click();
    await expect(page.getByText('1 is live · 3 doors')).toBeVisible();
    await page.getByRole('tab', { name: 'Versions' }).click();
    const versions = page.getByRole('region', { name: 'Versions', exact: true }).last();
    await expect(versions.getByText(/^Version 2 goes live on .*6 May 2031.*07:30\./)).toBeVisible();
    await page.getByRole('button', { name: 'Call it off' }).click();
    await expect(page.getByText('Called off.')).toBeVisible();
    await expect(versions.getByText(/goes live on/)).toHaveCount(0);
    await page.getByRole('button', { name: 'Compare version 2' }).click();
    await expect(page.getByText('They say the same.')).toBeVisible();
    await choose(page.getByLabel('Compared with'), 'version 1');
    await expect(page.getByText(/1\.1 says “.*” instead of “Welcome to the second version\.”/)).toBeVisible();

    await page.goto('/doors');
    await page.getByRole('button', { name: 'Website chat' }).click();
    await choose(page.getByLabel('Version on trial'), 'version 2');
    await page.getByLabel('Share of customers, %').fill('50');
    await page.getByRole('button', { name: 'Apply' }).click();
    await expect(page.getByText('2 on trial, 50%')).toBeVisible();
    const met = async (from: string): Promise<boolean> => {
      const begun = (await (
        await page.request.post('/api/v1/contacts', {
          data: { door: 'door_web', from, name: 'Wren Holloway-Tarn', language: 'en' },
        })
      ).json()) as { contact: string; token: string };
      const read = (await (
        await page.request.get(`/api/v1/contacts/${begun.contact}`, {
          headers: { authorization: `Bearer ${begun.token}` },
        })
      ).json()) as { messages: { text: string }[] };
      return read.messages.some((m) => m.text === 'Welcome to the second version.');
    };
    const guests = Array.from({ length: 12 }, (_, i) => `trial-guest-${i}`);
    const first = await Promise.all(guests.map(met));
    expect(new Set(first)).toEqual(new Set([true, false]));
    expect(await Promise.all(guests.map(met))).toEqual(first);
    await choose(page.getByLabel('Version on trial'), 'none');
    await page.getByRole('button', { name: 'Apply' }).click();
    await expect(page.getByText('2 on trial', { exact: false })).toHaveCount(0);
    expect(await Promise.all(guests.map(met))).toEqual(guests.map(() => false));

    await page.goto('/bots/bot_chat');
    await page.getByRole('tab', { name: 'Versions' }).click();
    await page.getByRole('button', { name: 'Compare version 1' }).click();
    await page.getByRole('button', { name: 'Put 1 into the draft' }).click();
    await expect(page.getByText('They say the same.')).toBeVisible();
    await page.getByRole('tab', { name: 'Wording' }).click();
    await expect(page.getByLabel('1.1, wording, English')).not.toHaveValue('Welcome to the second version.');
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect(page.getByLabel('1.1, wording, English')).toHaveValue('Welcome to the second version.');
  },
);

test('a shared scene that was changed comes back from History', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/shared');
  const list = page.getByRole('region', { name: 'Shared scenes' });
  await list
    .getByRole('button')
    .filter({ hasText: /used by/ })
    .first()
    .click();
  const name = page.getByLabel('Name of the shared scene');
  const before = await name.inputValue();
  await name.fill('Renamed for now');
  await expect(list.getByRole('button', { name: /^Renamed for now/ })).toBeVisible();
  await page.goto('/history');
  await page.getByRole('button', { name: /^Undo/ }).first().click();
  await page.goto('/bots/shared');
  await expect(list.getByRole('button', { name: new RegExp(`^${before}`) })).toBeVisible();
});
