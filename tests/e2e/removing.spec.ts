import { choose, customer, expect, say, test, window } from './lane';

test('a practice queue is deleted without a trace; one that was used is retired, named where it was, and brought back', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/tofix');
  const before = await page.getByRole('main').innerText();
  await page.goto('/queues');
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Practice');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add the queue' }).click();
  await expect(page.getByText('Practice applied; it counts from the next visit on.')).toBeVisible();
  // Another queue leads to it, so that there is something to show.
  await page.getByRole('button', { name: 'Remove…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Remove Practice' });
  await expect(dialog.getByText('Nothing ever happened with it, so it is deleted.')).toBeVisible();
  await expect(dialog.getByText('Nothing else leads to it.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Delete it' }).click();
  await expect(page.getByText('Practice is gone; History can bring it back.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Practice/ })).toHaveCount(0);
  await page.goto('/tofix');
  expect(await page.getByRole('main').innerText()).toBe(before);

  // A caller waits in Repairs and rings off: from then on something happened with it.
  const handset = await customer(browser, lane, 'Repairs line');
  await say(handset, '204817');
  await expect(handset.getByText(/What has happened/)).toBeVisible();
  await say(handset, 'the bow is broken');
  await expect(handset.getByText('waiting for a person')).toBeVisible();
  await page.goto('/queues?queue=queue_repairs');
  await page.getByRole('button', { name: 'Remove…' }).click();
  const used = page.getByRole('dialog', { name: 'Remove Repairs' });
  await expect(used.getByText('1 contact waits in it now.')).toBeVisible();
  await expect(
    used.getByText(/is live and hands over to it: publish it with another queue first/).first(),
  ).toBeVisible();
  await choose(used.getByLabel('In its place'), 'Billing');
  await expect(
    used
      .getByRole('region', { name: 'What leads to it' })
      .getByText(/hands over to Billing/)
      .first(),
  ).toBeVisible();
  await expect(used.getByRole('button', { name: 'Retire it' })).toBeDisabled();
  await page.keyboard.press('Escape');

  // A door that somebody came by is retired, and comes back as it was.
  await handset.getByRole('button', { name: /Hang up|End/ }).click();
  await page.goto('/doors');
  await page.getByRole('button', { name: 'Repairs line' }).click();
  await page.getByRole('button', { name: 'Remove…' }).click();
  const door = page.getByRole('dialog', { name: 'Remove Repairs line' });
  await door.getByRole('button', { name: 'Retire it' }).click();
  await expect(page.getByRole('button', { name: 'Repairs line' })).toHaveCount(0);
  await page.getByText('Retired (1)').click();
  await page.getByRole('button', { name: 'Bring Repairs line back' }).click();
  await expect(page.getByRole('button', { name: /Repairs line$/ })).toBeVisible();
  await expect(page.getByText(/^Retired/)).toHaveCount(0);
});
