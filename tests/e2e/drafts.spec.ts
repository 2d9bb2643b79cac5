import type { Page } from '@playwright/test';
import { openDatabase } from '../../src/data/databasefile';
import { readFloorTime, writeFloorTime } from '../../src/data/floortime';
import type { QueuesView } from '../../src/services/queues/queuesview';
import { choose, expect, type OwnLane, test, window } from './lane';

const rest = (page: Page) => page.waitForResponse((r) => r.url().endsWith('/api/settings/keep-draft') && r.ok());
/** Opens a card of a queue, writes its name and goes back to the queue. */
async function rename(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Change what it takes' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill(name);
  await page.keyboard.press('Escape');
}
/** The server stands still while its floor's clock is moved on. */
async function later(lane: OwnLane, hours: number): Promise<void> {
  await lane.kill();
  const { db, close } = openDatabase(lane.folder, 'src/data/migrations');
  const clock = readFloorTime(db);
  if (!clock) throw new Error('the floor has no clock');
  writeFloorTime(db, { ...clock, floorAt: clock.floorAt + hours * 3_600_000 });
  close();
  await lane.start();
}
const queueNow = async (page: Page, id: string) => {
  const view = (await (await page.request.get('/api/read/queues')).json()) as QueuesView;
  return view.queues.find((q) => q.id === id);
};

test('a change that is not applied is there on another page, after a reload, a start and in another browser, until it is forgotten', async ({
  browser,
  ownLane: lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_repairs');
  const kept = rest(page);
  await rename(page, 'Repairs and tuning');
  await expect(page.getByRole('heading', { name: 'Repairs and tuning' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Repairs/ }).getByLabel('changed, not applied')).toBeVisible();
  await kept;
  await page.getByRole('link', { name: 'Groups', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Groups' })).toBeVisible();
  await page.getByRole('link', { name: 'Queues', exact: true }).last().click();
  await page.getByRole('button', { name: /^Repairs/ }).click();
  await expect(page.getByRole('heading', { name: 'Repairs and tuning' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^Repairs/ }).click();
  await expect(page.getByRole('heading', { name: 'Repairs and tuning' })).toBeVisible();
  await lane.kill();
  await lane.start();

  const other = await window(browser, lane, 'Noor Amsel', '/plans');
  await other.getByRole('link', { name: 'Repairs and tuning' }).click();
  await expect(other.getByRole('heading', { name: 'Repairs and tuning' })).toBeVisible();
  // Nobody else has it, and nothing of it counts.
  const nell = await window(browser, lane, 'Nell Ashgrove', '/queues?queue=queue_repairs');
  await expect(nell.getByRole('heading', { name: 'Repairs', exact: true })).toBeVisible();
  await other.getByRole('button', { name: 'Undo changes' }).click();
  await expect(other.getByRole('heading', { name: 'Repairs', exact: true })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^Repairs/ }).click();
  await expect(page.getByRole('heading', { name: 'Repairs', exact: true })).toBeVisible();
  await expect(page.getByLabel('changed, not applied')).toHaveCount(0);

  // One that is new waits as well.
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Winter desk');
  const begun = rest(page);
  await page.keyboard.press('Escape');
  await begun;
  await page.goto('/queues');
  await page.getByRole('button', { name: /Winter desk not added yet/ }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add the queue' }).click();
  await expect(page.getByText('Winter desk applied; it counts from the next visit on.')).toBeVisible();
  await expect(page.getByText('not added yet')).toHaveCount(0);
});

test('two change one queue: what each alone touched is in both, and where both did it is chosen part by part', async ({
  browser,
  lane,
}) => {
  const noor = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_billing');
  const nell = await window(browser, lane, 'Nell Ashgrove', '/queues?queue=queue_billing');
  const kept = rest(noor);
  await rename(noor, 'Invoices');
  await kept;
  await nell.getByRole('button', { name: 'Change after the contact' }).click();
  await nell.getByRole('dialog').getByLabel('Seconds', { exact: false }).first().fill('77');
  await nell.keyboard.press('Escape');
  await nell.getByRole('button', { name: 'Apply from the next visit' }).click();
  await expect(nell.getByText(/applied; it counts/)).toBeVisible();
  // Hers is in his as well, and his name is still his.
  await expect(noor.getByText(/77 s/).first()).toBeVisible();
  await expect(noor.getByRole('heading', { name: 'Invoices' })).toBeVisible();
  await expect(noor.getByRole('region', { name: 'Both versions' })).toHaveCount(0);
  await rename(nell, 'Accounts');
  await nell.getByRole('button', { name: 'Apply from the next visit' }).click();
  const both = noor.getByRole('region', { name: 'Both versions' });
  await expect(both.getByText('Accounts')).toBeVisible();
  await expect(both.getByText('Invoices')).toBeVisible();
  await expect(both.getByRole('button', { name: 'Go on with this' })).toBeDisabled();
  await both.getByLabel(/^Theirs/).check();
  await both.getByRole('button', { name: 'Go on with this' }).click();
  await expect(noor.getByRole('heading', { name: 'Accounts' })).toBeVisible();
  await expect(noor.getByRole('button', { name: 'Nothing changed' })).toBeDisabled();
});

test('two windows on one bot are put together line by line', async ({ browser, lane }) => {
  const noor = await window(browser, lane, 'Noor Amsel', '/bots/bot_front');
  const nell = await window(browser, lane, 'Nell Ashgrove', '/bots/bot_front');
  const line = (page: Page, n: string) => page.locator(`[id^="line-"]`).filter({ hasText: n }).first();
  const write = async (page: Page, n: string, words: string) => {
    await line(page, n).focus();
    await page.keyboard.press('Enter');
    await page.locator(':focus').fill(words);
    await page.keyboard.press('Escape');
    return page;
  };
  await write(nell, '1.1', 'Brindlewood, good day.');
  await expect(nell.getByText(/^Saved \d/)).toBeVisible();
  await write(noor, '2.1', 'Which instrument is it?');
  await expect(noor.getByText('Somebody else writes here as well. Both changes are in it.')).toBeVisible();
  await expect(noor.getByText(/^Saved \d/)).toBeVisible();
  await expect(noor.getByText('Brindlewood, good day.').first()).toBeVisible();
  // Undo takes back one's own line only.
  await noor.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(noor.getByText('Which instrument is it?')).toHaveCount(0);
  await expect(noor.getByText('Brindlewood, good day.').first()).toBeVisible();
});

test('a campaign’s changes come on their day and go by themselves; one is called off', async ({
  browser,
  ownLane: lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_newhire');
  const plan = async (note: string) => {
    await page.getByRole('button', { name: 'Later…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('It goes back by itself').check();
    await dialog.getByLabel('What for').fill(note);
    await dialog.getByRole('button', { name: 'Plan it' }).click();
    await expect(dialog).toHaveCount(0);
  };
  const before = await queueNow(page, 'queue_newhire');
  await rename(page, 'New hire, winter campaign');
  await plan('The winter campaign');
  await expect(page.getByRole('heading', { name: 'New hire', exact: true })).toBeVisible();
  await page.goto('/doors/hours');
  await page.getByLabel('Name', { exact: true }).fill('Campaign hours');
  await plan('The winter campaign');
  await page.goto('/queues/groups');
  await page.getByLabel('Name', { exact: true }).fill('Campaign group');
  await plan('Not needed after all');

  await page.goto('/plans');
  const planned = page.getByRole('region', { name: 'Planned changes' });
  await expect(planned.getByText('New hire, winter campaign')).toBeVisible();
  await expect(planned.getByText('The winter campaign')).toHaveCount(2);
  await expect(planned.getByText('Looking at that day…')).toHaveCount(0);
  await planned.getByRole('listitem').filter({ hasText: 'Not needed' }).getByRole('button').click();
  await expect(planned.getByText('Not needed after all')).toHaveCount(0);
  expect((await queueNow(page, 'queue_newhire'))?.name).toBe(before?.name);

  await later(lane, 34);
  await page.goto('/plans');
  await expect(planned.getByText('on now', { exact: true })).toHaveCount(2);
  expect((await queueNow(page, 'queue_newhire'))?.name).toBe('New hire, winter campaign');
  await later(lane, 24);
  await expect.poll(async () => (await queueNow(page, 'queue_newhire'))?.name).toBe(before?.name);
  await page.goto('/plans');
  await expect(planned.getByText('Nothing is planned')).toBeVisible();
  await page.goto('/history');
  await choose(page.getByLabel('What kind'), 'planned change');
  await expect(page.getByText('Call it off where planned changes stand.').first()).toBeVisible();
});
